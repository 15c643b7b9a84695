# frozen_string_literal: true

require_relative 'functions'

module Miser
  module Job
    # A lamp as a technician holds it: a place on the machine, a holder, what it does there,
    # and what was decided for it.
    class Lamp
      # Actions that put a part there.
      FITTED = %w[swap add].freeze
      TRIED = 'try'
      NOTHING = {}.freeze
      SIDES = { 'left' => 'right', 'right' => 'left' }.freeze

      # @!attribute row [Hash] the document's position
      # @!attribute loads [Array<Hash>] its functions, as the document reads them
      # @!attribute choices [Array<Hash>] what was decided, and parts held against it
      attr_reader :row, :loads, :choices

      def initialize(row, loads, choices)
        @row = row
        @loads = loads
        @choices = choices
      end

      def id = row['id']
      def name = row['name']
      def count = (row['count'] || 1).to_i
      def holder = row['holder'] || NOTHING
      def base = @base ||= holder['base']

      # @return [Hash, nil] what was decided
      def choice = @choice ||= choices.find { |c| c['action'] != TRIED }

      # @return [Array<Hash>] parts held against it and not chosen
      def tries = choices.select { |c| c['action'] == TRIED }

      # @return [Array<Hash>] choices with a part: the one fitted first
      def parts = choices.select { |c| c['part'] }.sort_by { |c| c == choice ? 0 : 1 }

      # @return [Hash, nil] the part fitted
      def part = choice && FITTED.include?(choice['action']) ? choice['part'] : nil

      # @return [Array<Hash>] what it did as it came in
      def own_loads = loads.reject { |l| l['brought_by'] }

      # @return [Array<String>] functions, in order
      def does = @does ||= own_loads.map { |l| Functions.of(l['role']) }.uniq.sort

      def head? = loads.any? { |l| l['role'].to_s.start_with?('head_') }
      def signal? = does.include?('signal')

      # @return [String, nil] left, right, centre
      def side = @side ||= row['side'] || loads.filter_map { |l| SIGNAL_SIDES[l['role']] }.first

      SIGNAL_SIDES = { 'signal_left' => 'left', 'signal_right' => 'right' }.freeze
      private_constant :SIGNAL_SIDES, :NOTHING

      # @return [Boolean] whether the other takes the same part: it does the same and has the same base
      def like?(other) = other.base == base && other.id != id && other.does == does

      # @return [Boolean] whether it is the same lamp on the machine's other side
      def mirror?(other) = side && row['end'] == other.row['end'] && SIDES[side] == other.side && like?(other)
    end
  end
end
