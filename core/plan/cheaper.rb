# frozen_string_literal: true

require_relative '../budget/verdict'
require_relative '../buying/cents'

module Miser
  module Plan
    # Why the best plan is not cheaper: the dearest compromise that costs less than it, where that falls short, and the
    # reading that would settle it where it is only too close to call.
    # @!attribute key [String, nil] the plan, nil where none is cheaper @!attribute text [String] @!attribute reading [String, nil]
    Cheaper = Struct.new(:key, :text, :reading, keyword_init: true) do
      # @param best [Outcome] @param others [Array<Outcome>] compromises @param keeps [Array<Integer>] lines that must keep
      # @return [Cheaper]
      def self.of(best, others, keeps)
        below = others.select { |o| o.found.cents < best.found.cents }.max_by { |o| o.found.cents }
        return new(text: 'Nothing costs less: no way to leave anything out is open.') unless below

        costs = "#{Buying::Cents.words(below.total_cents)} costs less, but"
        poor = keeps.reject { |i| below.verdict(i) == 'keeps' }.min_by { |i| below.keep(i)&.value || 0.0 }
        return new(key: below.key, text: "#{costs} #{below.against(keeps) || 'it is no better otherwise'}.") unless poor

        new(key: below.key, text: "#{costs} #{below.line_words(poor)}.", reading: below.reading(poor))
      end
    end
  end
end
