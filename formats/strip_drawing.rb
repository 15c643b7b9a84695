# frozen_string_literal: true

require_relative '../core/wiring/survey'
require_relative 'drawn_text'
require_relative 'wire_paint'

module Miser
  module Formats
    # The machine from front to rear as a strip, every wire a lane with gauge, length and ends: what is cut, and where it
    # is laid.
    class StripDrawing
      # @!attribute from, to [Integer] x @!attribute wire [Array(String, String)] load and key
      Lane = Struct.new(:y, :from, :to, :paint, :wire, keyword_init: true)
      Stop = Struct.new(:key, :x, keyword_init: true)

      ORDER = %w[head bars dash neck tank engine seat tail rack].freeze
      LEFT = 70
      STEP = 128
      TOP = 64
      LANE = 34
      # Room for what is said of a wire, right of the places.
      WORDS = 640

      attr_reader :lanes, :stops, :texts

      # @param survey [Wiring::Survey]
      def initialize(survey)
        @scheme = survey.scheme
        @texts = []
        wires = @scheme.altered.flat_map { |c| c.feed.wires.map { |w| [c, w] } }
        used = wires.flat_map { |_, w| [w.from_place, w.to_place] } + [@scheme.places.battery]
        places = ORDER.select { |k| used.include?(k) }
        @stops = places.each_with_index.map { |key, i| Stop.new(key: key, x: LEFT + (STEP * i)) }
        @stops.each { |s| head(s) }
        @lanes = wires.each_with_index.map { |(c, w), i| lane(c, w, lane_y(i)) }
        spares.each_with_index { |row, i| spare(row, lane_y(wires.size + i)) }
      end

      def width = words_x + WORDS
      def height = TOP + 30 + (LANE * [@lanes.size + spares.size, 1].max)

      # The same as rows to cut by.
      # @return [Array<Array<String>>] head first
      def self.cut_list(survey)
        units = survey.scheme.units
        rows = survey.scheme.altered.flat_map do |c|
          c.feed.wires.map do |w|
            [c.name, w.label, w.from, w.to, w.way.via.join(' – '), format('%.2f', w.length), Draw::Conductor.words(w.area, units),
              Draw::Conductor::MATERIALS.fetch(w.material).first, w.colour, w.proved ? 'yes' : 'no', w.join,
              w.fused && c.feed.fuse_a ? format('%g', c.feed.fuse_a) : nil]
          end
        end
        [['for', 'wire', 'from', 'to', 'laid along', 'length m', 'size', 'conductor', 'colour', 'proved', 'joined by', 'fuse A'], *rows]
      end

      private

      def lane_y(index) = TOP + 26 + (LANE * index)

      # Leads of a harness that this machine does not use: named, so that nobody wonders.
      def spares = Job::Document.rows(@scheme.wiring, 'spares')

      def spare(row, y)
        words = [row['name'], row['colour'], row['live'] ? 'live' : nil, row['capped'] ? 'capped' : 'NOT capped'].compact.join(', ')
        said("spare lead: #{words}", y, nil)
      end

      def said(words, y, load)
        lines = DrawnText.wrapped(words, room: WORDS - 10, size: 16, most: 1)
        @texts << DrawnText.new(x: words_x, y: y, lines: lines, size: 16, bold: false, role: load ? 'wire' : 'spare', load: load)
      end

      def words_x = LEFT + (STEP * (@stops.size - 1)) + 70

      def x(place) = @stops.find { |s| s.key == place }.x

      def head(stop)
        words = Feeds::Places::BY_KEY.fetch(stop.key).label
        words = "#{words}, battery" if stop.key == @scheme.places.battery
        lines = DrawnText.wrapped(words, room: STEP - 12, size: 16, most: 2)
        @texts << DrawnText.new(x: stop.x - 40, y: 24, lines: lines, size: 16, bold: true, role: 'head')
      end

      def lane(c, wire, y)
        from, to = [wire.from_place, wire.to_place].map { |p| x(p) }
        to += 40 if from == to
        fuse = wire.fused && c.feed.fuse_a ? format(', fuse %g A', c.feed.fuse_a) : ''
        size = [wire.colour, Draw::Conductor.words(wire.area, @scheme.units), Length.far(wire.length, @scheme.units)].compact.join(' ')
        said("#{c.name}, #{wire.label}: #{size}#{fuse}", y, c.id)
        Lane.new(y: y - 5, from: from, to: to, paint: WirePaint.of(wire.colour), wire: [c.id, wire.key])
      end
    end
  end
end
