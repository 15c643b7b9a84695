# frozen_string_literal: true

require_relative '../../core/miser'

module Miser
  module Server
    # Beams on the wall, as the contract has them.
    module Present
      module_function

      # @param document [Hash] job
      # @return [Hash]
      def beam(document)
        entered = document['beam'] || {}
        line = -(entered['cutoff_m'] || 0.0)
        walls = (entered['walls'] || []).map { |w| [w, wall_of(w)] }
        { cutoff_m: line, walls: walls.map { |w, wall| wall_view(w, wall, line) }, comparisons: %w[low high].filter_map { |b| comparison(walls, b, line) } }
      end

      # @return [Beam::Wall, String] or why there is none
      def wall_of(document)
        wall = Beam::Wall.new(document)
        wall.any? ? wall : 'No cell is read yet.'
      rescue ArgumentError => e
        "The #{e.message}."
      end

      def wall_view(document, wall, line)
        base = { id: document['id'], beam: document['beam'], side: document['side'], reason: wall.is_a?(String) ? wall : nil, figures: nil, xs: [], ys: [], lux: [] }
        return base if wall.is_a?(String)

        half = wall.extent(0.5)
        tenth = wall.extent(0.1)
        base.merge(xs: wall.xs, ys: wall.ys, lux: wall.grid.map { |r| r.map { |v| v.round(2) } }, read: Array.new(wall.rows) { |j| Array.new(wall.columns) { |i| !wall.lux(j, i).nil? } },
                   figures: { peak_lux: wall.peak[:lux], peak_cd: wall.peak[:candela], peak_x: wall.peak[:x], peak_y: wall.peak[:y], centroid_x: wall.centroid[0], centroid_y: wall.centroid[1],
                              half_w: half[0], half_h: half[1], tenth_w: tenth[0], tenth_h: tenth[1], lumens: wall.lumens, lumens_sigma: wall.lumens_sigma, glare: wall.share_above(line),
                              glaring: wall.share_above(line) > Beam::Wall::GLARE,
                              missing: wall.missing, relative: document['phone'] == true })
      end

      # What a photometry file would lay on a wall of the job's, else on a usual one.
      USUAL = { 'id' => 'predicted', 'beam' => 'low', 'side' => 'after', 'distance_m' => 5.0, 'columns' => 9, 'rows' => 5, 'width_m' => 3.2, 'up_m' => 0.4, 'down_m' => 0.8 }.freeze

      # @param photometry [Beam::Photometry] @param frame [Hash, nil] a wall of the job
      def predicted(photometry, frame, line, down)
        frame = frame && frame['distance_m'] ? frame.except('cells', 'phone') : USUAL
        blank = Beam::Wall.new(frame)
        cells = blank.ys.each_with_index.flat_map { |y, j| blank.xs.each_with_index.map { |x, i| { 'id' => "r#{j}c#{i}", 'lux' => photometry.lux(x, y, blank.distance, down: down) } } }
        view = wall_view(frame, Beam::Wall.new(frame.merge('cells' => cells)), line)
        { type: photometry.type, table_peak_cd: photometry.peak, watts: photometry.watts, wall: view }
      end

      def comparison(walls, beam, line)
        before, after = %w[before after].map { |side| walls.find { |w, wall| w['beam'] == beam && w['side'] == side && !wall.is_a?(String) }&.last }
        return unless before && after

        compared = Beam::Comparison.new(before, after, line)
        { beam: beam, sentence: compared.sentence, peak: compared.peak, light: compared.light, glare: compared.glare }
      end
    end
  end
end
