# frozen_string_literal: true

module Miser
  module Beam
    # A grid of lux read on a flat wall at a marked distance, and what it says of the
    # beam. x runs to the right of the lamp's axis, y up from it, m.
    class Wall
      # What an unread cell may be off from its neighbours' mean, as a share (assumption).
      UNREAD = 0.5
      # A telephone's light sensor: relative, so well among copies (assumption).
      PHONE = 0.30
      # A light meter's own error, alike in every cell (assumption).
      METER = 0.03
      # Share of the light above the cut-off from which it is called glare (assumption).
      GLARE = 0.15

      attr_reader :columns, :rows, :distance

      # @param document [Hash] distance_m, columns, rows, width_m, up_m, down_m, phone, cells (id r2c5, lux)
      # @raise [ArgumentError] naming what is missing
      def initialize(document)
        %w[distance_m columns rows width_m up_m down_m].each { |k| raise ArgumentError, "#{k.sub('_m', '')} is not entered" unless document[k] }
        @distance = document['distance_m'].to_f
        @columns = document['columns'].to_i
        @rows = document['rows'].to_i
        @width = document['width_m'].to_f
        @up = document['up_m'].to_f
        @down = document['down_m'].to_f
        @phone = document['phone'] == true
        @read = (document['cells'] || []).to_h { |c| [c['id'], c['lux']] }.compact
      end

      # @return [Array<Float>] m, left to right
      def xs = @xs ||= Array.new(columns) { |i| (-@width / 2) + (@width * i / (columns - 1)) }

      # @return [Array<Float>] m, top to bottom
      def ys = @ys ||= Array.new(rows) { |j| @up - ((@up + @down) * j / (rows - 1)) }

      # @return [Float, nil] lx as read
      def lux(row, column) = @read["r#{row}c#{column}"]

      def read_count = @read.size

      def missing = (columns * rows) - read_count

      # @return [Array<Array<Float>>] lx, unread cells from their read neighbours by inverse square of distance
      def grid = @grid ||= Array.new(rows) { |j| Array.new(columns) { |i| lux(j, i) || between(j, i) } }

      def any? = read_count.positive?

      # I = E·d² on the axis; ÷ cos³ off it, for a flat wall.
      # @return [Float] cd
      def candela(lux, x, y) = lux * (distance**2) / ((distance / Math.sqrt((distance**2) + (x**2) + (y**2)))**3)

      # @return [Hash, nil] lux, candela, x, y of the brightest cell read
      def peak
        @peak ||= @read.max_by(&:last)&.then do |id, value|
          row, column = id.scan(/\d+/).map(&:to_i)
          { lux: value, candela: candela(value, xs[column], ys[row]), x: xs[column], y: ys[row], row: row, column: column }
        end
      end

      # @return [Array(Float, Float)] m, where the light balances
      def centroid
        total = integrate { |_, _| 1.0 }
        [integrate { |x, _| x } / total, integrate { |_, y| y } / total]
      end

      # Width and height through the peak where the light falls to a share of it.
      # @param share [Float] 0.5 or 0.1
      # @return [Array(Float, Float)] m
      def extent(share)
        limit = peak[:lux] * share
        [span(grid[peak[:row]], xs, peak[:column], limit), span(grid.map { |r| r[peak[:column]] }, ys, peak[:row], limit)]
      end

      # Lumens on the wall: trapezoids of ∬E dA.
      # @return [Float] lm
      def lumens = @lumens ||= integrate { |_, _| 1.0 }

      # @return [Float] lm, one standard uncertainty: the unread cells' and the meter's
      def lumens_sigma
        unread = integrate { |_, _, j, i| lux(j, i) ? 0.0 : 1.0 }
        Math.hypot(unread * UNREAD, lumens * (@phone ? PHONE : METER))
      end

      # Share of the light above a line: glare.
      # @param line [Float] m from the axis, up
      # @return [Float]
      def share_above(line)
        return 0.0 if lumens.zero?

        integrate { |_, y| y > line ? 1.0 : 0.0 } / lumens
      end

      private

      # Trapezoid weights in both directions.
      # @yieldparam x, y [Float] m @yieldparam row, column [Integer] @yieldreturn [Float] factor on E
      def integrate
        dx = @width / (columns - 1)
        dy = (@up + @down) / (rows - 1)
        sum = 0.0
        rows.times do |j|
          columns.times do |i|
            edge = (j.zero? || j == rows - 1 ? 0.5 : 1.0) * (i.zero? || i == columns - 1 ? 0.5 : 1.0)
            sum += edge * grid[j][i] * yield(xs[i], ys[j], j, i)
          end
        end
        sum * dx * dy
      end

      def between(row, column)
        weight = 0.0
        sum = 0.0
        @read.each do |id, value|
          r, c = id.scan(/\d+/).map(&:to_i)
          w = 1.0 / ((((r - row)**2) + ((c - column)**2))**2)
          weight += w
          sum += w * value
        end
        weight.zero? ? 0.0 : sum / weight
      end

      # From the peak outward to where the limit is crossed, straight between cells.
      def span(values, places, at, limit)
        (edge(values, places, at, limit, -1) - edge(values, places, at, limit, 1)).abs
      end

      def edge(values, places, at, limit, step)
        i = at
        i += step while i.between?(0, values.size - 1) && values[i] >= limit
        return places[i.clamp(0, values.size - 1)] unless i.between?(0, values.size - 1)

        inside = i - step
        share = (values[inside] - limit) / (values[inside] - values[i])
        places[inside] + (share * (places[i] - places[inside]))
      end
    end
  end
end
