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
        # Asked at every step of a solution: flat lists.
        @powers = powers.flat_map { |exponent, by| by.flat_map { |min_v, k| [exponent, min_v, k] } }
        @straights = straights.flatten
      end

      def empty? = @powers.empty? && @straights.empty?

      # @param volts [Float] > 0
      # @return [Float] amps
      def amps(volts)
        power_laws(volts) + straight_laws(volts)
      end

      # @return [Array<Float>] volts at which a load switches on, where the sum jumps or kinks
      def thresholds
        @thresholds ||= [*@powers.each_slice(3).map { |term| term[1] }, *@straights.each_slice(2).map(&:last)].uniq.select(&:positive?).sort
      end

      private

      def power_laws(volts)
        list = @powers
        total = 0.0
        i = 0
        while i < list.size
          total += list[i + 2] * (volts**list[i]) if volts >= list[i + 1]
          i += 3
        end
        total
      end

      def straight_laws(volts)
        list = @straights
        total = 0.0
        i = 0
        while i < list.size
          total += (volts - list[i + 1]) * list[i] if volts > list[i + 1]
          i += 2
        end
        total
      end
    end
  end
end
