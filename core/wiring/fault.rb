# frozen_string_literal: true

require_relative 'look'

module Miser
  module Wiring
    # What can go wrong with the feeds of lamps and accessories: each kind says where it can sit, what it does to the circuit, how it is
    # proved and mended. How common each is, is common practice.
    class Fault
      # @!attribute key, label [String] @!attribute at [Symbol] consumer, relay, device, line @!attribute prior [Float]
      # @!attribute grades [Array<Float>, nil] Ω it can have @!attribute fits [#call] whether it can sit there
      # @!attribute change [#call] the Hurt it does, of a place and Ω
      Kind = Struct.new(:key, :label, :at, :prior, :check, :cure, :grades, :fits, :change, keyword_init: true)

      OPEN = Network::Resistor::OPEN
      # A joint that is bad, and one that is gone, Ω.
      JOINT = [5.0, OPEN].freeze
      # Ω between a chafed wire and the frame.
      CHAFED_OHM = 0.05

      # A fault at a place. @!attribute target [String, nil] id of a load, of a device, key of a line
      Instance = Struct.new(:kind, :target, :label, :ohms, :hurt) do
        def place_id = [kind.key, target].compact.join('@')
        def id = [place_id, ohms && (ohms == OPEN ? 'open' : format('%g', ohms))].compact.join('~')
        def prior = kind.prior / (kind.grades || [nil]).size
        def check = kind.check
        def cure = kind.cure
        def moves? = false

        def words
          if ohms
            "#{label}, #{ohms == OPEN ? 'open' : format('about %g Ω', ohms)}"
          else
            label
          end
        end
      end

      def self.kind(key, label, at, prior, check, cure, grades: nil, fits: ->(_) { true }, &change)
        Kind.new(key: key, label: label, at: at, prior: prior, check: check, cure: cure, grades: grades, fits: fits, change: change)
      end
      private_class_method :kind

      def self.more(id, ohms) = Hurt.new(ohms: { id => ohms })

      # First and last of the wires that carry the lamp's current.
      FIRST = ->(c) { c.feed&.wires&.find { |w| w.carries == :lamp } }
      EARTH = ->(c) { c.feed&.wires&.find { |w| w.key == 'earth' } }
      ON_MACHINE = ->(c) { c.feed.nil? || c.feed.wires.empty? }

      TABLE = [
        kind('dead', 'burnt out, or not plugged in', :consumer, 3.0, 'Full volts at its plug and nothing flows: it is the thing itself.',
          'Plug it home, or replace it.') { |c, _| Hurt.new(dead: [c.id]) },
        kind('joint', 'bad joint in its wire', :consumer, 3.0, 'Volts at the lamp, lit, against volts at the switch.',
          'Clean, crimp anew, grease.', grades: JOINT, fits: ON_MACHINE) { |c, ohms| more(c.part('m'), ohms) },
        kind('blown', 'fuse blown', :consumer, 2.0, 'Volts on both sides of the fuse.', 'Find why before fitting another of the same size.',
          fits: ->(c) { c.feed&.fuse_a && !c.feed.kind.device? }) { |c, _| more(c.part('f'), OPEN) },
        kind('wire', 'bad joint in its feed', :consumer, 3.0, 'Volts along the feed, from its source on: where they drop, it is.',
          'Make the joint anew.', grades: JOINT, fits: FIRST) { |c, ohms| more(c.part("w_#{FIRST[c].key}_"), ohms) },
        kind('earth', 'earth lost', :consumer, 2.5, 'Volts from its earth lead to battery −, on: there should be none.',
          'Straight to battery −, on bare metal.', grades: JOINT, fits: EARTH) { |c, ohms| more(c.part('w_earth_'), ohms) },
        kind('chafed', 'feed chafed through to the frame', :consumer, 1.2, 'Ohms from the feed to frame, lamp out.',
          'Insulate it, lay it clear.',
          fits: ->(c) { c.feed&.fuse_a && !c.feed.kind.device? }) { |c, _| Hurt.new(joins: [[c.part('c'), '0', CHAFED_OHM]]) },
        kind('coil', 'relay’s coil open', :relay, 1.0, 'Volts across 86 and 85, and no click.', 'Another relay.') do |c, _|
          more(c.part('k'), OPEN)
        end,
        kind('contact', 'relay’s contact burnt', :relay, 1.2, 'Volts from 30 to 87 while it is pulled in: there should be none.',
          'Another relay.', grades: JOINT) { |c, ohms| more(c.part('r'), ohms) },
        kind('welded', 'relay’s contact welded', :relay, 0.8, 'Pull the relay: it goes out.',
          'Another relay; ask what it carried.') do |c, _|
          Hurt.new(welded: [c.id])
        end,
        kind('trigger', 'trigger wire off', :relay, 2.0, 'Volts at 86 when it should pull in.', 'Make the joint at its tap anew.') do |c, _|
          more(c.part('w_trigger_'), OPEN)
        end,
        kind('coil_earth', 'earth of the relay’s coil lost', :relay, 1.2, 'Volts at 85: there should be none.', 'To bare metal.') do |c, _|
          more(c.part('w_coil_earth_'), OPEN)
        end,
        kind('box_fuse', 'fuse of the box blown', :device, 1.2, 'Volts on both sides of its fuse.', 'Find why before fitting another.',
          fits: ->((row, _)) { row['fuse_a'] }) { |(_, i), _| more("df#{i}", OPEN) },
        kind('box_supply', 'bad ring or wire of the box’s supply', :device, 1.0, 'Volts at its supply, all on, against the battery’s.',
          'Clean the ring, make the joint anew.', grades: JOINT) { |(_, i), ohms| more("dw#{i}", ohms) },
        kind('box_earth', 'earth of the box lost', :device, 1.2, 'Volts from its earth lead to battery −: there should be none.',
          'Straight to battery −, on bare metal.', grades: JOINT) { |(_, i), ohms| more("dwe#{i}", ohms) },
        kind('key_contact', 'worn contact of the key switch', :key, 1.0, 'Volts behind the key switch, lights on, against the battery’s.',
          'Clean it, or replace it.', grades: JOINT) { |_, ohms| more('s_15', ohms) },
        kind('switch', 'worn contact of its switch', :line, 1.2, 'Volts behind the switch, on, against volts before it.',
          'Open it, clean the contacts, or replace it.', grades: JOINT) { |line, ohms| more("s_#{line.key}", ohms) }
      ].freeze

      # @param scheme [Scheme] @param but [Array<String>] loads that belong to another circuit
      # @return [Array<Instance>] every fault that can sit there
      def self.all_in(scheme, but: [])
        loads = scheme.known.reject { |c| but.include?(c.id) }
        at = { consumer: loads.map { |c| [c, c.id, c.name] }, line: lines(loads).map { |l| [l, l.key, l.label] }, key: [[nil, nil, nil]],
               relay: loads.select { |c| c.feed&.kind&.relay? }.map { |c| [c, c.id, c.name] },
               device: scheme.devices.each_with_index.map { |row, i| [[row, i], row['id'], row['name'] || 'Box'] } }
        TABLE.flat_map { |kind| at.fetch(kind.at).select { |thing, *| kind.fits[thing] }.flat_map { |place| instances(kind, *place) } }
      end

      # Lamps' own wires that have a switch.
      def self.lines(loads)
        keys = loads.flat_map { |c| c.feed ? [c.feed.source, c.feed.trigger] : [c.line] }
        keys.compact.uniq.filter_map { |key| Feeds::Lines::BY_KEY[key] }.select { |l| l.lamp && !l.flashes? }
      end
      private_class_method :lines

      def self.instances(kind, thing, target, name)
        said = [name && (name[0].upcase + name[1..]), kind.label].compact.join(': ')
        (kind.grades || [nil]).map { |ohms| Instance.new(kind, target, said, ohms, kind.change.call(thing, ohms)) }
      end
      private_class_method :instances
    end
  end
end
