# frozen_string_literal: true

require_relative 'search'

module Miser
  module Plan
    # The best compromises between money and amps kept: of every plan that keeps at least so much the cheapest, from the
    # cheapest of all to the one that keeps most. What the owner wants kept and spent is left aside, so that the picture
    # shows what lies beyond it.
    class Front
      STEPS = 12
      # A between one point and the next, at the least.
      FINEST_A = 0.05
      # A that nobody pays for.
      SAME_A = 0.01

      # @return [Array<Search::Found>] so far, the cheapest first
      attr_reader :points

      # @param problem [Problem] @param conditions [Conditions] @param verify [#call, nil] see Search
      def initialize(problem, conditions, verify: nil)
        @problem = problem
        @conditions = conditions.with(keeps: [], money_cents: nil, least_kept: nil)
        @verify = verify
        @points = []
        @done = false
      end

      def done? = @done

      # @param most [Integer] steps of search @return [Front] self
      def run(most)
        until done? || most <= 0
          @search ||= Search.new(@problem, @next || @conditions, Aim.new(@most_kept.nil? ? 'kept' : 'money'), verify: @verify)
          before = @search.nodes
          @search.run(most)
          most -= @search.nodes - before
          break unless @search.done?

          take(@search.best)
          @search = nil
        end
        self
      end

      private

      # First how much can be kept at all, then the cheapest, then each next.
      def take(found)
        return @done = true unless found

        kept = found.kept[@problem.axis]
        if @most_kept.nil?
          @most_kept = kept
          return
        end
        @points << found
        @step ||= [(@most_kept - kept) / STEPS, FINEST_A].max
        return @done = true if kept >= @most_kept - SAME_A

        @next = @conditions.with(least_kept: [kept + @step, @most_kept - SAME_A].min)
      end
    end
  end
end
