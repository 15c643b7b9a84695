# frozen_string_literal: true

module Miser
  module Plan
    # The least that a row of things to decide comes to where their uses may be no more than so much in all, with parts
    # of options allowed: each thing's lower convex hull, its steps taken the cheapest first. What whole options come to
    # is never less.
    class Hull
      # @param points [Array<Array<Array(Float, Float)>>] by thing and option: use and cost
      def initialize(points)
        steps = points.flat_map { |options| Hull.steps(options) }.sort_by { |use, cost| [cost / use, use] }
        starts = points.map { |options| options.min_by { |use, cost| [cost, use] } }
        @use = [starts.sum(0.0, &:first)]
        @cost = [starts.sum(0.0, &:last)]
        steps.each do |use, cost|
          @use << (@use.last - use)
          @cost << (@cost.last + cost)
        end
      end

      # @param most [Float] @return [Float] infinite where it can't be
      def least(most)
        return @cost.first if @use.first <= most
        return Float::INFINITY if @use.last > most + Relaxation::SLACK

        at = @use.bsearch_index { |use| use <= most } || (@use.size - 1)
        step = @use[at - 1] - @use[at]
        @cost[at - 1] + ((@cost[at] - @cost[at - 1]) * [(@use[at - 1] - most) / step, 1.0].min)
      end

      # From the cheapest option towards less use, along the hull.
      # @param options [Array<Array(Float, Float)>] use and cost
      # @return [Array<Array(Float, Float)>] use saved and cost added, step by step, each dearer than the one before
      def self.steps(options)
        at = options.select { |_, cost| cost.finite? }.min_by { |use, cost| [cost, use] } or return []
        found = []
        loop do
          onward = options.select { |use, cost| use < at.first && cost.finite? }
          following = onward.min_by { |use, cost| [(cost - at.last) / (at.first - use), use] } or return found
          found << [at.first - following.first, following.last - at.last]
          at = following
        end
      end
    end
  end
end
