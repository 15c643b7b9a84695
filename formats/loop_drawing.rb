# frozen_string_literal: true

require_relative '../core/signals/harness'
require_relative '../core/signals/terms'
require_relative 'drawn_text'
require_relative 'wire_paint'

module Miser
  module Formats
    # The loop laid out as a drawing: parts with their places, wires with the node they
    # belong to. Left hangs above, right below, the tell-tale between. Screens and the
    # drawing file both draw from this.
    class LoopDrawing
      # @!attribute kind [String] battery, fuse, flasher, switch, lamp, telltale, diode, resistor, earth
      # @!attribute id [String] of the element, where it has one
      # @!attribute turn [Integer] degrees
      # @!attribute label_at [String] right or above
      Part = Struct.new(:kind, :id, :label, :label_at, :x, :y, :turn, :filament, :pins, keyword_init: true)
      # A drawn wire. @!attribute points [Array<Array(Integer, Integer)>] @!attribute node [String]
      # @!attribute paint [Array<String>] the wire's colours, as entered
      Track = Struct.new(:points, :node, :paint, keyword_init: true)

      WIDTH = 760
      HEIGHT = 400
      MID = 200
      BUS = { 'left' => 128, 'right' => 272 }.freeze
      AWAY = { 'left' => -1, 'right' => 1 }.freeze
      FIRST_X = 540
      STEP_X = 130
      TELL_X = 452
      # What the wires' colours are called stands under the loop, in columns: beside the wires there is no room for any name.
      NAMES_Y = HEIGHT + 24
      NAME_WIDE = 180
      NAME_LINES = 3
      FLASHER_ROOM = 270

      attr_reader :parts, :wires, :texts

      # @param harness [Harness] @param colours [Hash{String=>String}] by function: supply, output, left, right
      def initialize(harness, colours = {})
        @h = harness
        @colours = colours
        @parts = []
        @wires = []
        @texts = []
        feed
        Signals::SIDES.each { |s| side(s) }
        telltale
        names
      end

      def width = [WIDTH, FIRST_X + (STEP_X * (Signals::SIDES.map { |s| @h.side(s).size }.max + (@h.resistors.any? ? 1 : 0))) - 40].max

      def height = named.empty? ? HEIGHT : HEIGHT + 24 + (NAME_LINES * 20)

      private

      def part(kind, x, y, id: nil, label: nil, turn: 0, filament: nil, pins: nil, label_at: 'above')
        @parts << Part.new(kind: kind, id: id, label: label, label_at: label_at, x: x, y: y, turn: turn, filament: filament, pins: pins)
      end

      def wire(node, *points, colour: nil) = @wires << Track.new(points: points, node: node, paint: WirePaint.of(@colours[colour]))

      # @return [Hash{String=>String}] wires whose colour is known
      def named = @colours.reject { |_, name| name.to_s.empty? }

      def names
        named.each_with_index do |(key, name), i|
          x = 24 + (NAME_WIDE * i)
          words = "#{Signals::Terms::WIRES.fetch(key)}: #{name}"
          @texts << DrawnText.new(x: x, y: NAMES_Y, size: 16, bold: false, role: 'wire',
            lines: DrawnText.wrapped(words, room: NAME_WIDE - 16, size: 16, most: NAME_LINES))
        end
      end

      def feed
        part('battery', 40, MID + 60, id: 'battery')
        part('earth', 40, MID + 118)
        wire('0', [40, MID + 84], [40, MID + 112])
        wire('bat', [40, MID + 36], [40, MID], [70, MID])
        part('fuse', 90, MID, id: 'fuse', label: @h.fuse_a && format('%g A', @h.fuse_a))
        wire('fed', [110, MID], [172, MID], colour: 'supply')
        part('flasher', 222, MID, id: 'flasher', pins: @h.flasher.kind.terminals)
        flasher_name
        flasher_earth if @h.flasher.kind.terminals.include?('31')
        wire('out', [272, MID], [338, MID], colour: 'output')
        part('switch', 360, MID, id: 'switch')
        Signals::SIDES.each do |s|
          wire(s, [384, MID + (AWAY[s] * 18)], [404, MID + (AWAY[s] * 18)], [404, BUS[s]], [FIRST_X, BUS[s]], colour: s)
        end
      end

      # Over it, left of where the wires to the lamps rise.
      def flasher_name
        lines = DrawnText.wrapped(@h.flasher.kind.label, room: FLASHER_ROOM, size: 16, most: 2)
        y = MID - 46 - ((lines.size - 1) * 16 * LINE)
        @texts << DrawnText.new(x: 404 - 12 - FLASHER_ROOM, y: y, lines: lines, size: 16, bold: false,
          role: 'name')
      end

      def flasher_earth
        wire('0', [222, MID + 34], [222, MID + 66])
        part('earth', 222, MID + 72)
      end

      def side(name)
        x = FIRST_X
        last = nil
        @h.side(name).each do |l|
          lamp(l, x, name)
          last = x
          x += STEP_X
        end
        @h.resistors.select { |r| r.side == name }.each do |r|
          resistor(r, x, name)
          last = x
        end
        wire(name, [FIRST_X, BUS[name]], [last, BUS[name]]) if last && last > FIRST_X
      end

      def lamp(lamp, x, side)
        away = AWAY[side]
        y = BUS[side] + (away * 52)
        wire("#{lamp.id}_feed", [x, BUS[side]], [x, y - (away * 20)])
        wire('0', [x, y + (away * 20)], [x, y + (away * 34)])
        part('lamp', x, y, id: lamp.id, label: lamp.place, label_at: 'right', filament: lamp.filament?)
        part('earth', x, y + (away * 40), turn: away.negative? ? 180 : 0)
      end

      def resistor(shunt, x, side)
        away = AWAY[side]
        y = BUS[side] + (away * 52)
        wire(side, [x, BUS[side]], [x, y - (away * 20)])
        wire('0', [x, y + (away * 20)], [x, y + (away * 34)])
        # One wrongly in series lies in the lamps' own wires: no element of the circuit is it alone.
        part('resistor', x, y, id: shunt.series ? nil : shunt.id, label: format('%g Ω', shunt.ohms), label_at: 'right')
        part('earth', x, y + (away * 40), turn: away.negative? ? 180 : 0)
      end

      def telltale
        case @h.telltale.wiring
        when 'shared'
          Signals::SIDES.each { |s| wire(s, [TELL_X, BUS[s]], [TELL_X, MID + (AWAY[s] * 18)]) }
          tell('telltale', TELL_X, MID)
        when 'pair' then Signals::SIDES.each { |s| to_earth(s, "telltale_#{s}") }
        when 'diodes' then through_diodes
        when 'pilot'
          wire('out', [305, MID], [305, MID + 44])
          tell('telltale', 305, MID + 62)
          wire('0', [305, MID + 80], [305, MID + 96])
          part('earth', 305, MID + 102)
        end
      end

      def tell(id, x, y, label_at = 'right')
        part('telltale', x, y, id: id, label: 'tell-tale', label_at: label_at, filament: @h.telltale.filament?)
      end

      # One each side, on a stub between the buses.
      def to_earth(side, id)
        x = side == 'left' ? TELL_X - 24 : TELL_X + 34
        away = -AWAY[side]
        wire(side, [x, BUS[side]], [x, BUS[side] + (away * 20)])
        tell(id, x, BUS[side] + (away * 38))
        wire('0', [x, BUS[side] + (away * 56)], [x, BUS[side] + (away * 66)])
        part('earth', x, BUS[side] + (away * 72), turn: away.negative? ? 180 : 0)
      end

      def through_diodes
        Signals::SIDES.each do |s|
          wire(s, [TELL_X, BUS[s]], [TELL_X, MID + (AWAY[s] * 46)])
          part('diode', TELL_X, MID + (AWAY[s] * 34), id: "diode_#{s}", turn: s == 'left' ? 90 : 270)
          wire('tell', [TELL_X, MID + (AWAY[s] * 22)], [TELL_X, MID])
        end
        wire('tell', [TELL_X, MID], [TELL_X + 26, MID])
        tell('telltale', TELL_X + 44, MID, 'above')
        wire('0', [TELL_X + 62, MID], [TELL_X + 76, MID])
        part('earth', TELL_X + 82, MID, turn: 270)
      end
    end
  end
end
