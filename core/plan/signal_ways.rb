# frozen_string_literal: true

require_relative '../verdicts/cautions'
require_relative 'lamp_sets'
require_relative 'problem'

module Miser
  module Plan
    # The turn signals are decided together: whether a cure works hangs on every lamp in the loop, so that each way to
    # fit them is solved, and stands there with every cure that works.
    class SignalWays
      # Ways to fit the lamps that are solved; further ones are left out, the last of what fits first, which is said.
      MOST = 240

      # @param draft [Draft]
      def initialize(draft)
        @draft = draft
        @sets = LampSets.new(draft)
      end

      # @return [Array<Problem::Group>] one, or none where there are no signals
      def groups
        sets = @sets.signals
        return [] if sets.empty?

        [Problem::Group.new(key: 'signals', label: Labour::SIGNALS, options: fitted(sets).flat_map { |ways| options(ways) })]
      end

      private

      # Every way to fit the lamps of all sets.
      # @return [Array<Array>] of words, label, part for each set
      def fitted(sets)
        ways = sets.map { |lamps| @sets.ways(lamps) }
        while ways.map(&:size).reduce(1, :*) > MOST
          longest = ways.max_by(&:size)
          words, label, = longest.pop
          @draft.out(label, "more than #{MOST} ways to fit the signals: left out as the last of #{words.keys.first}’s")
        end
        ways.first.product(*ways.drop(1)).map { |list| sets.zip(list) }
      end

      def options(ways)
        words = ways.map { |_, (w, _, _)| w }.reduce(:merge)
        changed = ways.select { |_, (_, _, part)| part }
        label = changed.empty? ? "#{Labour::SIGNALS}: as they are" : changed.map { |_, (_, text, _)| text }.join('; ')
        taken = @draft.with(words)
        cures(taken, changed.empty?, label).filter_map { |cure| option(words, ways, cure, label) }
      end

      # @return [Array<Signals::Cures::Cure, nil>] those that work; nil is none, where it works without
      def cures(ticket, as_it_is, label)
        return [nil] if as_it_is
        return @draft.out(label, "its circuit is not known: #{ticket.survey.missing.first[:text]}").to_a unless ticket.survey.ready?

        plain = ticket.survey.judgement('after', cured: false).works? ? [nil] : []
        found = plain + ticket.survey.cures.ranked.select(&:works)
        @draft.out(label, 'no cure works') if found.empty?
        found
      rescue Unsolvable => e
        @draft.out(label, e.message).to_a
      end

      def option(words, ways, cure, label)
        changed = ways.select { |_, (_, _, part)| part }
        whole = words.merge('cure' => cure ? cure.keys.join('+') : 'none')
        @draft.option(whole, [label, cure&.label].compact.join('; '), notes: notes(cure)) { |t| changed.empty? ? {} : asks(t, changed, cure) }
      end

      def notes(cure)
        return [] unless cure

        [*cure.notes, *(cure.loses_warning ? [Verdicts::Cautions::TABLE.fetch('no_lamp_warning')] : [])]
      end

      def asks(ticket, changed, cure)
        each = changed.map { |lamps, _| @sets.asks(ticket, lamps) }
        { needs: each.flat_map { |a| a[:needs] } + ticket.stage('signals').needs, minutes: each.sum { |a| a[:minutes] } + cure&.minutes.to_f,
          untimed: each.flat_map { |a| a[:untimed] } + (cure && cure.minutes.nil? ? [cure.label] : []),
          once: each.flat_map { |a| a[:once] }, cuts: each.sum { |a| a[:cuts] } + (cure&.cuts || 0) }
      end
    end
  end
end
