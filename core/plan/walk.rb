# frozen_string_literal: true

require_relative 'hull'
require_relative 'sums'

module Miser
  module Plan
    # The part of a search under one way of dealing with the suppliers: depth first, each thing's most promising option
    # before its others. Where it stands is one number a thing, so that it can be left and taken up.
    class Walk
      attr_reader :ways, :path

      # @param search [Search] to whom plans are offered @param sums [Sums] @param ways [Ways] @param relaxed [Relaxation]
      # @param aim [Aim]
      def initialize(search, sums, ways, relaxed, aim)
        @search = search
        @sums = sums
        @ways = ways
        @aim = aim
        @relaxed = relaxed
        # The dearest condition is held as it is, the others at their prices.
        @chief = relaxed.rows.each_index.max_by { |k| relaxed.prices[k] } || 0
        low = relaxed.reduced(prices_beside)
        @order = low.each_index.sort_by { |g| [-spread(relaxed.reduced[g]), g] }
        @low = @order.map { |g| low[g] }
        @use = relaxed.rows.map { |row| @order.map { |g| row.use[g] } }
        @use_rest = @use.map { |use| tails(use.map(&:min)) }
        @hulls = []
        @choice = Array.new(low.size)
        @at = [start]
        @used = [Array.new(@use.size, 0.0)]
        @options = [ranked(0)]
        @path = [0]
      end

      # @return [Array<Float>] of the conditions
      def prices = @relaxed.prices

      # Takes it up where it stood.
      # @param path [Array<Integer>] @return [Walk] self
      def from(path)
        path[0...-1].each_with_index { |at, depth| step_in(depth, @options[depth][at].last) }
        @path = path.dup
        self
      end

      def done? = @path.empty?

      # @return [Float] no plan that is left here goes under
      def floor = @path.each_index.filter_map { |d| @options[d][@path[d]]&.first }.min || Float::INFINITY

      # @param most [Numeric] steps @return [Integer] steps taken
      def run(most)
        steps = 0
        until done? || steps >= most
          steps += 1
          step
        end
        steps
      end

      private

      def prices_beside = prices.each_with_index.map { |p, k| k == @chief ? 0.0 : p }

      def start
        @relaxed.constant - @relaxed.rows.each_index.sum(0.0) { |k| prices_beside[k] * @relaxed.rows[k].most }
      end

      def points(depth) = @low[depth].each_index.map { |o| [@use.empty? ? 0.0 : @use[@chief][depth][o], @low[depth][o]] }

      # Of all that comes from some depth on.
      def hull(depth) = @hulls[depth] ||= Hull.new((depth...@order.size).map { |d| points(d) })

      def spread(low) = low.size == 1 ? 0.0 : low.min(2).then { |a, b| b - a }

      def tails(values) = values.reverse.each_with_object([0.0]) { |v, sums| sums << (sums.last + v) }.reverse

      # Options of the thing at some depth with the floor under each, the lowest first; those that no condition rules out.
      def ranked(depth)
        list = @low[depth].each_index.filter_map do |o|
          next if misses?(depth, o)

          left = @use.empty? ? 0.0 : @relaxed.rows[@chief].most - @used[depth][@chief] - @use[@chief][depth][o]
          floor = @at[depth] + @low[depth][o] + hull(depth + 1).least(left)
          [floor, o] if floor.finite?
        end
        list.sort
      end

      # The next option of the thing at the end of the path: in, over, or back.
      def step
        depth = @path.size - 1
        floor, option = @options[depth][@path[depth]]
        # After one that promises nothing better, none does.
        return back if floor.nil? || floor >= @search.under

        if depth == @order.size - 1
          @choice[@order[depth]] = @sums.allowed[@order[depth]][option]
          leaf
          @path[depth] += 1
        else
          step_in(depth, option)
          @path << 0
        end
      end

      def back
        @path.pop
        @path[-1] += 1 if @path.any?
      end

      def step_in(depth, option)
        @choice[@order[depth]] = @sums.allowed[@order[depth]][option]
        @at[depth + 1] = @at[depth] + @low[depth][option]
        @used[depth + 1] = @use.each_index.map { |k| @used[depth][k] + @use[k][depth][option] }
        @options[depth + 1] = ranked(depth + 1)
      end

      # Whether a condition can't be met any more, whatever comes.
      def misses?(depth, option)
        @use.each_index.any? { |k| @used[depth][k] + @use[k][depth][option] + @use_rest[k][depth + 1] > @relaxed.rows[k].most + Relaxation::SLACK }
      end

      def leaf
        found = @sums.found(@choice, @aim, @search.under) { |under| @ways.total(@sums.totals(@choice), under) }
        @search.offer(found) if found
      end
    end
  end
end
