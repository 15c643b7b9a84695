# frozen_string_literal: true

require_relative '../job/roles'
require_relative '../draw/load'

module Miser
  module Budget
    # A load as it stands on one side of the conversion: the job's row, what it
    # draws there, and how it is marked on the rail.
    class Entry
      attr_reader :row, :load, :choice

      # @param row [Hash] member of the job's loads
      # @param load [Draw::Load]
      # @param choice [Hash, nil] the choice that put it there
      def initialize(row, load, choice = nil)
        @row = row
        @load = load
        @choice = choice
        @shares = {}
      end

      # Its part of a scenario's line, which is the same at every step that it stands in.
      # @yieldreturn [Ledger::Block, nil] worked out the first time
      # @return [Ledger::Block, nil]
      def share_of(scenario) = @shares.fetch(scenario.id) { @shares[scenario.id] = yield }

      # @param volts [Float] of its circuit, one for all its scenarios
      # @return [Array<Float>, nil] A: amps, their doubt, the meter's gain in it, the clamp's; nil where its draw is unknown
      def draw(volts)
        @draw ||= load.reason_at(volts).nil? ? [load.amps(volts), load.sigma(volts), load.gain(volts), load.clamp(volts)] : nil
      end

      def id = row['id']
      def name = row['name']

      # @return [String] by which sums know it
      def key = choice ? "#{id}.#{choice['id']}" : id
      def part_name = choice&.dig('part', 'name')
      def role = Job::Roles.named(row['role'])

      # @return [String] filament, led, engine, accessory, resistor
      def kind
        @kind ||= if row['role'] == 'load_resistor' then 'resistor'
                  elsif row['group'] != 'lamp' then row['group']
                  else load.filament? ? 'filament' : 'led'
                  end
      end

      def lit? = %w[filament led].include?(kind)

      # What it stands before it dies.
      # @param settings [Assumptions]
      # @return [Float, nil] V; nil where it does not matter
      def limit_v(settings)
        return load.document['max_v'] if load.document['max_v']

        case kind
        when 'filament' then settings[:lamp_limit_v]
        when 'led', 'accessory' then settings[:led_limit_v]
        end
      end

      # @return [Float, nil] A drawn with the key off; nil where it draws and nobody says how much
      def key_off_a
        each = load.document['key_off_a']
        each ||= 0.0 unless Job::Roles::HOT.include?(row['role'])
        each && (each * load.count)
      end
    end
  end
end
