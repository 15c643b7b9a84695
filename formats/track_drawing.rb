# frozen_string_literal: true

require_relative '../core/wiring/survey'
require_relative 'drawn_text'
require_relative 'wire_paint'

module Miser
  module Formats
    # The wiring as current tracks: rails 30, 15 and 31 run across, each consumer in a numbered track of its own, a
    # relay's coil and contact in different tracks with each other's number. Screens and drawing files draw from this.
    class TrackDrawing
      # A symbol. @!attribute kind [String] fuse, contact, coil, pull, lamp, load, box @!attribute id [String, nil] of what it is when it is
      #   touched: a load or a device @!attribute part [String] by which the state answers for it
      # @!attribute value [Hash, nil] where its live figures are written: x, y
      Part = Struct.new(:kind, :id, :part, :x, :y, :filament, :value, keyword_init: true)
      # A drawn wire. @!attribute wire [Hash, nil] feed and key, where it is one somebody lays
      Run = Struct.new(:points, :paint, :wire, :load, keyword_init: true)
      Rail = Struct.new(:key, :y, :from, :to, keyword_init: true)

      WIDE = 184
      LEFT = 84
      TOP = { '30' => 44, '15' => 88, '31' => 560 }.freeze
      NUMBER_Y = 596
      HIGH = 616
      SLOTS = { fuse: 132, contacts: [204, 272], label: 326, consumer: 416, earth: 498 }.freeze
      # Contacts a line goes through behind rail 15: DIN 72552 at the switch.
      CONTACTS = { 'lights' => [['lights', 'light switch', true]], 'low' => [['lights', 'light switch', true], ['high', 'dip: low', false]],
                   'high' => [['lights', 'light switch', true], ['high', 'dip: high', true]], 'brake' => [['brake', 'brake switch', true]],
                   'left' => [['left', 'flasher, left', true]], 'right' => [['right', 'flasher, right', true]],
                   'horn' => [['horn', 'horn button', true]] }.freeze

      attr_reader :parts, :runs, :texts, :rails

      # From a track to what is written beside its symbol; the next one's symbol wants as much.
      SIDE = 34
      # From a track to what is written of its wire: there the next one has no symbol.
      WIRE = 16
      # Tracks that a row on paper holds.
      ON_PAPER = 7

      # The same in rows for paper.
      # @return [Array<TrackDrawing>]
      def self.rows(survey, all: false)
        count = new(survey, all: all).count
        (0...[count, 1].max).each_slice(ON_PAPER).map { |row| new(survey, all: all, only: row) }
      end

      # @param survey [Wiring::Survey] @param all [Boolean] lamps that stay on the machine's own wires as well
      # @param only [Array<Integer>, nil] tracks, from nothing on
      def initialize(survey, all: false, only: nil)
        @only = only
        @scheme = survey.scheme
        @parts = []
        @runs = []
        @texts = []
        @closes = {}
        lay_out((all ? @scheme.consumers : @scheme.altered).sort_by.with_index { |c, i| [rank(c), i] })
        tops = @scheme.battery? ? TOP : TOP.except('30')
        @rails = tops.map { |key, y| Rail.new(key: key, y: y, from: LEFT - 20, to: width - 16) }
        tops.each { |key, y| text(20, y + 6, [key], size: 18, bold: true) }
      end

      # @return [Integer] tracks of the whole
      attr_reader :count

      def width = LEFT + (WIDE * (@only ? ON_PAPER : [count, 3].max)) + 20
      def height = HIGH

      # @param look [Wiring::Look]
      # @return [Array<String>] contacts that are closed
      def closed(look)
        @closes.select { |_, (kind, what, on)| kind == :switch ? look.state.include?(what) == on : look.relays.include?(what) }.keys
      end

      private

      def lay_out(consumers)
        tracks = consumers.flat_map { |c| tracks_of(c) } + @scheme.devices.each_index.map { |i| [:device, i] }
        numbers = tracks.each_with_index.to_h { |track, i| [track, i + 1] }
        @count = tracks.size
        tracks.each_with_index do |(kind, what), i|
          next if @only && !@only.include?(i)

          @x = LEFT + (WIDE * (i - (@only&.first || 0))) + 30
          send("draw_#{kind}", kind == :device ? what : @scheme.consumer_of(what), numbers)
          text(@x - 6, NUMBER_Y, [(i + 1).to_s], size: 18, role: 'number')
        end
      end

      # What takes most thought first, what only plugs in last.
      def rank(c)
        return 3 if c.feed.nil? || c.feed.kind.wires.empty?
        return 0 if c.feed.kind.relay?

        c.feed.kind.device? ? 1 : 2
      end

      def tracks_of(c) = c.feed&.kind&.relay? ? [[:coil, c.id], [:load, c.id]] : [[:load, c.id]]

      def text(x, y, lines, size: 16, bold: false, role: 'name', load: nil)
        @texts << DrawnText.new(x: x, y: y, lines: lines, size: size, bold: bold, role: role, load: load)
      end

      # Right of the track, as many lines as there is room for.
      def beside(y, words, lines: 2, dx: WIRE, **rest)
        text(@x + dx, y, DrawnText.wrapped(words, room: WIDE - dx - (dx == WIRE ? 8 : SIDE), size: 16, most: lines), **rest)
      end

      def run(from, to, wire: nil, load: nil, colour: nil)
        @runs << Run.new(points: [[@x, from], [@x, to]], paint: WirePaint.of(colour), wire: wire, load: load)
      end

      def part(kind, id, part, y, filament: nil, value: nil)
        @parts << Part.new(kind: kind, id: id, part: part, x: @x, y: y, filament: filament, value: value)
      end

      # Contacts of the machine's switches, one under the other; with the switch that was added for it.
      def contacts(c, line, own)
        list = CONTACTS.fetch(line, []).reject { |key, _| key == 'lights' && @scheme.wiring['lights'] == 'with_key' }
        list += [[Wiring::Switches.own(own), own_name(own), true]] if own
        list.first(2).each_with_index do |(key, label, on), i|
          y = SLOTS[:contacts][i]
          id = "#{@x}_#{key}"
          @closes[id] = [:switch, key, on]
          part('contact', c.id, id, y)
          beside(y + 5, label, dx: 22, load: c.id)
        end
      end

      def own_name(id) = Job::Document.rows(@scheme.wiring, 'switches').find { |s| s['id'] == id }&.fetch('name') || 'switch'

      def rail_of(line) = line && Feeds::Lines::BY_KEY.fetch(line).hot? ? TOP['30'] : TOP['15']

      def wire_words(wire)
        [wire.colour && "#{wire.colour}#{', proved' if wire.proved}", Draw::Conductor.words(wire.area, @scheme.units),
          Length.far(wire.length, @scheme.units)].compact.join(' ').gsub(/(\d) (?=[a-zA-Z])/, "\\1\u00A0")
      end

      def wire_label(c, key, y)
        wire = c.feed&.wire_named(key) or return
        beside(y, wire_words(wire), lines: 3, role: 'wire', load: c.id)
      end

      def fuse(c, rating)
        part('fuse', c.id, c.part('f'), SLOTS[:fuse])
        beside(SLOTS[:fuse] + 5, format('%g A', rating), dx: 22, load: c.id)
      end

      # What it is fed by, top to bottom.
      def draw_load(c, numbers)
        feed = c.feed
        return draw_boxed(c, numbers) if feed&.kind&.device?

        line = feed.nil? || feed.kind.wires.empty? ? c.line : feed.source
        path(c, rail_of(line), hot_wire(feed), machine_colour(line))
        return contacts(c, line, nil) unless feed

        fuse(c, feed.fuse_a) if feed.fuse_a
        feed.kind.relay? ? relay_contact(c, numbers) : contacts(c, line, feed.row['switch_id'])
      end

      # The one that ends at the load.
      def hot_wire(feed) = feed && %w[feed out supply].filter_map { |key| feed.wire_named(key) }.first

      def draw_boxed(c, numbers)
        path(c, SLOTS[:contacts][0] - 30, c.feed.wire_named('out'), nil)
        output(c, numbers)
      end

      # Rail, wire, what it feeds, wire, earth.
      def path(c, top, first, colour)
        earth = c.feed&.wire_named('earth')
        run(top, SLOTS[:consumer] - 24, wire: first && [c.id, first.key], load: c.id, colour: first&.colour || colour)
        run(SLOTS[:consumer] + 24, TOP['31'], wire: earth && [c.id, 'earth'], load: c.id, colour: earth&.colour)
        wire_label(c, first.key, SLOTS[:label]) if first
        wire_label(c, 'earth', SLOTS[:earth])
        consumer(c)
      end

      def machine_colour(line)
        Job::Document.rows(@scheme.wiring, 'colours').find { |r| r['function'] == line && r['of'].to_s.empty? }&.fetch('colour', nil)
      end

      def consumer(c)
        y = SLOTS[:consumer]
        part(c.lamp? ? 'lamp' : 'load', c.id, c.id, y, filament: c.filament?, value: { x: @x + SIDE, y: y + 40 })
        beside(y - 20, c.name, dx: SIDE, bold: true, lines: 3, load: c.id)
      end

      def relay_contact(c, numbers)
        y = SLOTS[:contacts][0]
        id = "#{@x}_pull"
        @closes[id] = [:relay, c.id, true]
        part('pull', c.id, id, y)
        beside(y - 12, '30', dx: 22, load: c.id, lines: 1)
        beside(y + 10, "87, coil in #{numbers[[:coil, c.id]]}", dx: 22, load: c.id)
      end

      def output(c, numbers)
        device = @scheme.devices.index { |d| d.equal?(c.feed.device) }
        out = c.feed.device && Wiring::Devices.output(c.feed.device, c.feed.row['output'])
        part('box', c.feed.device&.fetch('id'), "#{@x}_box", SLOTS[:contacts][0])
        words = out ? "#{out.label}, box in #{numbers[[:device, device]]}" : 'output not chosen'
        beside(SLOTS[:contacts][0] - 4, words, dx: SIDE, load: c.id, lines: 3)
      end

      def draw_coil(c, numbers)
        feed = c.feed
        trigger = feed.wire_named('trigger')
        run(rail_of(feed.trigger), SLOTS[:consumer] - 20, wire: [c.id, 'trigger'], load: c.id, colour: trigger.colour || machine_colour(feed.trigger))
        run(SLOTS[:consumer] + 20, TOP['31'], wire: [c.id, 'coil_earth'], load: c.id, colour: feed.wire_named('coil_earth').colour)
        contacts(c, feed.trigger, feed.row['switch_id'])
        wire_label(c, 'trigger', SLOTS[:label])
        part('coil', c.id, c.part('k'), SLOTS[:consumer], value: { x: @x + SIDE, y: SLOTS[:consumer] + 40 })
        beside(SLOTS[:consumer] - 20, "coil, contact in #{numbers[[:load, c.id]]}", dx: SIDE, lines: 3, load: c.id)
        text(@x - SIDE, SLOTS[:consumer] - 26, ['86'], load: c.id)
        text(@x - SIDE, SLOTS[:consumer] + 38, ['85'], load: c.id)
        wire_label(c, 'coil_earth', SLOTS[:earth])
      end

      def draw_device(index, _numbers)
        device = @scheme.devices[index]
        run(TOP['30'], SLOTS[:consumer] - 24, load: device['id'])
        run(SLOTS[:consumer] + 24, TOP['31'], load: device['id'])
        if device['fuse_a']
          part('fuse', device['id'], "df#{index}", SLOTS[:fuse])
          beside(SLOTS[:fuse] + 5, format('%g A', device['fuse_a']), dx: 22, load: device['id'])
        end
        part('load', device['id'], device['id'], SLOTS[:consumer], value: { x: @x + SIDE, y: SLOTS[:consumer] + 40 })
        beside(SLOTS[:consumer] - 20, device['name'], dx: SIDE, bold: true, lines: 3, load: device['id'])
      end
    end
  end
end
