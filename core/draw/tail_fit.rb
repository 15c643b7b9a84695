# frozen_string_literal: true

module Miser
  module Draw
    # Least squares of an exponential tail through many samples:
    #
    #     x(t) = c + b · e^(−t/τ)
    #
    # For a given τ the rest is a straight line in e^(−t/τ), so only τ is searched.
    class TailFit
      FEWEST = 6
      GRID = 16
      NARROWING = 24
      # More would only cost time: a longer series is thinned evenly.
      MOST = 120
      GOLDEN = (Math.sqrt(5) - 1) / 2

      # @return [Float] where it ends, its height at the start of time, s
      attr_reader :c, :b, :tau

      # @param samples [Array<Array(Float, Float)>] s and value, in order of time, at least FEWEST
      def initialize(samples)
        @samples = samples.each_slice((samples.size / MOST.to_f).ceil).map(&:first)
        @start = samples.first[0]
        @span = samples.last[0] - @start
        search
      end

      # @return [Float] what is left to fall at the last sample
      def left = b * Math.exp(-@span / tau)

      # @return [Float] s from first to last sample
      attr_reader :span

      # Scatter of the samples round the curve, one standard deviation.
      # @return [Float]
      def noise = @noise ||= Math.sqrt(line(tau)[2] / [@samples.size - 3, 1].max)

      # Standard uncertainty of c, with τ unknown: from the normal equations.
      # @return [Float]
      def sigma = @sigma ||= noise * Math.sqrt(share_of_end)

      private

      # First member of the inverse of the normal matrix, by its minors.
      def share_of_end
        rows = @samples.map { |t, _| [t - @start, Math.exp(-(t - @start) / tau)] }.map { |t, e| [1.0, e, b * t / (tau**2) * e] }
        (aa, ab, ac), (_, bb, bc), (_, _, cc) = Array.new(3) { |i| Array.new(3) { |j| rows.sum { |r| r[i] * r[j] } } }
        minor = (bb * cc) - (bc**2)
        share = minor / ((aa * minor) - (ab * ((ab * cc) - (bc * ac))) + (ac * ((ab * bc) - (bb * ac))))
        share.finite? && share.positive? ? share : Float::INFINITY
      end

      # Best τ of a grid, then golden section between its neighbours.
      def search
        low = Math.log(@span / @samples.size / 2)
        high = Math.log(@span * 4)
        grid = Array.new(GRID) { |i| low + ((high - low) * i / (GRID - 1)) }
        best = grid.each_index.min_by { |i| line(Math.exp(grid[i]))[2] }
        @tau = Math.exp(narrow(grid[[best - 1, 0].max], grid[[best + 1, GRID - 1].min]))
        @c, @b, = line(tau)
      end

      def narrow(low, high)
        cost = ->(x) { line(Math.exp(x))[2] }
        x1 = high - (GOLDEN * (high - low))
        x2 = low + (GOLDEN * (high - low))
        f1 = cost[x1]
        f2 = cost[x2]
        NARROWING.times do
          if f1 < f2
            high = x2
            x2 = x1
            f2 = f1
            f1 = cost[x1 = high - (GOLDEN * (high - low))]
          else
            low = x1
            x1 = x2
            f1 = f2
            f2 = cost[x2 = low + (GOLDEN * (high - low))]
          end
        end
        (low + high) / 2
      end

      # @return [Array(Float, Float, Float)] c, b and the sum of squares left
      def line(tau)
        es = @samples.map { |t, _| Math.exp(-(t - @start) / tau) }
        n = es.size.to_f
        mean_e = es.sum / n
        mean_x = @samples.sum { |_, x| x } / n
        see = es.sum { |e| (e - mean_e)**2 }
        slope = see.zero? ? 0.0 : es.each_with_index.sum { |e, i| (e - mean_e) * (@samples[i][1] - mean_x) } / see
        end_value = mean_x - (slope * mean_e)
        [end_value, slope, es.each_with_index.sum { |e, i| (@samples[i][1] - end_value - (slope * e))**2 }]
      end
    end
  end
end
