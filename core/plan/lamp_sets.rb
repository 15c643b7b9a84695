# frozen_string_literal: true

require_relative '../job/pairs'
require_relative 'labour'
require_relative 'light'
require_relative 'problem'

module Miser
  module Plan
    # Lamps as they are decided for, and of each what may go in.
    class LampSets
      # @param draft [Draft]
      def initialize(draft)
        @draft = draft
        @pairs = Job::Pairs.new(draft.as_it_came.document)
      end

      # @return [Array<Array<Job::Lamp>>] of lamps that are no signals
      def plain = @plain ||= @pairs.plain

      # @return [Array<Array<Job::Lamp>>] of signals and their tell-tale
      def signals = @signals ||= @pairs.signals

      # @return [Array<Problem::Group>]
      def groups = plain.map { |lamps| Problem::Group.new(key: lamps.first.id, label: Job::Pairs.called(lamps), options: options(lamps)) }

      # What may be decided for a set, as words of a plan with what is said of each.
      # @return [Array<Array(Hash, String, Hash)>] words, label, part
      def ways(lamps)
        @ways ||= {}.compare_by_identity
        @ways[lamps] ||= [[lamps.to_h { |l| [l.id, 'keep'] }, "#{Job::Pairs.called(lamps)}: as it is", nil], *parts_for(lamps)]
      end

      # @param ticket [Ticket] with the part taken
      # @return [Hash] what it asks for: see Draft#option
      def asks(ticket, lamps)
        mine = ticket.document.loads_of(lamps.map(&:id))
        work = Labour.new(ticket).of(ids_of(ticket, lamps))
        { needs: needs(ticket, lamps), minutes: work.minutes, untimed: work.untimed, once: @draft.boxes(ticket, mine),
          cuts: cuts(ticket, mine) }
      end

      private

      # The same lamps as they are with it taken.
      def ids_of(ticket, lamps) = lamps.map { |l| ticket.document.lamp(l.id) }

      # @return [Array<Buying::Need>] of its lamps
      def needs(ticket, lamps)
        ids = lamps.map(&:id)
        own = %w[choose headlight].flat_map { |key| ticket.stage(key).needs }.select { |n| n.why.all? { |w| ids.include?(w.subject) } }
        own + @draft.feed_needs(ticket, ticket.document.loads_of(ids))
      end

      # Places where their feeds open insulation.
      def cuts(ticket, mine)
        ticket.wiring.scheme.plan.feeds.select { |f| mine.include?(f.load_id) }.sum { |f| f.kind.cuts }
      end

      # Parts that fit, or fit with work, in every lamp of the set.
      def parts_for(lamps)
        tried, ranked = @draft.as_it_came.offers(lamps.first, @draft.parts, nil)
        (tried + ranked).filter_map { |offer| way(lamps, offer) }
      end

      def way(lamps, offer)
        label = "#{Job::Pairs.called(lamps)}: #{offer.part['name']}"
        fit = worst(lamps, offer)
        return if fit.verdict == 'no'
        return @draft.out(label, fit.reasons.join('; ')) if fit.verdict == 'unknown' && !stands?(lamps, offer)
        return @draft.out(label, fit.light.worst.text) if fit.light.unsaid?
        return @draft.out(label, 'what it draws is not known') unless offer.option.known?

        id = offer.part['shelf_id'] || offer.part['id']
        return [{ lamps.first.id => "choice/#{offer.choice}" }, label, offer.part] if offer.choice && lamps.size == 1
        return @draft.out(label, 'it is not on the shelf, and one side alone has it') unless id && there?(lamps, id)

        [lamps.to_h { |l| [l.id, "part/#{id}"] }, label, offer.part]
      end

      # A part may have gone from the shelf since it was held against a lamp: it is there where every lamp of the set has it.
      def there?(lamps, id)
        on_shelf = @draft.parts.any? { |part| part['id'] == id }
        on_shelf || lamps.all? { |l| l.choices.any? { |c| c['part'] && c['part']['shelf_id'] == id } }
      end

      # The two sides' holders may differ: what counts is where it fits worse.
      def worst(lamps, offer)
        others = lamps.drop(1).flat_map do |l|
          @draft.as_it_came.offers(l, [offer.part.except('shelf_id').merge('id' => offer.part['shelf_id'] || offer.part['id'])], nil).last
        end
        [offer, *others].map(&:fit).max_by { |fit| Shelf::Fit::ORDER.fetch(fit.verdict) }
      end

      # What was decided for it already is thought over once more, though a check waits for a measurement.
      def stands?(lamps, offer)
        chosen = @draft.ticket.document.lamp(lamps.first.id)&.choice
        !chosen.nil? && chosen['id'] == offer.choice
      end

      def options(lamps)
        ways(lamps).filter_map do |words, label, part|
          @draft.option(words, label, **traits(lamps, part)) { |t| part ? asks(t, lamps) : {} }
        end
      end

      # What a headlamp's part is besides: its light, whether it may blind, its marks, the heat that goes with a filament.
      def traits(lamps, part)
        return {} unless lamps.first.head?

        light = lamps.sum { |l| Light.lumens(l, part) }
        return { light: light, heat: filament?(lamps.first) ? lamps.sum(&:count) : 0, marked: true } unless part

        { light: light, glare: Light.blinds?(part), marked: Light.marked?(part) }
      end

      def filament?(lamp) = lamp.own_loads.all? { |row| @draft.as_it_came.budget.as_is(row).filament? }
    end
  end
end
