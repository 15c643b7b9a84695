# frozen_string_literal: true

module Miser
  module Draw
    # Where a warming lamp ends. It may warm in two steps, the die in seconds and the heat
    # sink in minutes, and nobody knows either time:
    #
    #     x(t) = c + Σ b_k · e^(−t/τ_k)
    #
    # with a row of time constants close enough to make up any between them. The heights b
    # are believed small beforehand, so that the sum is a straight line to solve, and what
    # the readings do not rule out, above all a slow tail, stays in the doubt of the end.
    class Tails
      # s, from a die and its board to a heavy heat sink: assumption.
      TAUS = Array.new(8) { |i| 3.0 * (2**i) }.freeze
      # One standard deviation of a height, share of the draw: assumption (all together 13 %).
      HEIGHT = 0.045
      # A meter's scatter from reading to reading, share of the draw; how many readings that belief is worth; and the least that the row of
      # time constants itself misses a lamp by.
      SCATTER = 0.001
      BELIEF = 3
      MISS = 0.0006
      ROUNDS = 6
      FEWEST = 3

      # @return [Float] A: where it ends, and what is left to fall at the last reading
      attr_reader :settled, :left
      # @return [Float] A, one standard deviation of each
      attr_reader :settled_sigma, :left_sigma

      # @param samples [Array<Array(Float, Float)>] s and A, in order of time, at least FEWEST
      def initialize(samples)
        @last = samples.last[1]
        @size = @last.abs.clamp(1e-6, Float::INFINITY)
        @digit = digit(samples.map(&:last))
        lay_out(samples.map { |t, _| t - samples.first[0] }, samples.map { |_, a| a - @last })
        weigh(samples.size)
        conclude
      end

      # Most that may still be left, two standard deviations out.
      # @return [Float] A
      def may_fall = left.abs + (2 * left_sigma)

      private

      # What one step of the display is, as the readings show it.
      def digit(amps) = (0..4).map { |k| 10.0**-k }.find { |step| amps.all? { |a| (((a / step).round * step) - a).abs < 1e-9 } } || 0.0

      # Normal equations: they do not change with the scatter.
      def lay_out(times, values)
        columns = [Array.new(times.size, 1.0), *TAUS.map { |tau| times.map { |t| Math.exp(-t / tau) } }]
        @ends = [0.0, *columns.drop(1).map(&:last)]
        products = columns.each_with_index.map { |a, i| columns.first(i + 1).map { |b| dot(a, b) } }
        @normal = columns.each_index.map { |i| columns.each_index.map { |j| products[[i, j].max][[i, j].min] } }
        @right = columns.map { |a| dot(a, values) }
        @squares = dot(values, values)
      end

      # The scatter is what the readings leave over, the belief in it counting as some readings more.
      def weigh(count)
        before = (SCATTER * @size) + (@digit / Math.sqrt(12))
        @scatter = before
        ROUNDS.times do
          solve
          # Readings that the heights used up (both matrices are their own mirror).
          used = @normal.each_index.sum { |i| dot(@inverse[i], @normal[i]) }
          now = Math.sqrt(((BELIEF * (before**2)) + misfit) / (BELIEF + [count - used, 0.0].max)).clamp(MISS * @size, Float::INFINITY)
          done = (now - @scatter).abs < 1e-3 * @scatter
          @scatter = now
          break if done
        end
        solve
      end

      def solve
        ridge = (@scatter / (HEIGHT * @size))**2
        # Of the end itself nothing is believed beforehand, of the heights that they are small.
        @inverse = inverse(@normal.each_with_index.map do |row, i|
          row.each_with_index.map do |v, j|
            i == j && i.positive? ? v + ridge : v
          end
        end)
        @heights = @inverse.map { |row| dot(row, @right) }
      end

      def misfit
        fitted = @normal.map { |row| dot(row, @heights) }
        [@squares - (2 * dot(@right, @heights)) + dot(@heights, fitted), 0.0].max
      end

      # The display's step is in all readings alike: no number of them takes it away.
      def conclude
        @settled = @last + @heights[0]
        @settled_sigma = Math.sqrt(((@scatter**2) * @inverse[0][0]) + ((@digit**2) / 12) + ((MISS * @size)**2))
        @left = dot(@ends, @heights)
        @left_sigma = @scatter * Math.sqrt(dot(@inverse.map { |row| dot(row, @ends) }, @ends).clamp(0.0, Float::INFINITY))
      end

      def dot(one, other)
        sum = 0.0
        i = 0
        n = one.size
        while i < n
          sum += one[i] * other[i]
          i += 1
        end
        sum
      end

      # Gauss and Jordan in place; symmetric and positive, so no pivots are sought. Plain loops: this is where the time goes.
      def inverse(m)
        n = m.size
        k = 0
        while k < n
          row = m[k]
          pivot = row[k]
          row[k] = 1.0
          j = 0
          while j < n
            row[j] /= pivot
            j += 1
          end
          i = 0
          while i < n
            sweep(m[i], row, k) unless i == k
            i += 1
          end
          k += 1
        end
        m
      end

      def sweep(other, row, k)
        factor = other[k]
        other[k] = 0.0
        j = 0
        while j < other.size
          other[j] -= factor * row[j]
          j += 1
        end
      end
    end
  end
end
