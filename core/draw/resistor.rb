# frozen_string_literal: true

require_relative 'law'

module Miser
  module Draw
    # An LED string behind a resistor: nothing below the string's forward volts,
    # a straight line above.
    class Resistor < Law
      declare 'resistor', label: 'LED string and resistor', used_for: 'cheap LED lamps and strips', source: 'common practice'

      # @param forward_v [Float] volts at which it starts to conduct, below the reference
      def initialize(volts:, amps:, forward_v:, **)
        super(volts: volts, amps: amps, min_v: forward_v)
        raise ArgumentError, "forward volts must lie below #{volts} V, got #{forward_v}" unless forward_v.to_f.between?(0,
          volts.to_f - 0.01)
      end

      def anchored(volts, amps) = self.class.new(volts: volts, amps: amps, forward_v: min_v)

      def ohms = (volts - min_v) / amps

      def conductance = amps / (volts - min_v)

      def current(at) = at <= min_v ? 0.0 : (at - min_v) * conductance

      def sensitivity(at) = at <= min_v ? 0.0 : at / (at - min_v)
    end
  end
end
