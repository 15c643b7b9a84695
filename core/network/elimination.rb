# frozen_string_literal: true

module Miser
  module Network
    # Gauss without looking for pivots, for the matrix of a circuit: which rows and columns a step touches is found once
    # for all of Newton's steps, those with the fewest neighbours going first, so that a circuit like a tree fills nothing in.
    class Elimination
      # A pivot no larger is none.
      LEAST = 1e-14

      # @param neighbours [Array<Hash{Integer=>true}>] by unknown, its own left out; the pattern is symmetric
      # @param last [Integer] unknowns from here on go last: a source's own equation has no pivot before its node's
      def initialize(neighbours, last:)
        @steps = order(neighbours.map(&:dup), last)
      end

      # @param m [Array<Array<Float>>] overwritten @param rhs [Array<Float>] overwritten with the answer
      # @return [Array<Float>, nil] nil where a pivot vanishes
      def solve(m, rhs)
        @steps.each do |k, others|
          row = m[k]
          pivot = row[k]
          return nil if pivot.abs < LEAST

          clear(m, rhs, row, k, others, pivot)
        end
        back(m, rhs)
      end

      private

      def clear(m, rhs, row, k, others, pivot)
        i = 0
        count = others.size
        while i < count
          other = m[others[i]]
          factor = other[k] / pivot
          unless factor.zero?
            j = 0
            while j < count
              c = others[j]
              other[c] -= factor * row[c]
              j += 1
            end
            rhs[others[i]] -= factor * rhs[k]
          end
          i += 1
        end
      end

      def back(m, rhs)
        @steps.reverse_each do |k, others|
          row = m[k]
          sum = rhs[k]
          others.each { |c| sum -= row[c] * rhs[c] }
          rhs[k] = sum / row[k]
        end
        rhs
      end

      def order(near, last)
        left = (0...near.size).to_a
        Array.new(near.size) do
          k = left.min_by { |i| i < last ? near[i].size : near.size + i }
          left.delete(k)
          others = near[k].keys
          others.each do |i|
            near[i].delete(k)
            others.each { |j| near[i][j] = true unless i == j }
          end
          [k, others]
        end
      end
    end
  end
end
