# frozen_string_literal: true

require_relative 'template'

module Miser
  module Job
    # Larger edits that a rule of the trade shapes: another electrical system, the
    # engine's own loads offered. Each gives a new document.
    module Reshape
      ON_COIL = %w[head_low head_high].freeze

      module_function

      # Circuits of the new system; those of the same name keep what was entered.
      # On a mixed machine the headlamp goes to the coil, the rest to the battery.
      # @return [Hash]
      def system(document, system)
        old = document['circuits'].to_h { |c| [c['id'], c] }
        circuits = Template.circuits(system).map { |c| old[c['id']] || c }
        ids = circuits.map { |c| c['id'] }
        loads = document['loads'].map do |load|
          wanted = system == 'mixed' && ON_COIL.include?(load['role']) ? 'lighting' : 'main'
          load.merge('circuit' => ids.include?(wanted) ? wanted : ids.first)
        end
        document.merge('system' => system, 'circuits' => circuits, 'loads' => loads)
      end

      # Speeds where none are entered, and the engine's own loads where it has none.
      # @param kind [String] engine kind
      # @yieldreturn [String] a fresh id
      # @return [Hash]
      def engine(document, kind, &id)
        offered = EngineKinds::BY_KEY.fetch(kind)
        speeds = { 'idle_rpm' => offered.idle_rpm, 'cruise_rpm' => offered.cruise_rpm, 'redline_rpm' => offered.redline_rpm }
        machine = speeds.merge(document['machine']).merge('engine' => kind)
        circuit = document['circuits'].find { |c| c['kind'] == 'dc' } || document['circuits'].first
        has = document['loads'].select { |l| l['group'] == 'engine' }.map { |l| l['role'] }
        fresh = Template.engine_loads(kind, circuit: circuit['id'], &id).reject { |l| has.include?(l['role']) }
        document.merge('machine' => machine, 'loads' => fresh + document['loads'])
      end
    end
  end
end
