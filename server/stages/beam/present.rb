# frozen_string_literal: true

require_relative '../../stage_views'

module Miser
  module Server
    # Beams on the wall, as the contract has them.
    module BeamView
      extend Present

      # Rows and columns of a photometry table that a screen shows.
      TABLE_MOST = 25

      module_function

      # @param beams [Beam::Beams]
      # @return [Hash]
      def beam(beams)
        levels = beams.levels
        kinds = Beam::Beams::KINDS
        { cutoff_m: beams.line, cutoff_assumed: beams.line_assumed?, cutoff_distance_m: beams.line_distance, levels: levels,
          walls: beams.entries.map { |e| wall_view(beams, e, levels) }, comparisons: kinds.filter_map { |b| comparison(beams, b) },
          pictures: kinds.filter_map { |b| pictures(beams, b) }, predicted: beams.foretold && predicted(beams, levels) }
      end

      def wall_view(beams, entry, levels)
        wall = entry.wall
        base = { id: entry.id, beam: entry.beam, side: entry.side, reason: entry.reason, figures: nil, xs: [], ys: [], row_numbers: [],
                 lux: [], contours: [] }
        return base unless wall

        base.merge(drawn(wall, levels), line_m: beams.glare?(entry.beam) ? beams.line_at(wall) : nil,
          read: Array.new(wall.rows) { |j| Array.new(wall.columns) { |i| !wall.lux(j, i).nil? } },
          figures: wall_figures(entry.id, beams.figures(entry.id), wall))
      end

      def drawn(wall, levels)
        { xs: wall.xs, ys: wall.ys, row_numbers: wall.row_numbers, lux: wall.grid.map { |r| r.map { |v| v.round(2) } },
          contours: contours(wall.xs, wall.ys, wall.grid, levels) }
      end

      # @return [Array<Hash>] rings by level, in tenths of a millimetre
      def contours(xs, ys, grid, levels)
        lines = Beam::Contour.new(xs, ys, grid)
        levels.map do |level|
          { level: level, rings: lines.rings(level).map { |ring| ring.map { |point| point.map { |v| v.round(4) } } } }
        end.reject { |c| c[:rings].empty? }
      end

      def wall_figures(id, figures, wall)
        peak = wall.peak
        Beam::WallFigures::NAMES.to_h { |name| [name, figure(figures.public_send(name), "beam/#{id}/#{name}")] }
                                .merge(peak_lux: peak[:lux], peak_x: peak[:x], peak_y: peak[:y], peak_row: peak[:row],
                                  peak_column: peak[:column], glaring: figures.glaring?, advice: figures.more_rows,
                                  at_least: figures.at_least.select { |_, more| more }.keys,
                                  missing: wall.missing, relative: wall.phone?)
      end

      def predicted(beams, levels)
        foretold = beams.foretold
        photometry = beams.photometry
        lit = foretold.wall.lit?
        entry = Beam::Beams::Entry.new(document: { 'id' => 'predicted', 'beam' => 'low', 'side' => 'after' },
          wall: lit ? foretold.wall : nil,
          reason: lit ? nil : 'None of its light falls on this wall.')
        { id: beams.file, name: beams.file_name, type: photometry.type, table_peak_cd: photometry.peak, table_lumens: photometry.flux,
          watts: photometry.watts, lumens: photometry.lumens,
          table: table(photometry), down: foretold.down, floor_m: foretold.floor, distance_m: foretold.frame['distance_m'],
          wall: wall_view(beams, entry, levels), beside: foretold.beside(beams.line_at(foretold.wall)) }
      end

      # Candela by angle, thinned evenly where the table is larger than a screen.
      def table(photometry)
        down, across = [photometry.verticals, photometry.horizontals].map { |list| thin(list.size) }
        { verticals: down.map { |i| photometry.verticals[i] }, horizontals: across.map { |i| photometry.horizontals[i] },
          candela: down.map { |v| across.map { |h| photometry.candela[h][v] } },
          rows: photometry.verticals.size, columns: photometry.horizontals.size }
      end

      def thin(count)
        return (0...count).to_a if count <= TABLE_MOST

        Array.new(TABLE_MOST) { |i| (i * (count - 1) / (TABLE_MOST - 1.0)).round }
      end

      def comparison(beams, beam)
        compared = beams.comparison(beam) or return
        { beam: beam, sentence: compared.sentence, peak: compared.peak, light: compared.light, glare: compared.glare,
          difference: difference(compared.shared) }
      rescue WallsApart => e
        { beam: beam, sentence: "Not to be compared: #{e.message}.", peak: nil, light: nil, glare: nil, difference: nil }
      end

      # After less before, with rings round more and round less light.
      def difference(shared)
        wall = shared.second
        change = shared.difference
        levels = Beam::Contour.levels(change.flatten.map(&:abs).max)
        { xs: wall.xs, ys: wall.ys, lux: change.map { |r| r.map { |v| v.round(2) } }, more: contours(wall.xs, wall.ys, change, levels),
          less: contours(wall.xs, wall.ys, change.map { |r| r.map(&:-@) }, levels) }
      end

      def pictures(beams, beam)
        before, after = beams.photographs(beam)
        return unless before || after

        pair = beams.pictures(beam)
        { beam: beam, before: before && picture(before), after: after && picture(after), stops: pair&.stops,
          comparable: pair&.comparable? || false, words: pair&.words,
          notes: pair ? pair.notes : [] }
      end

      def picture(row)
        { id: row['id'], name: row['name'], exposure: Beam::Exposure.new(row).to_s, taken: row['taken'], width: row['width'],
          height: row['height'] }
      end
    end
  end
end
