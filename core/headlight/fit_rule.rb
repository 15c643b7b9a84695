# frozen_string_literal: true

require_relative '../assumptions'
require_relative '../figure'
require_relative '../length'
require_relative '../parts/catalogue'

module Miser
  module Headlight
    # One question of whether a part fits the housing: what it needs measured, what it
    # takes for granted, what it finds. A missing measurement is never a silent pass.
    class FitRule
      # @!attribute verdict [String] fits, work, no, unknown
      # @!attribute text [String] @!attribute minutes [Float, nil] it adds; nil where nobody keeps the figure
      # @!attribute part [Parts::Catalogue::Item, nil] what it pulls into the order
      # @!attribute caution [String, nil]
      # @!attribute spare [Figure, nil] m to spare, below nothing it clashes; nil where the rule measures no length
      Finding = Struct.new(:rule, :label, :verdict, :text, :minutes, :part, :caution, :spare, keyword_init: true) do
        # @return [Float, nil] m
        def clearance = spare&.value

        # @return [Boolean] whether it clashes
        def wanting? = clearance ? clearance.negative? : false
      end

      # Housing and part as measured, in one place for the rules to read.
      # @!attribute settings [Assumptions] @!attribute units [String] metric or us, for what is said
      # @!attribute feed [String] what feeds the lamp: dc, ac, bus @!attribute catalogue [Parts::Catalogue]
      Pair = Struct.new(:housing, :part, :winter, :feed, :settings, :units, :catalogue, keyword_init: true) do
        def h(key) = housing[key]
        def p(key) = part[key]
        def a(key) = settings[key]

        # @return [String] a small length, without its sign
        def say(metres) = Length.small(metres.abs, units)
      end

      attr_reader :key, :label, :kinds, :needs, :assumes

      # @param kinds [Array<String>] bulb, unit, projector
      # @param needs [Hash{String=>String}] places wanted, as housing/key or part/key, and what to measure
      # @param assumes [Array<String>] settings it rests on
      # @param formula [String, nil] of what is to spare
      def initialize(key, label, kinds, needs, assumes: [], formula: nil, &judge)
        @key = key
        @label = label
        @kinds = kinds
        @needs = needs
        @assumes = assumes
        @formula = formula
        @judge = judge
      end

      # @param pair [Pair]
      # @return [Finding]
      def judge(pair)
        missing = needs.reject { |place, _| given?(pair, place) }.values
        return finding(verdict: 'unknown', text: "measure #{missing.join(' and ')}") if missing.any?

        found = @judge.call(pair)
        finding(**found.except(:clearance, :inputs, :task, :part), minutes: found[:task] ? pair.catalogue.minutes(found[:task]) : 0.0,
          part: found[:part] && pair.catalogue.item(found[:part]),
          spare: found[:clearance] &&
            spare(pair, found[:clearance], found.fetch(:inputs, [])))
      end

      private

      def given?(pair, place) = !at(pair, place).nil?

      def at(pair, place)
        whose, key = place.split('/')
        pair[whose][key]
      end

      def finding(verdict:, text:, minutes: 0.0, part: nil, caution: nil, spare: nil)
        Finding.new(rule: key, label: label, verdict: verdict, text: text, minutes: minutes, part: part, caution: caution, spare: spare)
      end

      # @param more [Array<Input>] what went in beside the needs
      def spare(pair, clearance, more)
        Figure.new(clearance, 'm', assumed: assumes.any?) do
          rows = needs.filter_map do |place, what|
            at(pair,
              place).then do |v|
              Input.new(name: upper(what), value: v, unit: 'm', origin: 'measured') if v.is_a?(Numeric)
            end
          end
          Working.new(title: "#{label}: to spare", formula: @formula,
            inputs: rows + more + assumes.map { |name| pair.settings.input(name) }, source: 'common practice',
            notes: ['Below nothing, the part clashes.'])
        end
      end

      def upper(text) = text.sub(/\A(the|its) /, '').then { |t| t[0].upcase + t[1..] }
    end
  end
end
