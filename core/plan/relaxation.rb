# frozen_string_literal: true

require_relative 'problem'

module Miser
  module Plan
    # A floor under what any plan can reach: every condition that can be written as a sum is taken into the aim at a
    # price, and then every thing decides for itself. Whatever the prices, no plan that meets the conditions is better
    # than that sum (docs/method.md); good prices are sought one condition at a time.
    class Relaxation
      # @!attribute use [Array<Array<Array<Float>>>] by row, group, option @!attribute most [Float] that their sum may be
      Row = Struct.new(:name, :use, :most)
      SLACK = 1e-9
      # Prices that are sought no higher, no finer, and no lower than.
      HIGHEST = 1e12
      FINE = 1e-4
      LEAST = 1e-9

      attr_reader :prices, :rows, :constant

      # @param cost [Array<Array<Float>>] by group and option: what it adds to the aim at the least
      # @param constant [Float] @param rows [Array<Row>]
      # @param prices [Array<Float>, nil] to begin from
      def initialize(cost, constant, rows, prices: nil)
        @cost = cost
        @constant = constant
        @rows = rows
        @prices = prices || ([0.0] * rows.size)
      end

      # @return [Boolean] whether some row can't be met by anything
      def impossible? = rows.any? { |row| row.use.sum(&:min) > row.most + SLACK }

      # @return [Array<Array<Float>>] by group and option: the aim with the conditions at their prices
      def reduced(prices = @prices)
        priced = rows.each_index.reject { |k| prices[k].zero? }
        @cost.each_index.map do |g|
          @cost[g].each_index.map { |o| priced.sum(@cost[g][o]) { |k| prices[k] * rows[k].use[g][o] } }
        end
      end

      # @return [Float] that no plan goes under
      def floor(prices = @prices, reduced = reduced(prices))
        @constant - rows.each_index.sum(0.0) { |k| prices[k] * rows[k].most } + reduced.sum(0.0, &:min)
      end

      # Looks for prices with a higher floor: one condition after another, each up to where it is no longer overdrawn.
      # @param sweeps [Integer] over all conditions
      # @return [Relaxation] self
      def tighten(sweeps)
        best = floor
        sweeps.times do
          rows.each_index do |k|
            at = @prices.dup
            at[k] = turning_point(k, at)
            now = floor(at)
            next unless now > best

            best = now
            @prices = at
          end
          break if rows.size < 2
        end
        self
      end

      private

      # The price of one condition at which what everything picks for itself just meets it: the floor is highest there.
      def turning_point(row, prices)
        base = reduced(prices.dup.tap { |p| p[row] = 0.0 })
        return 0.0 unless overdrawn?(row, base, 0.0)

        low = 0.0
        high = [prices[row] * 2, 1.0].max
        while overdrawn?(row, base, high)
          return prices[row] if high > HIGHEST

          low = high
          high *= 4
        end
        while high - low > FINE * high && high > LEAST
          middle = (low + high) / 2
          overdrawn?(row, base, middle) ? low = middle : high = middle
        end
        # Just under it and just over it the floor is the same: over it the condition is met.
        high
      end

      def overdrawn?(row, base, price)
        use = rows[row].use
        sum = 0.0
        base.each_with_index do |options, g|
          best = nil
          best_use = 0.0
          mine = use[g]
          options.each_with_index do |c, o|
            value = c + (price * mine[o])
            next if best && value >= best

            best = value
            best_use = mine[o]
          end
          sum += best_use || 0.0
        end
        sum > rows[row].most
      end
    end
  end
end
