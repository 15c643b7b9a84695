# frozen_string_literal: true

module Miser
  module Charging
    # What an alternator earns against engine speed:
    #
    #     I(n, V) = h · sqrt(a − b·x),  x = (V / (V_ref · n))²,  a = I_inf², b = I_inf² · n0²
    #
    # from E² = V² + (ωLI)² with E ∝ n. Source: Caliskan, Perreault, Jahns and
    # Kassakian, "Analysis of three-phase rectifiers with constant-voltage loads",
    # IEEE Transactions on Circuits and Systems I, 2003. n in rpm, I in A; h is
    # the hot share.
    class EarnCurve
      attr_reader :a, :b, :v_ref, :covariance, :basis, :remarks, :hot, :hot_sigma, :inputs

      # @param covariance [Array(Float, Float, Float)] var(a), cov(a, b), var(b)
      # @param basis [Symbol] :points, :rating, :rating_only
      def initialize(a:, b:, v_ref:, covariance:, basis:, hot: 1.0, hot_sigma: 0.0, remarks: [], inputs: [])
        @a = a
        @b = b
        @v_ref = v_ref
        @covariance = covariance
        @basis = basis
        @hot = hot
        @hot_sigma = hot_sigma
        @remarks = remarks
        @inputs = inputs
      end

      # @return [Float] A the curve tends to at high speed, hot
      def i_inf = hot * Math.sqrt(a)

      # @return [Float] rpm at which it starts to earn at those volts
      def cut_in(volts = v_ref) = Math.sqrt(b / a) * volts / v_ref

      # @param rpm [Float] engine speed
      # @param volts [Float] held at its terminals
      # @return [Float] A
      def amps(rpm, volts)
        return 0.0 unless rpm.positive?

        squared = a - (b * ((volts / (v_ref * rpm))**2))
        squared.positive? ? hot * Math.sqrt(squared) : 0.0
      end

      # One standard uncertainty below and above, for drawing: near cut-in the two
      # lie at unlike distances.
      # @return [Array(Float, Float)] A
      def band(rpm, volts)
        return [0.0, 0.0] unless rpm.positive?

        squared, doubt = spread(rpm, volts)
        heat = hot_sigma / hot
        [Math.sqrt([squared - doubt, 0.0].max) * (hot - (hot * heat)), Math.sqrt([squared + doubt, 0.0].max) * (hot + (hot * heat))]
      end

      # A normal distribution in steps of half a σ: [z, weight].
      STEPS = (-6..6).map { |i| [i / 2.0, Math.exp(-(i**2) / 8.0)] }.then { |list| list.map { |z, w| [z, w / list.sum(&:last)] } }.freeze

      # Standard uncertainty: the spread of the curve over its doubt, not the slope
      # of its tangent, which stands upright at cut-in.
      # @return [Float] A
      def sigma(rpm, volts)
        return 0.0 unless rpm.positive?

        squared, doubt = spread(rpm, volts)
        mean = 0.0
        square = 0.0
        STEPS.each do |z, weight|
          inside = squared + (z * doubt)
          next unless inside.positive?

          mean += weight * Math.sqrt(inside)
          square += weight * inside
        end
        Math.hypot(hot * Math.sqrt([square - (mean**2), 0.0].max), Math.sqrt([squared, 0.0].max) * hot_sigma)
      end

      # Speed at which it earns just so much.
      # @param spend [Float] A
      # @return [Float, nil] rpm; nil where it never does
      def break_even(spend, volts)
        left = a - ((spend / hot)**2)
        return nil unless left.positive?

        Math.sqrt(b / left) * volts / v_ref
      end

      # Open-circuit volts of an AC coil at a speed: where the amps come to nothing.
      # @return [Float] V
      def open_circuit(rpm) = v_ref * rpm * Math.sqrt(a / b)

      private

      # I² when cold, and its standard uncertainty.
      def spread(rpm, volts)
        x = (volts / (v_ref * rpm))**2
        [a - (b * x), Math.sqrt([covariance[0] - (2 * x * covariance[1]) + (x * x * covariance[2]), 0.0].max)]
      end
    end
  end
end
