# frozen_string_literal: true

require_relative '../draw/lamp_base'
require_relative '../job/lamp'
require_relative 'problem'

module Miser
  module Plan
    # Lamps as they are decided for: each by itself, but a lamp and the same on the machine's other side together, as
    # nobody fits two kinds of one. Of each what may go in.
    class LampSets
      # Actions that a plan leaves alone.
      HELD = %w[remove add].freeze

      # @param draft [Draft]
      def initialize(draft)
        @draft = draft
        @document = draft.as_it_came.document
      end

      # @return [Array<Array<Job::Lamp>>] of lamps that are no signals
      def plain = sets.reject { |lamps| signal?(lamps) }

      # @return [Array<Array<Job::Lamp>>] of signals and their tell-tale
      def signals = sets.select { |lamps| signal?(lamps) }

      # @return [Array<Problem::Group>]
      def groups = plain.map { |lamps| Problem::Group.new(key: lamps.first.id, label: name(lamps), options: options(lamps)) }

      # @return [String]
      def name(lamps) = lamps.size == 1 ? lamps.first.name : "#{lamps.first.name} and #{lamps.last.name[/left|right|\S+\z/]}"

      # What may be decided for a set, as words of a plan with what is said of each.
      # @return [Array<Array(Hash, String, Hash)>] words, label, part
      def ways(lamps)
        @ways ||= {}.compare_by_identity
        @ways[lamps] ||= [[lamps.to_h { |l| [l.id, 'keep'] }, "#{name(lamps)}: as it is", nil], *parts_for(lamps)]
      end

      # @param ticket [Ticket] with the part taken
      # @return [Hash] what it asks for: see Draft#option
      def asks(ticket, lamps, part)
        mine = loads(ticket, lamps.map(&:id))
        fed = @draft.fed(ticket, mine)
        fitting = minutes(ticket, lamps, part)
        { needs: needs(ticket, lamps), minutes: fitting.to_f + fed[:minutes], untimed: [*(fitting ? [] : [part['name']]), *fed[:untimed]],
          once: fed[:once], cuts: cuts(ticket, mine) }
      end

      private

      # Minutes of a part in its lamps, with what its fitting takes; nil where nobody keeps them.
      def minutes(ticket, lamps, part)
        return 0.0 unless part

        judged = ticket.headlights.find { |h| h.lamp.id == lamps.first.id }&.chosen
        each = judged ? judged.minutes : part['minutes']
        each && (each * lamps.sum(&:count))
      end

      # @return [Array<Buying::Need>] of its lamps
      def needs(ticket, lamps)
        ids = lamps.map(&:id)
        own = %w[choose headlight].flat_map { |key| ticket.stage(key).needs }.select { |n| n.why.all? { |w| ids.include?(w.subject) } }
        own + @draft.feed_needs(ticket, loads(ticket, ids))
      end

      # @return [Array<String>] loads of some lamps
      def loads(ticket, ids) = ticket.document.loads.select { |l| ids.include?(Job::Document.lamp_id(l)) }.map { |l| l['id'] }

      # Places where their feeds open insulation.
      def cuts(ticket, mine)
        ticket.wiring.scheme.plan.feeds.select { |f| mine.include?(f.load_id) }.sum { |f| f.kind.cuts }
      end

      def sets
        @sets ||= begin
          free = @document.lamps.select { |l| l.own_loads.any? && !HELD.include?(l.choice&.fetch('action')) }
          free.each_with_object([]) do |lamp, found|
            pair = found.find { |lamps| lamps.size == 1 && lamps.first.mirror?(lamp) && lamps.first.count == lamp.count }
            pair ? pair << lamp : found << [lamp]
          end
        end
      end

      def signal?(lamps) = lamps.any? { |l| l.signal? || l.own_loads.any? { |row| row['role'] == 'telltale' } }

      # Parts that fit, or fit with work, in every lamp of the set.
      def parts_for(lamps)
        tried, ranked = @draft.as_it_came.offers(lamps.first, @draft.parts, nil)
        (tried + ranked).filter_map { |offer| way(lamps, offer) }
      end

      def way(lamps, offer)
        label = "#{name(lamps)}: #{offer.part['name']}"
        fit = worst(lamps, offer)
        return if fit.verdict == 'no'
        return @draft.out(label, fit.reasons.join('; ')) if fit.verdict == 'unknown' && !stands?(lamps, offer)
        return @draft.out(label, 'what it draws is not known') unless offer.option.known?

        id = offer.part['shelf_id'] || offer.part['id']
        return [{ lamps.first.id => "choice/#{offer.choice}" }, label, offer.part] if offer.choice && lamps.size == 1
        return @draft.out(label, 'it is not on the shelf, and one side alone has it') unless id

        [lamps.to_h { |l| [l.id, "part/#{id}"] }, label, offer.part]
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
          @draft.option(words, label, **traits(lamps, part)) { |t| part ? asks(t, lamps, part) : {} }
        end
      end

      # What a headlamp's part is besides: its light, whether it may blind, its marks, the heat that goes with a filament.
      def traits(lamps, part)
        return {} unless lamps.first.head?

        count = lamps.sum(&:count)
        low = lamps.first.own_loads.find { |l| l['role'] == 'head_low' }
        unless part
          return { light: low ? filament_lumens(lamps.first) * count : 0.0, heat: filament?(lamps.first) ? count : 0,
                   marked: true }
        end

        { light: low ? lumens(part) * count : 0.0, glare: part['kind'] == 'bulb', marked: !part['marks'].nil? && part['marks'] != 'none' }
      end

      def lumens(part) = (part['functions'] || []).filter_map { |f| f['lumens'] if f['does'] == 'head_low' }.first.to_f

      def filament_lumens(lamp) = lamp.base ? (Draw::LampBase.named(lamp.base).filament('low').lumens || 0).to_f : 0.0

      def filament?(lamp) = lamp.own_loads.all? { |row| @draft.as_it_came.budget.as_is(row).filament? }
    end
  end
end
