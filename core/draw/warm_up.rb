# frozen_string_literal: true

require_relative 'tail_fit'

module Miser
  module Draw
    # What a warming lamp will settle at, from readings at even intervals.
    class WarmUp
      # From this many samples on, all are fitted; below it, three must do.
      MANY = 8

      # @return [Float, nil] settled_sigma: of the settled value, from the scatter of many samples
      attr_reader :cold, :last, :settled, :settled_sigma, :advice, :reason, :left, :mean

      # @param samples [Array<Array(Float, Float)>] seconds, amps; any order
      # @param tolerance [Float] settled when the rest to fall is under this share
      def initialize(samples, tolerance: 0.01)
        @samples = samples.map { |t, a| [t.to_f, a.to_f] }.sort
        @tolerance = tolerance
        return if @samples.empty?

        @cold = @samples.first[1]
        @last = @samples.last[1]
        @mean = @samples.sum { |_, a| a } / @samples.size
        estimate
      end

      def settled? = advice == :settled

      private

      # Many samples: least squares of an exponential tail through all.
      def fit_all
        fit = TailFit.new(@samples)
        return level if (fit.b - fit.left).abs <= @tolerance / 2 * fit.c.abs
        return hold('It falls too evenly yet to say where it ends; keep going.') if fit.tau > fit.span || fit.b.negative?

        @settled_sigma = fit.sigma
        settle(fit.c, fit.left)
      end

      # No warming to be seen: the mean, with its scatter.
      def level
        squares = @samples.sum { |_, a| (a - mean)**2 }
        @settled_sigma = Math.sqrt(squares / (@samples.size - 1) / @samples.size)
        settle(mean, 0.0)
      end

      # Exponential tail: x∞ = x3 − (x3−x2)² / ((x3−x2) − (x2−x1)).
      def estimate
        return fit_all if @samples.size >= MANY
        return hold('Take three readings at even intervals.') if @samples.size < 3

        (t1, x1), (t2, x2), (t3, x3) = spaced
        return hold('The last readings are not evenly spaced; take three more, the same time apart.') unless t1

        first = x2 - x1
        second = x3 - x2
        return settle(x3) if second.abs <= @tolerance / 10 * x3.abs && first.abs <= @tolerance * x3.abs

        ratio = second / first
        return hold('The readings do not fall off yet; keep going.') unless first.nonzero? && ratio.positive? && ratio < 0.95

        @interval = t3 - t2
        settle(x3 - ((second**2) / (second - first)))
      end

      # The last three readings at even spacing, or the first, middle and last when those are even.
      def spaced
        picks = [@samples.last(3)]
        picks << [@samples.first, @samples[@samples.size / 2], @samples.last] if @samples.size.odd?
        picks.find { |(a, _), (b, _), (c, _)| (b - a).positive? && ((c - b) - (b - a)).abs <= 0.1 * (b - a) }
      end

      def settle(value, left = last - value)
        @settled = value
        @left = left
        @advice = left.abs <= @tolerance * value.abs ? :settled : :keep_going
        @reason = if settled?
                    'Settled: what is left to fall is under the tolerance.'
                  else
                    format('Keep going: about %.2f A still to fall.', left)
                  end
      end

      def hold(reason)
        @advice = :keep_going
        @reason = reason
      end
    end
  end
end
