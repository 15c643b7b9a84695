# frozen_string_literal: true

module Miser
  module Signals
    # One thing that was looked at, and how likely it is seen so where something else is the case.
    class Observation
      # In an order in which neighbours are easily taken for each other.
      LOOKS = %w[dark ghost dim steady flashes].freeze
      RATES = %w[none steady slow normal fast].freeze
      # V at a lamp, lit, against a good one's.
      VOLTS = %w[none low less good].freeze
      VOLT_WORDS = { 'good' => 'as at a good one', 'less' => 'up to 0.7 V less', 'low' => 'up to 3 V less', 'none' => 'hardly any' }.freeze
      # V less than that, up to which it is called so.
      VOLT_LIMITS = { 'good' => 0.15, 'less' => 0.7, 'low' => 3.0 }.freeze
      SCALES = { 'lamps' => LOOKS, 'lights' => LOOKS, 'telltale' => LOOKS, 'rate' => RATES, 'volts' => VOLTS }.freeze
      YES_NO = [true, false].freeze
      # Chance of seeing rightly, of one step off, of anything else: common sense, assumed.
      RIGHT = 0.9
      NEAR = 0.08
      WRONG = 0.01
      # Of what nobody thought of, the share that still looks as it should: assumption.
      AS_WHOLE = 0.5
      # Kinds that are one in a state; kinds of which each lamp has one.
      SINGLE = %w[telltale telltale_fast afterglow rate fuse].freeze
      EACH = %w[lamps lights volts].freeze

      # @return [String] command: what was commanded; housing or checks
      # @return [String] kind: lamps, lights, volts, telltale, telltale_fast, afterglow, rate, fuse, works_open, check
      # @return [String, nil] id: of the lamp, light or fault
      # @return [String, Boolean, nil] value: what was seen; nil where nobody has looked yet
      attr_reader :command, :kind, :id, :value

      def initialize(command, kind, id, value = nil)
        @command = command
        @kind = kind
        @id = id
        @value = value
      end

      # @param seen [Hash] command => { 'lamps' => {id => look}, 'lights' => {id => look}, 'volts' => {id => word}, 'telltale' => look,
      #   'telltale_fast', 'afterglow', 'fuse' => Boolean, 'rate' => word }; 'housing' => { 'works_open' => Boolean };
      #   'checks' => { id of a fault's place => Boolean }. All may be missing.
      # @return [Array<Observation>]
      def self.all(seen)
        seen.flat_map do |command, s|
          next s.map { |id, found| new(command, 'check', id, found) } if command == 'checks'
          next s.map { |kind, found| new(command, kind, nil, found) } if command == 'housing'

          EACH.flat_map { |kind| (s[kind] || {}).map { |id, found| new(command, kind, id, found) } } +
            SINGLE.filter_map { |kind| new(command, kind, nil, s[kind]) unless s[kind].nil? }
        end
      end

      # @param seen [Hash] @param known [Array<String>] ids of lamps and lights there are
      # @return [Array<String>] ids of what is not there
      def self.strangers(seen, known) = all(seen).select { |o| EACH.include?(o.kind) }.map(&:id).uniq - known

      # @param volts [Float] at the lamp @param good [Float] where nothing is wrong
      # @return [String] of VOLTS
      def self.volts_word(volts, good) = VOLT_LIMITS.find { |_, most| good - volts <= most }&.first || 'none'

      # Where it is looked at, whatever was seen.
      def place = [command, kind, id]

      # @param predicted [String, Boolean, nil] as some fault has it; nil where that can't be told
      # @return [Float] chance of seeing what was seen
      def chance(predicted)
        return NEAR if predicted.nil?
        return RIGHT if predicted == value

        beside?(predicted) ? NEAR : WRONG
      end

      # The same where nobody knows what is wrong: it is as it should be, or anything.
      # @param whole [String, Boolean, nil] as it is where nothing is wrong
      # @return [Float]
      def anyhow(whole) = (AS_WHOLE * chance(whole)) + ((1 - AS_WHOLE) / SCALES.fetch(kind, YES_NO).size)

      private

      def beside?(predicted)
        one, other = [predicted, value].map { |v| SCALES[kind]&.index(v) }
        one && other && (one - other).abs == 1
      end
    end
  end
end
