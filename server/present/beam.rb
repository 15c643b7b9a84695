# frozen_string_literal: true

require_relative '../../core/miser'

module Miser
  module Server
    # Beams on the wall, as the contract has them.
    module Present
      # Rows and columns of a photometry table that a screen shows.
      TABLE_MOST = 25

      module_function

      # @param document [Hash] job
      # @param shelf [#call] photometry by its id
      # @return [Hash]
      def beam(document, shelf)
        entered = document['beam'] || {}
        line = -(entered['cutoff_m'] || 0.0)
        walls = (entered['walls'] || []).map { |w| [w, wall_of(w)] }
        foretold = foretold(document, walls, shelf)
        brightest = [*walls.map(&:last), foretold&.wall].filter_map { |w| w.peak[:lux] if w.is_a?(Beam::Wall) }.max
        levels = Beam::Contour.levels(brightest || 0.0)
        beams = %w[low high]
        { cutoff_m: line, levels: levels, walls: walls.map { |w, wall| wall_view(w, wall, line_at(wall, walls, line), levels) },
          comparisons: beams.filter_map { |b| comparison(walls, b, line) }, pictures: beams.filter_map { |b| pictures(entered, b) },
          predicted: foretold && predicted(document, foretold, shelf, walls, line, levels) }
      end

      # @return [Beam::Wall, String] or why there is none
      def wall_of(document)
        wall = Beam::Wall.new(document)
        return 'No cell is read yet.' unless wall.any?

        wall.lit? ? wall : 'No cell read any light.'
      rescue ArgumentError => e
        "The #{e.message}."
      end

      # The cut-off belongs to the wall read after; nearer or farther it lies in the same direction.
      def line_at(wall, walls, line)
        reference = walls.map(&:last).reverse.find { |w| w.is_a?(Beam::Wall) }
        wall.is_a?(Beam::Wall) && reference ? line * wall.distance / reference.distance : line
      end

      def wall_view(document, wall, line, levels)
        base = { id: document['id'], beam: document['beam'], side: document['side'], reason: wall.is_a?(String) ? wall : nil, figures: nil, xs: [], ys: [], lux: [], contours: [] }
        return base if wall.is_a?(String)

        base.merge(drawn(wall, levels), line_m: line, read: Array.new(wall.rows) { |j| Array.new(wall.columns) { |i| !wall.lux(j, i).nil? } },
                                        figures: wall_figures(document['id'], wall, line).merge(relative: document['phone'] == true))
      end

      def drawn(wall, levels)
        { xs: wall.xs, ys: wall.ys, lux: wall.grid.map { |r| r.map { |v| v.round(2) } }, contours: contours(wall.xs, wall.ys, wall.grid, levels) }
      end

      # @return [Array<Hash>] rings by level, in tenths of a millimetre
      def contours(xs, ys, grid, levels)
        lines = Beam::Contour.new(xs, ys, grid)
        levels.map { |level| { level: level, rings: lines.rings(level).map { |ring| ring.map { |point| point.map { |v| v.round(4) } } } } }.reject { |c| c[:rings].empty? }
      end

      def wall_figures(id, wall, line)
        peak = wall.peak
        figures = Beam::WallFigures.new(wall, line)
        Beam::WallFigures::NAMES.to_h { |name| [name, figure(figures.public_send(name), "beam/#{id}/#{name}")] }
                                .merge(peak_lux: peak[:lux], peak_x: peak[:x], peak_y: peak[:y], peak_row: peak[:row], peak_column: peak[:column], glaring: wall.share_above(line) > Beam::Wall::GLARE,
                                       missing: wall.missing)
      end

      # A figure of a wall by the id it carries on screen.
      # @return [Figure, nil]
      def beam_figure(document, wall_id, name, shelf)
        return unless Beam::WallFigures::NAMES.include?(name&.to_sym)

        line = -(document.dig('beam', 'cutoff_m') || 0.0)
        walls = (document.dig('beam', 'walls') || []).map { |w| [w, wall_of(w)] }
        wall = wall_id == 'predicted' ? foretold(document, walls, shelf)&.wall : walls.find { |w, _| w['id'] == wall_id }&.last
        return unless wall.is_a?(Beam::Wall) && wall.lit?

        Beam::WallFigures.new(wall, line_at(wall, walls, line)).public_send(name)
      end

      # The photometry file looked at, on its wall.
      # @return [Beam::Foretold, nil]
      def foretold(document, walls, shelf)
        asked = document.dig('beam', 'predicted') || {}
        photometry = shelf.call(asked['file']) or return nil
        measured = walls.find { |w, wall| w['beam'] == 'low' && w['side'] == 'after' && wall.is_a?(Beam::Wall) }&.last
        Beam::Foretold.new(photometry, asked: asked, aim: Beam::Aim.new(document['aim'] || {}).school.target, height: document.dig('aim', 'lamp_height_m'), measured: measured)
      end

      def predicted(document, foretold, shelf, walls, line, levels)
        id = document.dig('beam', 'predicted', 'file')
        photometry = shelf.call(id)
        wall = foretold.wall.lit? ? foretold.wall : 'None of its light falls on this wall.'
        { id: id, name: (document.dig('beam', 'photometry') || []).find { |f| f['id'] == id }&.fetch('name'), type: photometry.type, table_peak_cd: photometry.peak, watts: photometry.watts,
          lumens: photometry.lumens, down: foretold.down, floor_m: foretold.floor, distance_m: foretold.frame['distance_m'], table: table(photometry),
          wall: wall_view({ 'id' => 'predicted', 'beam' => 'low', 'side' => 'after' }, wall, line_at(wall, walls, line), levels), beside: foretold.beside(line) }
      end

      # Candela by angle, thinned evenly where the table is larger than a screen.
      def table(photometry)
        down, across = [photometry.verticals, photometry.horizontals].map { |list| thin(list.size) }
        { verticals: down.map { |i| photometry.verticals[i] }, horizontals: across.map { |i| photometry.horizontals[i] }, candela: down.map { |v| across.map { |h| photometry.candela[h][v] } },
          rows: photometry.verticals.size, columns: photometry.horizontals.size }
      end

      def thin(count)
        return (0...count).to_a if count <= TABLE_MOST

        Array.new(TABLE_MOST) { |i| (i * (count - 1) / (TABLE_MOST - 1.0)).round }
      end

      def comparison(walls, beam, line)
        before, after = %w[before after].map { |side| walls.find { |w, wall| w['beam'] == beam && w['side'] == side && !wall.is_a?(String) }&.last }
        return unless before && after

        compared = Beam::Comparison.new(before, after, line)
        { beam: beam, sentence: compared.sentence, peak: compared.peak, light: compared.light, glare: compared.glare, difference: difference(compared.shared) }
      rescue Beam::SharedWall::Apart => e
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

      def pictures(entered, beam)
        before, after = %w[before after].map { |side| (entered['photographs'] || []).find { |p| p['beam'] == beam && p['side'] == side } }
        return unless before || after

        pair = before && after && Beam::PicturePair.new(before, after)
        { beam: beam, before: before && picture(before), after: after && picture(after), stops: pair&.stops, comparable: pair&.comparable? || false, words: pair&.words,
          notes: pair ? pair.notes : [] }
      end

      def picture(row) = { id: row['id'], name: row['name'], exposure: Beam::Exposure.new(row).to_s, taken: row['taken'], width: row['width'], height: row['height'] }
    end
  end
end
