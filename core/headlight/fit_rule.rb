# frozen_string_literal: true

module Miser
  module Headlight
    # One question of whether a part fits the housing: what it needs measured, what it
    # finds. A missing measurement is never a silent pass.
    class FitRule
      # @!attribute verdict [String] fits, work, no, unknown
      # @!attribute text [String] @!attribute minutes [Float] it adds
      # @!attribute part [Hash, nil] name and cents of what it pulls into the order
      # @!attribute caution [String, nil] @!attribute clearance [Float, nil] m to spare; below nothing it clashes
      Finding = Struct.new(:rule, :label, :verdict, :text, :minutes, :part, :caution, :clearance, keyword_init: true)

      # Housing and part as measured, in one place for the rules to read.
      Pair = Struct.new(:housing, :part, :winter, keyword_init: true) do
        def h(key) = housing[key]
        def p(key) = part[key]
      end

      attr_reader :key, :label, :kinds, :needs

      # @param kinds [Array<String>] bulb, unit, projector
      # @param needs [Hash{String=>String}] places wanted, as housing/key or part/key, and what to measure
      def initialize(key, label, kinds, needs, &judge)
        @key = key
        @label = label
        @kinds = kinds
        @needs = needs
        @judge = judge
      end

      # @param pair [Pair]
      # @return [Finding]
      def judge(pair)
        missing = needs.reject { |place, _| given?(pair, place) }.values
        return finding(verdict: 'unknown', text: "measure #{missing.join(' and ')}") if missing.any?

        finding(**@judge.call(pair))
      end

      private

      def given?(pair, place)
        whose, key = place.split('/')
        !pair[whose][key].nil?
      end

      def finding(verdict:, text:, minutes: 0.0, part: nil, caution: nil, clearance: nil)
        Finding.new(rule: key, label: label, verdict: verdict, text: text, minutes: minutes, part: part, caution: caution, clearance: clearance)
      end
    end
  end
end
