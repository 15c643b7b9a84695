# frozen_string_literal: true

require_relative '../feeds/lines'

module Miser
  module Wiring
    # The switches of a machine and every way they can stand. A state is the sorted list of those that are on.
    class Switches
      # @!attribute key [String] @!attribute label [String]
      Switch = Struct.new(:key, :label, keyword_init: true)
      # In the order of a hand going over the machine.
      USUAL = { 'key' => 'key', 'lights' => 'lights', 'high' => 'high beam', 'left' => 'left', 'right' => 'right', 'brake' => 'brake',
                'horn' => 'horn' }.freeze
      COIL_KEY = 'engine running'
      # Never both at once.
      APART = %w[left right].freeze
      # More than these and a table of them is no table.
      MOST_OWN = 4

      attr_reader :all

      # @param needed [Array<String>] of USUAL that something hangs on @param own [Array<Hash>] switches added: id, name
      # @param with_key [Boolean] whether the lights come on with the key
      # @param coil [Boolean] whether a coil feeds it all, so that the engine is the key
      def initialize(needed:, own: [], with_key: false, coil: false)
        @with_key = with_key
        usual = USUAL.slice('key', *(with_key ? [] : %w[lights]), *needed)
        usual = usual.merge('key' => COIL_KEY) if coil
        @all = usual.map { |key, label| Switch.new(key: key, label: label) } +
               own.first(MOST_OWN).map { |s| Switch.new(key: Switches.own(s['id']), label: s['name']) }
      end

      # @param id [String] of a switch that was added @return [String]
      def self.own(id) = "switch:#{id}"

      def keys = @keys ||= all.map(&:key)

      # @return [Array<Array<String>>] every state, the empty one first
      def states
        @states ||= (0...(1 << keys.size)).map { |n| keys.each_index.select { |i| n[i] == 1 }.map { |i| keys[i] } }
                                          .reject { |s| (APART - s).empty? }.map { |s| s.sort.freeze }
      end

      # Switches as a person lists them, joined by plus signs or commas.
      # @param text [String, nil] @return [Array<String>]
      def self.listed(text) = text.to_s.split(/[+, ]+/).reject(&:empty?)

      # @param on [Array<String>] @return [Array<String>] those that it has, one of a pair that stands apart
      def state(on)
        known = keys & on
        known -= [APART.last] if (APART - known).empty?
        known.sort
      end

      # @param line [Feeds::Lines::Line] @param state [Array<String>]
      # @return [Boolean]
      def live?(line, state)
        on = @with_key && state.include?('key') ? state + ['lights'] : state
        (line.on - on).empty? && !line.off.intersect?(on)
      end

      # A state in words.
      # @return [String]
      def words(state) = state.empty? ? 'everything off' : all.select { |s| state.include?(s.key) }.map(&:label).join(', ')

      # What a set of states has in common, in words: what is on in all of them, what is off in all.
      # @param set [Array<Array<String>>] not empty
      # @return [String, nil] nil where that tells of other states too
      def common(set)
        on = set.reduce(:&)
        off = keys - set.reduce(:|)
        return if states.count { |s| (on - s).empty? && !off.intersect?(s) } != set.size

        said = all.filter_map { |s| on.include?(s.key) ? "#{s.label} on" : ("#{s.label} off" if off.include?(s.key)) }
        said.empty? ? 'always' : "with #{said.join(', ')}"
      end
    end
  end
end
