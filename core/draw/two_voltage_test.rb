# frozen_string_literal: true

require_relative '../errors'
require_relative 'laws'

module Miser
  module Draw
    # Names a load's law from its draw at two voltages: α = ln(I2/I1) / ln(V2/V1), where the
    # meter can tell: its last digit counts at both, and beside a small draw it is all there is.
    class TwoVoltageTest
      # What the exponent is for each law, and how far copies of it stray.
      SPREAD = 0.12
      EXPECTED = %w[filament driver regulated heater].to_h { |key| [key, Law.named(key).exponent] }.freeze
      # Exponents of a string behind a resistor, evenly: forward volts of a third up to six sevenths.
      STRING = (1.5..7.0)
      # V apart, at the least, or the meter's own error is all that is seen.
      LEAST_V = 0.3
      # Named where no other law is likelier than this together: one in twenty is wrong at the most.
      NAMED_FROM = 0.95
      # Laws less likely than this are not spoken of: assumption.
      LIKELY = 0.05
      # Density of an exponent that fits no law: one in a hundred, over ten: assumption.
      STRAY = 0.001

      attr_reader :exponent, :sigma, :law, :confidence, :forward_v, :weights

      # @param first [Array(Float, Float)] volts, amps
      # @param second [Array(Float, Float)] volts, amps
      # @param amps_sigma [Float] A, of either reading: what two readings on one range differ by alone
      # @param volts_sigma [Float] standard uncertainty of either voltage, V
      # @raise [NothingDrawn, VoltagesTooClose] where the two points can't tell a law
      def initialize(first, second, amps_sigma: 0.01, volts_sigma: 0.02)
        (v1, i1), (v2, i2) = [first.map(&:to_f), second.map(&:to_f)].sort
        raise NothingDrawn unless [v1, v2, i1, i2].all?(&:positive?)
        raise VoltagesTooClose.new(low: v1, high: v2, least: LEAST_V) if v2 - v1 < LEAST_V

        span = Math.log(v2 / v1)
        @exponent = Math.log(i2 / i1) / span
        volts_rel = Math.hypot(volts_sigma / v1, volts_sigma / v2)
        @sigma = Math.sqrt(((amps_sigma / i1)**2) + ((amps_sigma / i2)**2) + ((@exponent * volts_rel)**2)) / span
        weigh
        @forward_v = v1 - (i1 * (v2 - v1) / (i2 - i1)) if @law == 'resistor'
      end

      # @return [Boolean] whether the meter could tell
      def named? = confidence >= NAMED_FROM

      # What the law named means at running volts.
      # @param amps [Float] at the bench @param at [Float] V @param load [Load] following that law
      # @return [String]
      def sentence(amps, at, load)
        return undecided unless named?

        format('%<law>s. At %<volts>.1f V it will draw %<amps>.2f A, not %<bench>.2f.', law: Law.named(law).label, volts: at,
          amps: load.amps(at), bench: amps)
      end

      private

      def undecided
        likely = weights.select { |_, share| share > LIKELY }.sort_by { |_, share| -share }.map { |key, _| Law.named(key).label }
        format('Cannot be told apart with this meter: %s. Read it with more volts between, or on a finer range.', likely.join(' or '))
      end

      # How likely each law makes that exponent, none being likelier beforehand.
      def weigh
        width = Math.hypot(sigma, SPREAD)
        bell = ->(off) { Math.exp(-0.5 * ((off / width)**2)) / (width * Math.sqrt(2 * Math::PI)) }
        dense = EXPECTED.transform_values { |alpha| bell.call(exponent - alpha) }
        below = ->(edge) { 0.5 * (1 + Math.erf((exponent - edge) / (width * Math.sqrt(2)))) }
        dense['resistor'] = [below.call(STRING.begin) - below.call(STRING.end), 0.0].max / (STRING.end - STRING.begin)
        # Far from every law it is none of them: as unlikely as a spread over all exponents there may be.
        total = dense.values.sum + STRAY
        @weights = dense.transform_values { |share| share / total }
        @law, @confidence = weights.max_by(&:last)
      end
    end
  end
end
