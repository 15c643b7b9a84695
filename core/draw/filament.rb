# frozen_string_literal: true

require_relative 'law'

module Miser
  module Draw
    # Tungsten: resistance rises with heat, so current follows volts only weakly.
    # Exponents: IES Lighting Handbook, filament lamps (values from memory:
    # watts 1.55 to 1.58, lumens 3.38, life -13.1).
    class Filament < Law
      declare 'filament', label: 'Filament', exponent: 0.55, drifts: false, used_for: 'halogen and incandescent lamps',
        source: 'IES Lighting Handbook, filament exponents, not checked against its text'
      LIGHT = 3.4
      # A cold filament has about a twelfth of its hot resistance: common practice.
      COLD = 1.0 / 12
      LIFE = -13.0

      def current(at)
        return 0.0 if at <= 0

        # R = R_ref · (V/V_ref)^0.45, which is I ∝ V^0.55, but never under the cold one.
        ratio = (at / volts)**(1 - exponent)
        at * amps / (volts * [ratio, COLD].max)
      end

      def light(at, of:) = of.positive? && at >= 0 ? (at / of)**LIGHT : nil

      def life(at, of:) = at.positive? && of.positive? ? (at / of)**LIFE : nil
    end
  end
end
