# frozen_string_literal: true

require_relative '../job/document'
require_relative 'aim'
require_relative 'contour'
require_relative 'foretold'
require_relative 'picture_pair'
require_relative 'wall_figures'

module Miser
  module Beam
    # The beams of a job: its walls, what they are held against, what a file foretells.
    class Beams
      KINDS = %w[low high].freeze
      SIDES = %w[before after].freeze

      # A wall as entered.
      # @!attribute wall [Wall, nil] where it can be judged @!attribute reason [String, nil] where it can't
      Entry = Struct.new(:document, :wall, :reason, keyword_init: true) do
        def id = document['id']
        def beam = document['beam']
        def side = document['side']
      end

      # @param document [Hash, Job::Document]
      # @param shelf [#call] Photometry by the id of its file, nil where there is none
      def initialize(document, shelf)
        @document = Job::Document.of(document)
        @in = @document.beam
        @aim = @document.aim
        @settings = @document.settings
        @shelf = shelf
      end

      # @return [Array<Entry>]
      def entries = @entries ||= @document.walls.map { |w| Beams.entry(w, @settings) }

      # @param document [Hash] a wall as entered
      # @param settings [Assumptions]
      # @return [Entry]
      def self.entry(document, settings = Assumptions.new)
        wall = Wall.new(document, settings: settings)
        return Entry.new(document: document, wall: wall) if wall.lit?

        Entry.new(document: document, reason: wall.any? ? 'No cell read any light.' : 'No cell is read yet.')
      rescue UnreadyWall => e
        Entry.new(document: document, reason: "The #{e.message}.")
      end

      # @return [Entry, nil] of those that can be judged
      def entry(beam, side) = entries.reverse.find { |e| e.beam == beam && e.side == side && e.wall }

      # @return [Float] m, where the cut-off is measured: at the dipped beam's wall read last
      def line_distance
        (entries.reverse.find { |e| e.beam == 'low' && e.wall }&.wall || entries.reverse.find(&:wall)&.wall)&.distance ||
          Wall::USUAL['distance_m']
      end

      # @return [Boolean] whether nobody measured the cut-off: it is taken where the aim's school wants it
      def line_assumed? = @in['cutoff_m'].nil?

      # @return [Float] m, the cut-off from the axis, up, there
      def line = line_assumed? ? target * line_distance : -@in['cutoff_m']

      # Nearer or farther the cut-off lies in the same direction.
      # @param wall [Wall]
      # @return [Float] m
      def line_at(wall) = line * wall.distance / line_distance

      # @return [Comparison, nil] nil where a side is missing
      # @raise [WallsApart]
      def comparison(beam)
        before, after = SIDES.map { |side| entry(beam, side)&.wall }
        before && after && Comparison.new(before, after, glare?(beam) ? line_at(after) : nil)
      end

      # @return [Photometry, nil] of the file looked at
      def photometry = @shelf.call(file)

      # @return [String, nil] id of the file looked at
      def file = @document.predicted['file']

      # @return [String, nil]
      def file_name = @document.photometry.find { |f| f['id'] == file }&.fetch('name')

      # @return [Foretold, nil]
      def foretold
        return unless photometry

        @foretold ||= Foretold.new(photometry, asked: @document.predicted, aim: target, height: @aim['lamp_height_m'],
          measured: entry('low', 'after')&.wall, settings: @settings)
      end

      # One wall's light in figures, by its id; the foretold one's by the file looked at.
      # @return [WallFigures, nil]
      def figures(id)
        return of(foretold&.wall, 'low') if id == 'predicted'

        entries.find { |e| e.id == id }&.then { |e| of(e.wall, e.beam) }
      end

      # Whether light above a line blinds: a high beam is meant to light what is up there.
      def glare?(beam) = beam == 'low'

      # What the photometry of a part foretells, each on the same wall and aimed alike.
      # @param file [String, nil] id @param units [String] metric or us
      # @return [String, nil]
      def pattern(file, units: 'metric')
        wall = @shelf.call(file)&.wall(Wall::USUAL, down: -target)
        wall&.lit? ? wall.words(target * wall.distance, units: units) : nil
      end

      # Levels that every wall shares.
      # @return [Array<Float>] lx
      def levels
        brightest = [*entries.filter_map(&:wall), foretold&.wall].compact.map { |wall| wall.peak[:lux] }.max
        Contour.levels(brightest || 0.0)
      end

      # @return [PicturePair, nil] nil where one is missing
      def pictures(beam)
        before, after = photographs(beam)
        before && after && PicturePair.new(before, after, settings: @settings)
      end

      # @return [Array(Hash, Hash)] photographs before and after, nil where there is none
      def photographs(beam) = SIDES.map { |side| @document.photographs.find { |p| p['beam'] == beam && p['side'] == side } }

      private

      def of(wall, beam)
        return unless wall&.lit?

        WallFigures.new(wall, glare?(beam) ? line_at(wall) : nil, assumed: line_assumed?)
      end

      def target = Aim.new(@aim).school.target
    end
  end
end
