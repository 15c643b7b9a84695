# frozen_string_literal: true

require_relative 'step'

module Miser
  module Card
    # Steps in an order that keeps to what each needs, and else to the order of the work: of those that may come next, the
    # earliest phase first, then as they were declared.
    class Sequence
      # @param steps [Array<Step>] as declared
      def initialize(steps)
        @steps = steps
      end

      # @return [Array<Step>] all of them; those that wait for each other at the end, as declared
      def in_order = (@in_order ||= sorted) + stuck

      # @return [Array<Step>] that wait for each other
      def stuck
        @in_order ||= sorted
        @stuck ||= @steps - @in_order
      end

      # What a step waits for: steps by their keys, and all that give a name.
      # @param step [Step] @return [Array<Step>]
      def needed(step) = step.needs.flat_map { |name| givers.fetch(name, []) }.uniq - [step]

      private

      def givers
        @givers ||= @steps.each_with_object({}) do |step, found|
          [step.key, *step.gives].each { |name| (found[name] ||= []) << step }
        end
      end

      def rank = @rank ||= @steps.each_with_index.to_h { |s, i| [s.key, [Step::PHASES.index(s.phase), i]] }

      def sorted
        waits = @steps.to_h { |s| [s.key, needed(s)] }
        followers = Hash.new { |h, k| h[k] = [] }
        waits.each { |key, list| list.each { |s| followers[s.key] << key } }
        left = waits.transform_values(&:size)
        by_key = @steps.to_h { |s| [s.key, s] }
        free = Heap.new(left.select { |_, n| n.zero? }.keys.map { |key| [rank[key], key] })
        order = []
        while (_, key = free.pop)
          order << by_key[key]
          followers[key].each { |other| free.push([rank[other], other]) if (left[other] -= 1).zero? }
        end
        order
      end

      # The least of what is in it comes first. Few are free at a time: a sorted list does.
      class Heap
        def initialize(items) = @items = items.sort
        def pop = @items.shift

        def push(item)
          at = @items.bsearch_index { |other| (other <=> item).positive? } || @items.size
          @items.insert(at, item)
        end
      end
      private_constant :Heap
    end
  end
end
