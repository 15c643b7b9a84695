# frozen_string_literal: true

require_relative '../volts'
require_relative 'roles'
require_relative 'systems'
require_relative 'engine_kinds'

module Miser
  module Job
    # New job documents and the parts of one, with the shipped scenarios.
    module Template
      VERSION = 2

      SCENARIOS = [
        { 'id' => 'idle_night', 'name' => 'Idle at a light, night', 'engine' => 'running', 'speed' => 'idle' },
        { 'id' => 'slow_trail', 'name' => 'Slow trail', 'engine' => 'running', 'speed' => 'slow' },
        { 'id' => 'cruise_day', 'name' => 'Cruise by day', 'engine' => 'running', 'speed' => 'cruise' },
        { 'id' => 'cruise_night', 'name' => 'Cruise by night, high beam', 'engine' => 'running', 'speed' => 'cruise' },
        { 'id' => 'all_on', 'name' => 'All accessories on', 'engine' => 'running', 'speed' => 'cruise' },
        { 'id' => 'key_on', 'name' => 'Engine off, key on', 'engine' => 'key_on' },
        { 'id' => 'parked', 'name' => 'Parked, key off', 'engine' => 'parked' }
      ].freeze

      module_function

      # @param id [String] @param name [String] machine's name @param system [String]
      # @return [Hash] a valid, empty job document
      def job(id:, name:, system: 'battery_dc', assumptions: {})
        { 'format' => 'miser-job', 'version' => VERSION, 'id' => id, 'name' => name, 'system' => system, 'machine' => {},
          'circuits' => circuits(system), 'bench' => {}, 'positions' => [], 'loads' => [], 'readings' => [], 'choices' => [],
          'scenarios' => scenarios, 'ride' => [], 'assumptions' => assumptions }
      end

      # @return [Array<Hash>]
      def circuits(system)
        Systems::BY_KEY.fetch(system).circuits.map do |id, kind|
          circuit = { 'id' => id, 'kind' => kind, 'name' => Systems::CIRCUIT_NAMES[id], 'alternator' => { 'points' => [] },
                      'regulator' => { 'fitted' => true } }
          kind == 'dc' ? circuit.merge('battery' => {}) : circuit
        end
      end

      # @return [Array<Hash>]
      def scenarios
        SCENARIOS.map do |scenario|
          duties = Roles::TABLE.to_h { |role| [role.key, role.duties[scenario['id']].to_f] }
          scenario.merge('duties' => duties.reject { |_, duty| duty.zero? }, 'overrides' => {})
        end
      end

      # The engine's own loads, as offered.
      # @param kind [String] engine kind
      # @yieldreturn [String] a fresh id
      # @return [Array<Hash>]
      def engine_loads(kind, circuit: 'main')
        EngineKinds::BY_KEY.fetch(kind).loads.map do |role, amps|
          { 'id' => yield, 'name' => Roles.named(role).label, 'group' => 'engine', 'role' => role, 'circuit' => circuit,
            'figures' => [{ 'id' => yield, 'origin' => 'default', 'amps' => amps, 'volts' => Volts::CHARGING }] }
        end
      end
    end
  end
end
