# frozen_string_literal: true

require_relative '../errors'
require_relative 'laws'

module Miser
  module Draw
    # Names a load's law from its draw at two voltages: α = ln(I2/I1) / ln(V2/V1).
    class TwoVoltageTest
      # What the exponent is for each law, and how far copies of it stray.
      SPREAD = 0.12
      EXPECTED = %w[filament driver regulated heater].to_h { |key| [key, Law.named(key).exponent] }.freeze
      # V apart, at the least, or the meter's own error is all that is seen.
      LEAST_V = 0.3

      attr_reader :exponent, :sigma, :law, :confidence, :forward_v

      # @param first [Array(Float, Float)] volts, amps
      # @param second [Array(Float, Float)] volts, amps
      # @param amps_sigma [Float] relative standard uncertainty of either reading's amps
      # @param volts_sigma [Float] standard uncertainty of either voltage, V
      # @raise [NothingDrawn, VoltagesTooClose] where the two points can't tell a law
      def initialize(first, second, amps_sigma: 0.005, volts_sigma: 0.02)
        (v1, i1), (v2, i2) = [first.map(&:to_f), second.map(&:to_f)].sort
        raise NothingDrawn unless [v1, v2, i1, i2].all?(&:positive?)
        raise VoltagesTooClose.new(low: v1, high: v2, least: LEAST_V) if v2 - v1 < LEAST_V

        span = Math.log(v2 / v1)
        @exponent = Math.log(i2 / i1) / span
        volts_rel = Math.hypot(volts_sigma / v1, volts_sigma / v2)
        @sigma = Math.sqrt((2 * (amps_sigma**2)) + ((@exponent * volts_rel)**2)) / span
        name_law(v1, i1, v2, i2)
      end

      # What the law named means at running volts.
      # @param amps [Float] at the bench @param at [Float] V @param load [Load] following that law
      # @return [String]
      def sentence(amps, at, load)
        format('%<law>s. At %<volts>.1f V it will draw %<amps>.2f A, not %<bench>.2f.', law: Law.named(law).label, volts: at,
          amps: load.amps(at), bench: amps)
      end

      private

      # Above the heater's exponent only a string behind a resistor rises so fast.
      def name_law(v1, i1, v2, i2)
        width = Math.hypot(sigma, SPREAD)
        weights = EXPECTED.transform_values { |alpha| Math.exp(-0.5 * (((exponent - alpha) / width)**2)) }
        weights['resistor'] = exponent > 1.3 ? Math.exp(0.0) : Math.exp(-0.5 * (((exponent - 1.3) / width)**2))
        total = weights.values.sum
        @law, best = weights.max_by(&:last)
        @confidence = best / [total, Float::MIN].max
        @confidence *= best if best < 0.05 # far from every law: say so by a small number
        @forward_v = v1 - (i1 * (v2 - v1) / (i2 - i1)) if @law == 'resistor'
      end
    end
  end
end
