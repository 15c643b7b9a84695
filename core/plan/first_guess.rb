# frozen_string_literal: true

module Miser
  module Plan
    # A good plan to begin with: what everything picks for itself where the conditions are dear enough to be met, then
    # one thing changed after another as long as that is better. What is good early lets the search leave out more.
    class FirstGuess
      DEARER = [1.0, 1.1, 1.25, 1.5, 2.0, 3.0, 6.0, 20.0].freeze

      # @param sums [Sums] @param ways [Ways] @param relaxed [Relaxation] @param aim [Aim]
      def initialize(sums, ways, relaxed, aim)
        @sums = sums
        @ways = ways
        @relaxed = relaxed
        @aim = aim
      end

      # @param thorough [Boolean] whether pairs are changed as well
      # @return [Search::Found, nil]
      def best(thorough:)
        found = DEARER.map { |by| picks(by) }.uniq.filter_map { |choice| try(choice) }.min_by(&:value)
        found && improved(found, thorough)
      end

      private

      def picks(by)
        low = @relaxed.reduced(@relaxed.prices.map { |p| p * by })
        low.each_index.map { |g| @sums.allowed[g][low[g].each_index.min_by { |o| low[g][o] }] }
      end

      def try(choice, under = Float::INFINITY) = @sums.found(choice, @aim, under) { |most| @ways.total(@sums.totals(choice), most) }

      def improved(found, thorough)
        loop do
          better = single(found) || (thorough ? double(found) : nil)
          return found unless better

          found = better
        end
      end

      def single(found)
        swaps.filter_map { |g, o| try(changed(found.choice, g, o), found.value - 1e-9) }.min_by(&:value)
      end

      # One thing for the better, another to make good what that costs.
      def double(found)
        cheap = swaps.sort_by { |g, o| gain(found.choice, g, o) }.first(SEVERAL)
        cheap.each do |g, o|
          once = changed(found.choice, g, o)
          swaps.each do |h, p|
            next if h == g

            better = try(changed(once, h, p), found.value - 1e-9)
            return better if better
          end
        end
        nil
      end

      SEVERAL = 12
      private_constant :SEVERAL

      def gain(choice, group, option)
        low = (@cheapest ||= @relaxed.reduced([0.0] * @relaxed.prices.size))[group]
        own = @sums.allowed[group]
        low[own.index(option)] - low[own.index(choice[group])]
      end

      def swaps = @swaps ||= @sums.allowed.each_index.flat_map { |g| @sums.allowed[g].map { |o| [g, o] } }

      def changed(choice, group, option) = choice.dup.tap { |c| c[group] = option }
    end
  end
end
