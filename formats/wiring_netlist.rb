# frozen_string_literal: true

require_relative '../core/wiring/look'

module Miser
  module Formats
    # The wiring of one state as a SPICE netlist: an operating point that any circuit simulator of that family solves.
    module WiringNetlist
      module_function

      # @param look [Wiring::Look] @param name [String] the machine's
      # @param flash [Boolean] with the flasher's contact closed
      # @return [String]
      def write(look, name:, flash: true)
        settled = flash ? look.on : look.off
        network = Network::Solver.new(settled.circuit.elements)
        network.spice("#{name.gsub(/[^\w .-]/,
          '_')}: #{look.state.empty? ? 'everything off' : look.state.join(' ')}#{', between flashes' unless flash}")
      end
    end
  end
end
