# frozen_string_literal: true

require_relative 'tails'

module Miser
  module Draw
    # What a warming lamp will settle at, from readings at even intervals.
    class WarmUp
      # From this many samples on, all are fitted; below it, three at even intervals do where they fall off.
      MANY = 8
      # Share of the draw; an end in more doubt than this is no end.
      VAGUE = 0.05
      # More would only cost time.
      MOST = 120

      # @return [Float, nil] settled_sigma: of the settled value, what may still fall and the scatter of the samples
      # @return [Float, nil] left: A still to fall after the last sample, most likely
      attr_reader :cold, :last, :settled, :settled_sigma, :advice, :reason, :left, :mean

      # @param samples [Array<Array(Float, Float)>] seconds, amps; any order
      # @param tolerance [Float] settled when the most that may be left is under this share
      # @param drifts [Boolean] false for what is warm at once, a filament or a heater
      def initialize(samples, tolerance: 0.01, drifts: true)
        @samples = samples.map { |t, a| [t.to_f, a.to_f] }.sort
        @tolerance = tolerance
        return if @samples.empty?

        @cold = @samples.first[1]
        @last = @samples.last[1]
        @mean = @samples.sum { |_, a| a } / @samples.size
        drifts || falls? ? estimate : level
      end

      def settled? = advice == :settled

      private

      # It falls although it should not: then it is another thing than was thought.
      def falls? = (@samples.max_by { |_, a| a }[1] - @samples.min_by { |_, a| a }[1]) > @tolerance * 2 * mean.abs && @samples.size >= 3

      # No warming to wait for: the mean, with its scatter.
      def level
        return hold('Take three readings.') if @samples.size < 3

        @settled_sigma = Math.sqrt(@samples.sum { |_, a| (a - mean)**2 } / (@samples.size - 1) / @samples.size)
        @settled = mean
        @left = 0.0
        @advice = :settled
        @reason = 'Settled: it is warm at once.'
      end

      def estimate
        return hold('Take three readings at even intervals.') if @samples.size < 3

        tails = Tails.new(thinned)
        return hold('It is too early to say where it ends; keep going.') if tails.settled_sigma > VAGUE * last.abs && !falls_off

        @settled = @samples.size < MANY && falls_off ? falls_off : tails.settled
        @settled_sigma = Math.hypot(tails.settled_sigma, settled - tails.settled)
        @left = last - settled
        settle(tails.may_fall)
      end

      # Evenly, the last among them.
      def thinned = @samples.reverse.each_slice((@samples.size / MOST.to_f).ceil).map(&:first).reverse

      # Exponential tail: x∞ = x3 − (x3−x2)² / ((x3−x2) − (x2−x1)).
      # @return [Float, nil] nil where the last three are not even, or do not fall off
      def falls_off
        return @falls_off if defined?(@falls_off)

        @falls_off = begin
          (_, x1), (_, x2), (_, x3) = spaced
          second = x3 && (x3 - x2)
          first = x3 && (x2 - x1)
          x3 - ((second**2) / (second - first)) if x3 && first.nonzero? && (second / first).between?(0.0, 0.95)
        end
      end

      # The last three readings at even spacing, or the first, middle and last when those are even.
      def spaced
        picks = [@samples.last(3)]
        picks << [@samples.first, @samples[@samples.size / 2], @samples.last] if @samples.size.odd?
        picks.find { |(a, _), (b, _), (c, _)| (b - a).positive? && ((c - b) - (b - a)).abs <= 0.1 * (b - a) }
      end

      # @param may_fall [Float] A, the most that may be left
      def settle(may_fall)
        @advice = may_fall <= @tolerance * settled.abs ? :settled : :keep_going
        @reason = if settled?
                    'Settled: what may still fall is under the tolerance, were it ever so slow.'
                  else
                    format('Keep going: up to %.2f A may still fall. Taken now, it ends at %.2f ± %.2f A.', may_fall, settled,
                      settled_sigma)
                  end
      end

      def hold(reason)
        @advice = :keep_going
        @reason = reason
      end
    end
  end
end
