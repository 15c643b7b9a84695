# frozen_string_literal: true

require_relative '../job/document'
require_relative 'cures'

module Miser
  module Signals
    # Takes a cure for the signals into the job: what is chosen, the amps it spends; the parts it takes follow
    # from it. Choosing another takes the first one's back.
    module CureChoice
      RESISTOR_ID = 'signals-resistor'

      module_function

      # @param document [Hash] @param cure [Cures::Cure, nil] nil takes it back
      # @param circuit [String] on which the signals hang @param volts [Float] of its amps
      # @return [Hash]
      def take(document, cure, circuit:, volts:)
        signals = Job::Document.part(document, 'signals').merge('remedies' => cure ? cure.keys : [],
          'loses_warning' => cure ? cure.loses_warning : false)
        loads = document['loads'].reject { |l| l['id'] == RESISTOR_ID }
        loads += [resistor(cure, circuit, volts)] if cure&.keys&.include?('resistors')
        document.merge('signals' => signals, 'loads' => loads)
      end

      # One side at a time flashes, so one side's amps count.
      def resistor(cure, circuit, volts)
        { 'id' => RESISTOR_ID, 'name' => 'Load resistors, the side in use', 'group' => 'resistor', 'role' => 'load_resistor',
          'circuit' => circuit, 'law' => 'heater', 'added' => true,
          'figures' => [{ 'id' => 'f', 'origin' => 'maker', 'amps' => cure.amps.round(3), 'volts' => volts }] }
      end
    end
  end
end
