# frozen_string_literal: true

require_relative 'law'

module Miser
  module Draw
    # Tungsten: resistance rises with heat, so current follows volts only weakly.
    # Exponents: IES Lighting Handbook, filament lamps (values from memory:
    # watts 1.55 to 1.58, lumens 3.38, life -13.1).
    class Filament < Law
      declare 'filament', label: 'Filament', exponent: 0.55, used_for: 'halogen and incandescent lamps',
                          source: 'IES Lighting Handbook, filament exponents (values from memory)'
      LIGHT = 3.4
      LIFE = -13.0

      def light(at, of:) = of.positive? && at >= 0 ? (at / of)**LIGHT : nil

      def life(at, of:) = at.positive? && of.positive? ? (at / of)**LIFE : nil
    end
  end
end
