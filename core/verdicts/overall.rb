# frozen_string_literal: true

require_relative '../budget/budget'

module Miser
  module Verdicts
    # What the whole budget comes to after the change, in a sentence: what owes first,
    # then what can't be called, then what is not known. Only where all is known and
    # keeps is it said to keep.
    class Overall
      # @param budget [Budget::Budget] @param odd [Array<String>] loads whose reading looks mistyped
      def initialize(budget, odd: [])
        @odd = odd
        @lines = budget.lines('after').select { |l| l.scenario.running? }
        @by = @lines.group_by { |l| l.verdict || 'unknown' }
      end

      # @return [String] owes, too_close, unknown, keeps
      def kind = @lines.empty? ? 'unknown' : %w[owes too_close unknown].find { |k| @by.key?(k) } || 'keeps'

      # @return [String]
      def headline
        case kind
        when 'owes' then "Owes: #{names('owes')}."
        when 'too_close' then "Too close to call: #{names('too_close')}."
        when 'keeps' then 'Keeps in every scenario.'
        else not_known
        end
      end

      # @return [Array<String>] what else is to be said, after the headline
      def notes
        close = "Too close to call: #{names('too_close')}." if kind == 'owes' && @by['too_close']
        unknown = "Not known: #{names('unknown')}." if @by['unknown'] && kind != 'unknown'
        keeps = "Keeps: #{names('keeps')}." if @by['keeps'] && kind == 'unknown'
        [rests, close, unknown, keeps].compact
      end

      private

      def rests = @odd.any? ? "This rests on a reading that looks mistyped: #{@odd.uniq.join(', ')}." : nil

      def names(verdict) = @by.fetch(verdict).map { |l| l.scenario.name }.uniq.join('; ')

      def not_known
        return 'No scenario with the engine running.' if @lines.empty?
        return "Not known yet. #{@lines.first.keeps.reason}" unless @by['keeps']

        "Not known: #{names('unknown')}. #{@by['unknown'].first.keeps.reason}"
      end
    end

    # The speed above which a machine keeps, before and after, in a sentence.
    module BreakEven
      module_function

      # @param before [Budget::Line, nil] @param after [Budget::Line, nil] of one scenario and circuit
      # @return [String, nil]
      def sentence(before, after)
        return unless after&.scenario&.running?

        old, new = [before, after].map { |l| l&.break_even }
        return "Break-even here: #{new.reason}." unless new.known?
        return format('Break-even here: %d rpm as it came in, %d rpm after.', old.value.round, new.value.round) if old&.known?

        format('Break-even here at %<rpm>d rpm; as it came in, %<why>s.', rpm: new.value.round, why: old&.reason || 'none')
      end
    end
  end
end
