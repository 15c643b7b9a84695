# frozen_string_literal: true

require_relative 'contact'
require_relative 'joins'
require_relative 'kinds'
require_relative 'lines'
require_relative 'places'

module Miser
  module Feeds
    # How one function is fed: a kind, where it takes its current and its trigger, its wires as laid.
    class Feed
      # Where a relay sits, unless somebody says otherwise.
      RELAY_AT = 'battery'
      # m of an earth wire to the frame nearby, and of a coil's. Assumption.
      NEARBY_M = 0.3
      # Two ends a wire.
      JOINTS = 2
      EARTHS = { 'battery' => 'battery −', 'frame' => 'bare frame', 'bracket' => 'a bracket, painted' }.freeze
      WORDS = { load: 'load', relay: 'relay', battery: 'battery +', earth: 'earth', ground: 'frame' }.freeze

      attr_reader :row, :load, :kind, :places, :device

      # @param row [Hash] of the document's wiring, or one proposed
      # @param load [Hash] row of what it feeds
      # @param places [Places]
      # @param device [Hash, nil] row of the hub or controller it hangs on
      def initialize(row, load, places, device: nil)
        @row = row
        @load = load
        @places = places
        @device = device
        @kind = Kind.named(row['kind'])
      end

      def id = row['id']
      def load_id = load['id']

      # @return [String] a machine's wire that its current comes from; nil where a device's
      def source
        return if kind.device?

        kind.source == 'battery' ? 'battery' : row['source'] || kind.source || Lines.of(load['role'])
      end

      # @return [String, nil] a machine's wire that pulls its relay in
      def trigger = kind.relay? ? (row['trigger'] || Lines.of(load['role'])) : nil

      def fuse_a = row['fuse_a']

      # What its lamp's current passes beside wires and fuse, each with what it stands. A relay and its socket are bought apart,
      # so each has a rating of its own.
      # @return [Array<Contact>]
      def contacts = [*relay_contacts, *switch_contact, *terminal, *joints]

      # @return [String] where what it feeds is
      def at = row['at'] || places.of(load)

      # @return [String] key of EARTHS
      def earth = row['earth'] || (kind.source == 'battery' ? 'battery' : 'frame')

      # @return [Array<Wire>]
      def wires = @wires ||= kind.wires.map { |spec| wire(spec) }

      def wire_named(key) = wires.find { |w| w.key == key }

      # What its current meets out and back, from the source to earth, beside the load.
      # @return [Float] Ω
      def loop_ohms
        own = wires.select { |w| w.carries == :lamp }.sum(&:ohms)
        own + kind.extra_ohms + (fuse_a ? Feeds.fuse_ohms(fuse_a) : 0.0) + (earth == 'bracket' && earth_wire? ? BRACKET_OHM : 0.0)
      end

      def earth_wire? = kind.wires.any? { |s| s.to == :earth }

      # @return [Float] m out and back
      def loop_metres = wires.select { |w| w.carries == :lamp }.sum(&:length)

      # @return [Array<Wire>] behind its fuse
      def fused_wires = wires.select { |w| w.carries == :lamp && w.key != 'earth' }

      private

      def relay_contacts
        return [] unless kind.relay?

        [Contact.new(label: 'relay contact', amps: row['relay_a'] || RELAY_A),
          Contact.new(label: 'relay socket', amps: row['socket_a'] || RELAY_SOCKET_A)]
      end

      # A relay's switch carries its coil alone, a box's switch its trigger.
      def switch_contact
        return [] if row['switch_id'].nil? || kind.relay? || kind.device?

        [Contact.new(label: 'added switch', amps: ADDED_SWITCH_A)]
      end

      def terminal = kind.source == 'accessory' ? [Contact.new(label: 'accessory terminal', amps: TERMINAL_A)] : []

      def joints
        joins = wires.select { |w| w.carries == :lamp }.map(&:join).uniq
        joins.filter_map { |join| JOIN_A.key?(join) ? Contact.new(label: Joins.label(join), amps: JOIN_A.fetch(join)) : nil }
      end

      def stored = @stored ||= (row['wires'] || []).to_h { |w| [w['key'], w] }

      def wire(spec)
        said = stored.fetch(spec.key, {})
        ends = [place(spec.from), place(spec.to)]
        way = places.way(*ends)
        nearby = ends.uniq.one?
        Wire.new(key: spec.key, id: said['id'] || spec.key, label: spec.label, carries: spec.carries, from: words(spec.from), to: words(spec.to),
          from_place: ends[0], to_place: ends[1], way: way, length: said['length_m'] || (nearby ? NEARBY_M : way.metres),
          typed: said.key?('length_m'), area: said['area_mm2'] || spec.area,
          material: said['material'] || 'copper', colour: said['colour'], proved: said['proved'] == true, join: said['join'],
          joints: JOINTS, fused: spec.fused, near_exhaust: said['near_exhaust'] == true)
      end

      def place(which)
        case which
        when :load then at
        when :relay, :ground then place_of(row['relay_at'] || RELAY_AT)
        when :battery then places.battery
        when :earth then earth == 'battery' ? places.battery : at
        when :device then place_of(device&.fetch('at', nil) || 'battery')
        when :trigger then line_place(trigger)
        else line_place(source)
        end
      end

      def place_of(key) = key == 'battery' ? places.battery : key

      def line_place(key)
        line = Lines::BY_KEY[key] or return places.battery
        place_of(row['tapped_at'] || line.place)
      end

      def words(which)
        case which
        when :earth then EARTHS.fetch(earth)
        when :device then device&.fetch('name', nil) || kind.label.downcase
        when :line then Lines::BY_KEY[source]&.label || source.to_s
        when :trigger then Lines::BY_KEY[trigger]&.label || trigger.to_s
        when :load then load['name']
        else WORDS.fetch(which)
        end
      end
    end
  end
end
