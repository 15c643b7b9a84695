# frozen_string_literal: true

module Miser
  module Beam
    # Lines of equal light over a grid, straight between its cells: marching squares.
    # A ring closes round everything at or above a level, along the grid's rim too, so
    # that it can be filled.
    class Contour
      # Steps of a decade that levels stand on.
      DECADE = [1.0, 2.0, 5.0].freeze
      # Levels go down to this share of the most.
      DIMMEST = 0.01

      # Segments of a cell by which corners lie inside (top left 8, top right 4, bottom
      # right 2, bottom left 1), inside to the right of the way from edge to edge.
      SEGMENTS = {
        1 => [%i[left bottom]], 2 => [%i[bottom right]], 3 => [%i[left right]], 4 => [%i[right top]], 6 => [%i[bottom top]],
        7 => [%i[left top]],
        8 => [%i[top left]], 9 => [%i[top bottom]], 11 => [%i[top right]], 12 => [%i[right left]], 13 => [%i[right bottom]],
        14 => [%i[bottom left]]
      }.freeze
      # Two corners opposite: [apart, joined by a bright middle].
      SADDLES = { 5 => [[%i[left bottom], %i[right top]], [%i[left top], %i[right bottom]]],
                  10 => [[%i[top left], %i[bottom right]], [%i[top right], %i[bottom left]]] }.freeze

      # @param most [Float] the brightest there is
      # @return [Array<Float>] rising, of 1, 2, 5, 10, …
      def self.levels(most)
        return [] unless most.positive?

        decades = (Math.log10(most * DIMMEST).floor..Math.log10(most).floor)
        decades.flat_map { |d| DECADE.map { |step| (step * (10.0**d)).round(9) } }.grep((most * DIMMEST)..most)
      end

      # @param xs, ys [Array<Float>] places of the columns, of the rows
      # @param grid [Array<Array<Float>>] by row, then column
      def initialize(xs, ys, grid)
        @xs = [xs.first, *xs, xs.last]
        @ys = [ys.first, *ys, ys.last]
        @grid = grid
      end

      # @param level [Float]
      # @return [Array<Array<Array(Float, Float)>>] closed rings of x, y; the last point is not the first again
      def rings(level)
        # A rim of no width just below the level closes every line at the grid's edge.
        rim = Array.new(@xs.size, level - 1)
        @values = [rim, *@grid.map { |row| [level - 1, *row, level - 1] }, rim]
        @level = level
        link(segments)
      end

      private

      def segments
        (0...(@ys.size - 1)).each_with_object({}) do |j, steps|
          inside = [@values[j], @values[j + 1]].map { |row| row.map { |v| v >= @level } }
          (0...(@xs.size - 1)).each do |i|
            key = (inside[0][i] ? 8 : 0) + (inside[0][i + 1] ? 4 : 0) + (inside[1][i + 1] ? 2 : 0) + (inside[1][i] ? 1 : 0)
            next if [0, 15].include?(key)

            (SEGMENTS[key] || saddle(key, j, i)).each { |from, to| steps[edge(from, j, i)] = edge(to, j, i) }
          end
        end
      end

      # The middle of a saddle is the mean of its corners.
      def saddle(key, row, column)
        mean = [@values[row][column], @values[row][column + 1], @values[row + 1][column], @values[row + 1][column + 1]].sum / 4
        SADDLES.fetch(key)[mean >= @level ? 1 : 0]
      end

      # An edge by the node it begins at and its direction.
      def edge(side, row, column)
        case side
        when :top then [row, column, :across]
        when :bottom then [row + 1, column, :across]
        when :left then [row, column, :down]
        else [row, column + 1, :down]
        end
      end

      def link(steps)
        rings = []
        until steps.empty?
          start = at = steps.first.first
          ring = []
          loop do
            ring << point(at)
            at = steps.delete(at)
            break if at == start
          end
          rings << ring.chunk_while { |a, b| a == b }.map(&:first)
        end
        rings
      end

      def point((row, column, way))
        other = way == :across ? [row, column + 1] : [row + 1, column]
        a = @values[row][column]
        share = (@level - a) / (@values[other[0]][other[1]] - a)
        [@xs[column] + (share * (@xs[other[1]] - @xs[column])), @ys[row] + (share * (@ys[other[0]] - @ys[row]))]
      end
    end
  end
end
