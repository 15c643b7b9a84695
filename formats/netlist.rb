# frozen_string_literal: true

require_relative '../core/signals/harness'

module Miser
  module Formats
    # The signal circuit of one state as a SPICE netlist: an operating point that any
    # circuit simulator of that family solves.
    module Netlist
      module_function

      # @param harness [Signals::Harness] @param state [Signals::State]
      # @param name [String] the machine's
      # @return [String]
      def write(harness, state, name:)
        Signals::LoopCircuit.new(harness, state).circuit.spice("#{name.gsub(/[^\w .-]/, '_')}: #{state}")
      end
    end
  end
end
