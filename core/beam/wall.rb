# frozen_string_literal: true

require_relative '../assumptions'
require_relative '../errors'
require_relative '../length'
require_relative 'resolution'

module Miser
  module Beam
    # A grid of lux read on a flat wall at a marked distance, and what it says of the
    # beam. x runs to the right of the lamp's axis, y up from it, m.
    class Wall
      # Where nothing is read yet.
      USUAL = { 'distance_m' => 5.0, 'columns' => 9, 'rows' => 5, 'width_m' => 3.2, 'up_m' => 0.4, 'down_m' => 0.8 }.freeze
      FRAME = USUAL.keys.freeze
      # Grids offered, columns and rows: common practice begins with 9 by 5.
      GRIDS = [[9, 5], [15, 9], [21, 11], [41, 21]].freeze
      # Row and column of the marks of usual walls, by their ids.
      MOST_ROWS = 21
      MOST_COLUMNS = 41
      PLACES = (0...MOST_ROWS).to_a.product((0...MOST_COLUMNS).to_a).to_h { |place| [format('r%dc%d', *place), place] }.freeze
      # m; a row nearer to another is that one.
      CLOSE = 1e-3
      # @!attribute id [String] r0c0 @!attribute x, y [Float] m
      Mark = Struct.new(:id, :x, :y, keyword_init: true)

      # @return [Assumptions]
      attr_reader :settings
      # @return [Integer] even_rows: as they are marked evenly; rows: with the one more, where it was read
      attr_reader :columns, :rows, :even_rows, :distance
      # @return [Array<Integer>] by which number each row is kept, from the top: the one more comes last
      attr_reader :row_numbers

      # A wall whose every cell is known.
      # @param frame [Hash] of FRAME @param own [Hash] what new takes beside it
      # @yieldparam x, y [Float] m @yieldreturn [Float] lx
      # @return [Wall]
      def self.filled(frame, **own)
        blank = new(frame)
        cells = blank.ys.each_with_index.flat_map do |y, j|
          blank.xs.each_with_index.map do |x, i|
            { 'id' => "r#{j}c#{i}", 'lux' => yield(x, y) }
          end
        end
        new(frame.merge('cells' => cells), **own)
      end

      # @param document [Hash] distance_m, columns, rows, width_m, up_m, down_m, phone, extra_row_m (under the axis), cells (id r2c5, lux)
      # @param settings [Assumptions]
      # @param sigma [Float, nil] share that every cell may be off alike, where it was not read with a meter
      # @raise [UnreadyWall] naming what is missing
      def initialize(document, settings: Assumptions.new, sigma: nil)
        FRAME.each { |k| raise UnreadyWall.new(missing: "#{k.sub('_m', '')} is not entered") unless document[k] }
        @distance = document['distance_m'].to_f
        @columns = document['columns'].to_i
        @width = document['width_m'].to_f
        @up = document['up_m'].to_f
        @down = document['down_m'].to_f
        hang_rows(document)
        @phone = document['phone'] == true
        @settings = settings
        @sigma = sigma
        @read = read_of(document['cells'] || [])
      end

      # @return [Array<Float>] what two walls must have alike to be compared cell by cell
      def frame = [@distance, @columns, @even_rows, @width, @up, @down]

      # @return [Array<Float>] m, left to right
      def xs = @xs ||= Array.new(columns) { |i| (-@width / 2) + (@width * i / (columns - 1)) }

      # @return [Array<Float>] m, top to bottom
      def ys = @ys ||= row_numbers.map { |number| @heights[number] }

      # The marks in the order a hand reads them: along a row, and back along the next.
      # @param from [String, nil] the mark to begin at, r0c0
      # @return [Array<Mark>]
      def marks(from: nil)
        rows = @heights.each_with_index.map { |y, j| xs.each_with_index.map { |x, i| Mark.new(id: "r#{j}c#{i}", x: x, y: y) } }
        list = rows.each_with_index.flat_map { |row, j| j.odd? ? row.reverse : row }
        list.drop(list.index { |m| m.id == from } || 0)
      end

      # @return [Float, nil] lx as read
      def lux(row, column) = @read[[row, column]]

      # @param x, y [Float] m, on the wall
      # @return [Float] lx, straight between cells
      def at(x, y)
        i, a = step((x + (@width / 2)) / @width * (columns - 1), columns)
        j = (0...(rows - 2)).find { |row| ys[row + 1] <= y } || (rows - 2)
        b = ((ys[j] - y) / (ys[j] - ys[j + 1])).clamp(0.0, 1.0)
        ((1 - b) * (((1 - a) * grid[j][i]) + (a * grid[j][i + 1]))) + (b * (((1 - a) * grid[j + 1][i]) + (a * grid[j + 1][i + 1])))
      end

      def read_count = @read.size

      def missing = (columns * rows) - read_count

      # @return [Array<Array<Float>>] lx, unread cells from their read neighbours by inverse square of distance
      def grid = @grid ||= Array.new(rows) { |j| Array.new(columns) { |i| lux(j, i) || between(j, i) } }

      def any? = read_count.positive?

      # @return [Boolean] whether any light was read; of a dark wall nothing more can be said
      def lit? = any? && peak[:lux].positive?

      # I = E·d² on the axis; ÷ cos³ off it, for a flat wall.
      # @return [Float] cd
      def candela(lux, x, y) = lux * (distance**2) / ((distance / Math.sqrt((distance**2) + (x**2) + (y**2)))**3)

      # @return [Hash, nil] lux, candela, x, y of the brightest cell read
      def peak
        @peak ||= @read.max_by(&:last)&.then do |(row, column), value|
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

      # Whether width and height at a share of the peak end where the marks end, not where the light does.
      # @return [Array(Boolean, Boolean)]
      def off_grid(share)
        limit = peak[:lux] * share
        [[grid[peak[:row]], peak[:column]], [grid.map { |r| r[peak[:column]] }, peak[:row]]].map do |line, at|
          [line[0..at], line[at..]].any? { |way| way.all? { |lux| lux >= limit } }
        end
      end

      # Lumens on the wall: trapezoids of ∬E dA.
      # @return [Float] lm
      def lumens = @lumens ||= integrate { |_, _| 1.0 }

      # @return [Float] lm, one standard uncertainty: the unread cells', what the marks can't resolve, and the meter's
      def lumens_sigma
        Math.hypot(read_sigma, lumens * meter_sigma)
      end

      # @return [Float] lm, without the meter's: what two walls read with one meter differ by
      def read_sigma = Math.hypot(unread_sigma, unresolved)

      # What may lie between the marks, down the rows and along them.
      # @return [Float] lm
      def unresolved = @unresolved ||= Math.hypot(down_rows.whole, across_rows)

      # @return [Array(Float, Float)] m, one standard uncertainty of where the light balances
      def centroid_sigma
        return [0.0, 0.0] if lumens.zero?

        [[across_columns, xs], [down_rows, ys]].zip(centroid).each_with_index.map do |((resolution, places), middle), side|
          along = places.each_cons(2).with_index.sum { |(a, b), i| ((((a + b) / 2) - middle) * resolution.sigma(i))**2 }
          Math.sqrt(along + (side.zero? ? leaning(middle)**2 : 0.0)) / lumens
        end
      end

      # @return [Float] lm, the unread cells' alone
      def unread_sigma = integrate { |_, _, j, i| lux(j, i) ? 0.0 : 1.0 } * @settings[:lux_unread]

      # @return [Boolean] whether it was read with a telephone
      def phone? = @phone

      # @return [Float] share that every mark may be off alike
      def meter_sigma = @sigma || @settings[meter_setting]

      # @return [Symbol] the setting that says so
      def meter_setting = @phone ? :lux_phone_sigma : :lux_meter_sigma

      # @return [Boolean] whether it was foretold, not read
      def foretold? = !@sigma.nil?

      # Share of the light above a line: glare.
      # @param line [Float] m from the axis, up
      # @return [Float]
      def share_above(line)
        return 0.0 if lumens.zero?

        ys.zip(strips).each_cons(2).sum { |upper, lower| strip_above(line, *upper, *lower) } / lumens
      end

      # What the marks can tell of that share: a sharp cut-off between two rows may lie anywhere between them.
      # @param line [Float] m from the axis, up
      # @return [Float] one standard uncertainty
      def share_above_sigma(line)
        return 0.0 if lumens.zero?

        share = share_above(line)
        parts = Array.new(rows - 1) { |j| above_sigma(j, line, share) }
        # Along the rows it is the same above and below: most of it falls out.
        Math.sqrt(parts.sum { |p| p**2 } + (((across_rows + unread_sigma) * share * (1 - share))**2)) / lumens
      end

      # The same, were one more row read at the line.
      # @return [Float]
      def share_above_sigma_with_row(line)
        j = strip_of(line) or return share_above_sigma(line)

        part = (ys[j] - line) / down_rows.gap(j)
        left = down_rows.gap(j) * down_rows.jump(j) * part * Resolution::ANYWHERE * Math.sqrt(part)
        rest = (share_above_sigma(line)**2) - ((above_sigma(j, line, share_above(line)) / lumens)**2)
        Math.sqrt([rest, 0.0].max + ((left / lumens)**2))
      end

      # How far width and height at a share of the peak may be off.
      # @return [Array(Float, Float)] m, one standard uncertainty
      def extent_sigma(share)
        limit = peak[:lux] * share
        [span_sigma(grid[peak[:row]], xs, peak[:column], limit), span_sigma(grid.map { |r| r[peak[:column]] }, ys, peak[:row], limit)]
      end

      # @return [Integer, nil] the row above a line between two rows
      def strip_of(line) = (0...(rows - 1)).find { |j| ys[j] > line && line >= ys[j + 1] }

      # Its pattern in a line.
      # @param line [Float] m, the cut-off from the axis @param units [String] metric or us
      # @return [String]
      def words(line, units: 'metric')
        wide, high = extent(0.5).zip(off_grid(0.5)).map { |metres, more| "#{'at least ' if more}#{Length.far(metres, units)}" }
        format('%<w>s × %<h>s at half of %<peak>.0f lx at %<d>s, %<glare>.0f ± %<doubt>.0f %% above the cut-off', w: wide, h: high,
          peak: peak[:lux], d: Length.far(distance, units), glare: share_above(line) * 100, doubt: share_above_sigma(line) * 100)
      end

      private

      # Even rows, and one more where somebody wants to know better.
      def hang_rows(document)
        @even_rows = document['rows'].to_i
        @heights = Array.new(@even_rows) { |j| @up - ((@up + @down) * j / (@even_rows - 1)) }
        more = document['extra_row_m'] && -document['extra_row_m']
        @heights << more if more && more < @up && more > -@down && @heights.none? { |y| (y - more).abs < CLOSE }
        # Nothing read on it yet, it is not there.
        there = @heights.size == @even_rows || (document['cells'] || []).any? { |c| c['lux'] && place_of(c['id'])&.first == @even_rows }
        @row_numbers = @heights.each_index.first(there ? @heights.size : @even_rows).sort_by { |number| -@heights[number] }
        @rows = @row_numbers.size
      end

      def place_of(id) = PLACES[id] || id.match(/\Ar(\d+)c(\d+)\z/)&.captures&.map(&:to_i)

      # @return [Hash{Array(Integer, Integer)=>Float}] lx by row from the top and column
      def read_of(cells)
        rank = row_numbers.each_with_index.to_h
        cells.each_with_object({}) do |cell, read|
          number, column = place_of(cell['id'])
          read[[rank[number], column]] = cell['lux'] if rank[number] && cell['lux'] && column < columns
        end
      end

      # @return [Array<Float>] lm a metre, row by row
      def strips = @strips ||= Array.new(rows) { |j| grid[j].each_cons(2).sum { |a, b| (a + b) / 2 } * @width / (columns - 1) }

      def down_rows = @down_rows ||= Resolution.new(ys, strips)

      def across_columns
        @across_columns ||= Resolution.new(xs, Array.new(columns) do |i|
          ys.each_cons(2).with_index.sum do |(a, b), j|
            (grid[j][i] + grid[j + 1][i]) / 2 * (a - b)
          end
        end)
      end

      # A cut-off that rises to one side is taken too high in one column and too low in the next.
      # @return [Float] lm·m
      def leaning(middle)
        sigmas = Array.new(columns) { |i| Resolution.new(ys, grid.map { |row| row[i] }).whole }
        xs.each_with_index.sum { |x, i| (x - middle).abs * sigmas[i] } * @width / (columns - 1) / Math.sqrt(2)
      end

      # What may lie between the marks of the rows: neighbours share their beam's shape, so it adds straight.
      # @return [Float] lm
      def across_rows
        @across_rows ||= begin
          sigmas = grid.map { |row| Resolution.new(xs, row).whole }
          ys.each_cons(2).with_index.sum { |(a, b), j| (sigmas[j] + sigmas[j + 1]) / 2 * (a - b) }
        end
      end

      # One strip's part in the doubt of what lies above a line; above and all together go up and down with it.
      # @return [Float] lm
      def above_sigma(strip, line, share)
        return down_rows.sigma(strip) * (line >= ys[strip] ? share : 1 - share) unless strip == strip_of(line)

        gap = down_rows.gap(strip)
        part = (ys[strip] - line) / gap
        # A step anywhere in the strip: variance of the light above the line, of all of it, and what they have in common.
        above = ((part**3) / 3) - ((part**4) / 4)
        common = ((part**2) / 4) - ((part**3) / 6)
        step = down_rows.jump(strip) * Math.sqrt([above + ((share**2) / 12) - (2 * share * common), 0.0].max)
        gap * Math.hypot(step, down_rows.bend(strip) * Resolution::BEND * ((part * (1 - share)) + ((1 - part) * share)))
      end

      def span_sigma(values, places, at, limit)
        resolution = Resolution.new(places, values)
        Math.hypot(*[-1, 1].map { |step| edge_sigma(resolution, values, at, limit, step) })
      end

      # Where the light falls under the limit between two marks; at the rim it is not known to fall at all.
      def edge_sigma(resolution, values, at, limit, step)
        i = at
        i += step while i.between?(0, values.size - 1) && values[i] >= limit
        return 0.0 unless i.between?(0, values.size - 1)

        strip = [i, i - step].min
        scatter = @settings[:lux_scatter] * Math.sqrt(2) * limit / (values[i] - values[i - step]).abs * resolution.gap(strip)
        way = (values[i - step] - limit) / (values[i - step] - values[i])
        Math.hypot(resolution.edge(strip, way), [scatter, resolution.gap(strip) * Resolution::ANYWHERE].min)
      end

      # @return [Array(Integer, Float)] the cell before and the share of the way to the next
      def step(place, count)
        whole = place.floor.clamp(0, count - 2)
        [whole, (place - whole).clamp(0.0, 1.0)]
      end

      # Trapezoid weights in both directions.
      # @yieldparam x, y [Float] m @yieldparam row, column [Integer] @yieldreturn [Float] factor on E
      def integrate
        dx = @width / (columns - 1)
        sum = 0.0
        rows.times do |j|
          tall = (ys[[j - 1, 0].max] - ys[[j + 1, rows - 1].min]) / 2
          columns.times { |i| sum += tall * (i.zero? || i == columns - 1 ? 0.5 : 1.0) * grid[j][i] * yield(xs[i], ys[j], j, i) }
        end
        sum * dx
      end

      def between(row, column)
        weight = 0.0
        sum = 0.0
        @read.each do |(r, c), value|
          w = 1.0 / ((((r - row)**2) + ((c - column)**2))**2)
          weight += w
          sum += w * value
        end
        weight.zero? ? 0.0 : sum / weight
      end

      # Light between two rows, as far as it lies above the line; straight between them.
      # @param above, below [Float] m, the rows @param top, bottom [Float] lm/m along them
      # @return [Float] lm
      def strip_above(line, above, top, below, bottom)
        return 0.0 if line >= above

        foot = [line, below].max
        at_foot = top + ((bottom - top) * (above - foot) / (above - below))
        (above - foot) * (top + at_foot) / 2
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
