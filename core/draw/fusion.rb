# frozen_string_literal: true

module Miser
  module Draw
    # What several amps are, believed beforehand and read together in sums: weighted least squares with
    # priors, taken reading by reading (which gives what all at once would):
    #     x = x₀ + P·Aᵀ·(A·P·Aᵀ + R)⁻¹·(y − A·x₀)
    # Source: generalised least squares, any text on estimation (Gauss, Aitken).
    class Fusion
      # A sum that was read.
      # @!attribute shares [Hash{Object=>Float}] how much of each is in it @!attribute amps [Float] @!attribute sigma [Float] A
      Sum = Struct.new(:shares, :amps, :sigma, keyword_init: true)

      # @param priors [Hash{Object=>Array(Float, Float)}] amps and their standard uncertainty
      # @param sums [Array<Sum>]
      def initialize(priors, sums)
        @keys = priors.keys
        @at = @keys.each_with_index.to_h
        @amps = priors.values.map(&:first)
        @covariance = @keys.each_index.map { |i| @keys.each_index.map { |j| i == j ? priors.values[i].last**2 : 0.0 } }
        @surprises = sums.map { |sum| take(sum) }
      end

      # @return [Array<Object>]
      attr_reader :keys

      # How far each sum lay from what was believed before it, in its standard uncertainties.
      # @return [Array<Float>]
      attr_reader :surprises

      # @return [Float] A
      def amps(key) = @amps[@at.fetch(key)]

      # @return [Float] A²
      def covariance(one, other) = @covariance[@at.fetch(one)][@at.fetch(other)]

      # @return [Float] A
      def sigma(key) = Math.sqrt([covariance(key, key), 0.0].max)

      # @param shares [Hash{Object=>Float}] of a sum
      # @return [Array(Float, Float)] its amps and their standard uncertainty
      def sum(shares)
        variance = shares.sum { |a, s| shares.sum { |b, t| s * t * covariance(a, b) } }
        [shares.sum { |key, s| s * amps(key) }, Math.sqrt([variance, 0.0].max)]
      end

      private

      def take(sum)
        row = @keys.map { |key| sum.shares.fetch(key, 0.0) }
        gain = @covariance.map { |line| line.zip(row).sum { |c, a| c * a } }
        variance = row.zip(gain).sum { |a, g| a * g } + (sum.sigma**2)
        miss = sum.amps - row.zip(@amps).sum { |a, x| a * x }
        return 0.0 unless variance.positive?

        @amps = @amps.zip(gain).map { |x, g| x + (g * miss / variance) }
        @covariance = @covariance.each_with_index.map { |line, i| line.each_with_index.map { |c, j| c - (gain[i] * gain[j] / variance) } }
        miss / Math.sqrt(variance)
      end
    end
  end
end
