# frozen_string_literal: true

module Miser
  module Draw
    # The amps of many loads together as a function of volts. Power laws of one
    # exponent and one threshold fold into a single coefficient, so a budget of
    # forty loads costs a handful of terms at each step of a solution.
    class Sum
      # @param weighted [Array<Array(Law, Float)>] laws with their duty (times count)
      def initialize(weighted)
        powers = Hash.new { |h, exponent| h[exponent] = Hash.new(0.0) }
        straights = []
        weighted.each do |law, weight|
          next if weight.zero? || law.amps.zero?

          if law.exponent
            powers[law.exponent][law.min_v] += weight * law.coefficient
          else
            straights << [weight * law.conductance, law.min_v]
          end
        end
        @powers = powers.flat_map { |exponent, by| by.map { |min_v, k| [exponent, min_v, k] } }
        @straights = straights
      end

      def empty? = @powers.empty? && @straights.empty?

      # @param volts [Float] > 0
      # @return [Float] amps
      def amps(volts)
        total = 0.0
        @powers.each { |exponent, min_v, k| total += exponent.zero? ? k : k * (volts**exponent) if volts >= min_v }
        @straights.each { |conductance, forward| total += (volts - forward) * conductance if volts > forward }
        total
      end

      # @return [Array<Float>] volts at which a load switches on, where the sum jumps or kinks
      def thresholds = @thresholds ||= (@powers.map { |p| p[1] } + @straights.map(&:last)).uniq.select(&:positive?).sort
    end
  end
end
