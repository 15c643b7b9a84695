# frozen_string_literal: true

require_relative '../network/solver'
require_relative 'flasher'

module Miser
  module Signals
    # The turn-signal loop of one machine as it is wired: battery, fuse, flasher,
    # switch, lamps, tell-tale, the tail and brake lamp that shares their earth, and what was
    # added or went wrong. Remedies and faults each make another harness of it; a state makes
    # a circuit of it.
    # @!attribute others [Array<Other>] @!attribute switch_ohm, side_ohm [Hash{String=>Float}] more in a side's contact (not in
    #   hazard, which has contacts of its own) and in its feed @!attribute earths [Hash{String=>Float}] Ω of a place's common earth
    # @!attribute jumpers [Array<Array(String, String)>] nodes that a lead was clipped between
    Harness = Struct.new(:lamps, :telltale, :flasher, :resistors, :joined_ohm, :shorts, :fuse_a, :fuse_blown, :feed_ohm, :source_ohm,
      :others, :switch_ohm, :side_ohm, :earths, :jumpers, keyword_init: true) do
      def initialize(others: [], switch_ohm: {}, side_ohm: {}, earths: {}, jumpers: [], **rest) = super

      # @param changes [Hash] members to replace
      # @return [Harness]
      def with(**changes) = self.class.new(**to_h, **changes)

      # @param id [String]
      # @yieldparam lamp [Lamp] @yieldreturn [Lamp]
      def with_lamp(id) = with(lamps: lamps.map { |l| l.id == id ? yield(l) : l })

      def side(name) = lamps.select { |l| l.side == name }

      def lamp(id) = lamps.find { |l| l.id == id }

      # @return [Array<String>] places where several lamps hang on one earth
      def shared_places
        PLACES.select { |p| lamps.count { |l| l.place == p } + others.count { |o| o.place == p } > 1 }
      end

      # @return [Array<String>] what a person can command and look at
      def states = others.any? { |o| o.filaments.key?('brake') } ? [*COMMANDS, BRAKE] : COMMANDS

      # The node that a point of the loop is, as it stands: good joints have none of their own.
      # @param point [String] a node; a lamp's or another light's `_shell`; a side's `_switch` behind its switch; `fused` behind the fuse;
      #   49 and 49a of the flasher's plug
      # @return [String]
      def node(point)
        return flasher.crossed == (point == '49') ? 'out' : 'fed' if %w[49 49a].include?(point)
        return bad_feed? ? point : 'fed' if point == 'fused'

        id, what = point.match(/\A(.*)_(shell|switch)\z/)&.captures
        return side_ohm[id] ? point : id if what == 'switch'
        return point unless what && (spot = lamp(id) || others.find { |o| o.id == id })

        own = spot.respond_to?(:shell?) ? spot.shell? : spot.earth_ohm.positive?
        own ? point : earth_node(spot.place)
      end

      # @return [Boolean] whether the joint behind the fuse is worth a node of its own
      def bad_feed? = feed_ohm > BAD_FEED_OHM

      # @return [String] of a place's common earth: earth itself while it is good
      def earth_node(place) = earths.key?(place) ? "earth_#{place}" : '0'

      # @return [Array<String>] ids of all that can be looked at
      def lit_ids = lamps.map(&:id) + light_names.keys

      # @param id [String] of a lamp, or of another light
      # @return [String, nil]
      def name_of(id) = lamp(id)&.name || light_names[id]

      # Lights that are no signals: by the id of their element, what they are called.
      # @return [Hash{String=>String}]
      def light_names
        running = lamps.select(&:running).to_h { |l| ["run_#{l.id}", "#{l.name}, running light"] }
        others.reduce(running) { |all, o| all.merge(o.filaments.keys.to_h { |f| [f, o.filaments.size > 1 ? "#{o.name}: #{f}" : o.name] }) }
      end
    end

    # A lamp that signals nothing and hangs on an earth with those that do.
    # @!attribute place [String] @!attribute earth_ohm [Float] of its own shell
    # @!attribute filaments [Hash{String=>Draws}] by what feeds it: tail, brake
    Other = Struct.new(:id, :name, :place, :filaments, :earth_ohm, keyword_init: true) do
      def with(**changes) = self.class.new(**to_h, **changes)
    end

    # What a light draws. @!attribute law [String] @!attribute volts, amps, from_v [Float]
    Draws = Struct.new(:law, :volts, :amps, :from_v, keyword_init: true) do
      def filament? = law == 'filament'
    end

    # One signal lamp where it hangs.
    # @!attribute side [String] left or right @!attribute place [String] front, rear …
    # @!attribute law [String] draw law @!attribute volts, amps [Float] its draw there
    # @!attribute from_v [Float] LED: where it begins
    # @!attribute running [Array(Float, Float), nil] volts and amps of the second filament in the same bulb
    # @!attribute feed_side [String, nil] the side whose plug it is on, where that is not its own
    # @!attribute open [Boolean] its wire is @!attribute dead [Boolean, nil] it lets nothing through itself
    # @!attribute unplugged [Boolean, nil] its holder is empty
    Lamp = Struct.new(:id, :name, :side, :place, :load_id, :law, :volts, :amps, :from_v, :bridged, :reversed, :open, :wire_ohm, :earth_ohm,
      :running, :contacts_joined, :feed_side, :dead, :unplugged, keyword_init: true) do
      def with(**changes) = self.class.new(**to_h, **changes)

      # @return [String] side whose wire feeds it
      def fed_by = feed_side || side

      def filament? = law == 'filament'

      # @return [Boolean] whether it can't light, whatever its volts
      def out? = dead || unplugged || false

      # A seat with two contacts, or one whose earth is in question, has a node of its own.
      def shell? = !running.nil? || earth_ohm > 1
    end

    # @!attribute wiring [String] pair: one each side to earth; shared: one between the
    #   sides; diodes: one fed through a diode from each side; pilot: on the flasher's output;
    #   none; burnt: it is open
    Telltale = Struct.new(:wiring, :law, :volts, :amps, :from_v, keyword_init: true) do
      def with(**changes) = self.class.new(**to_h, **changes)

      def filament? = law == 'filament'
    end

    # A load resistor across one side (series: wrongly in its wire).
    Shunt = Struct.new(:id, :side, :ohms, :rated_w, :series, keyword_init: true)

    # What is commanded, and what the flasher's contact does just now.
    # @!attribute command [String] off, left, right, hazard
    # @!attribute closed [Boolean] @!attribute lights [Boolean] running lights on
    # @!attribute volts [Float] of the battery @!attribute brake [Boolean] held
    State = Struct.new(:command, :closed, :lights, :volts, :brake, keyword_init: true) do
      def to_s
        "#{command}, contact #{closed ? 'closed' : 'open'}, lights #{lights ? 'on' : 'off'}#{', brake held' if brake}, #{volts} V"
      end
    end

    COMMANDS = %w[off left right hazard].freeze
    # Ω in the feed from which there is a joint that can be found.
    BAD_FEED_OHM = 0.5
    # Nothing commanded, the brake held.
    BRAKE = 'brake'
    # Where several lamps have one earth.
    PLACES = %w[front rear].freeze
    SIDES = %w[left right].freeze

    # Makes the circuit of a harness in a state.
    class LoopCircuit
      CONTACT_OHM = 0.01
      FUSE_OHM = 0.005
      # Ω of a lead clipped between two points.
      JUMPER_OHM = 0.05
      # States in which no signal is commanded.
      IDLE = ['off', BRAKE].freeze
      # Which node feeds a light that is no signal.
      FEEDS = { 'tail' => 'run', 'brake' => 'stop' }.freeze

      # @param harness [Harness] @param state [State]
      def initialize(harness, state)
        @h = harness
        @s = state
      end

      # @return [Network::Solver]
      def circuit
        Network::Solver.new([*feed, *@h.lamps.flat_map { |l| lamp(l) }, *SIDES.flat_map { |s| resistors(s) }, *telltale, *bridges,
          *other_lights, *earths, *other_feeds, *jumpers])
      end

      private

      def wire(id, a, b, ohms) = Network::Resistor.new(id, a, b, ohms)

      def feed
        contact = @s.closed && @h.flasher.passes? ? CONTACT_OHM : @h.flasher.leak_ohm || Network::Resistor::OPEN
        contact = CONTACT_OHM if @h.flasher.welded
        [Network::Source.new('battery', 'bat', '0', @s.volts, @h.source_ohm), *supply, wire('flasher', 'fed', 'out', contact),
          *SIDES.flat_map { |s| switch(s) },
          *@h.shorts.map { |node, ohms| wire("pinch_#{node}", node, '0', ohms) }]
      end

      # The fuse, and the joint behind it where that is bad.
      def supply
        fuse = @h.fuse_blown ? Network::Resistor::OPEN : FUSE_OHM
        return [wire('fuse', 'bat', 'fed', fuse + @h.feed_ohm)] unless @h.bad_feed?

        [wire('fuse', 'bat', 'fused', fuse), wire('feed', 'fused', 'fed', @h.feed_ohm)]
      end

      # Its own contact, or the hazard's; then the side's feed, where it is worth a resistance.
      def switch(side)
        contact = { side => @h.switch_ohm.fetch(side, 0.0), 'hazard' => 0.0 }[@s.command]
        ohms = contact ? CONTACT_OHM + contact : Network::Resistor::OPEN
        joint = @h.side_ohm[side] or return [wire("switch_#{side}", 'out', side, ohms)]

        [wire("switch_#{side}", 'out', "#{side}_switch", ohms), wire("side_#{side}", "#{side}_switch", side, joint)]
      end

      def resistors(side) = @h.resistors.select { |r| r.side == side && !r.series }.map { |r| wire(r.id, side, '0', r.ohms) }

      # Wire, lamp, earth; a resistor wrongly in series lies in the wire. A lamp whose
      # shell is nobody else's keeps its earth's resistance in the wire.
      def lamp(l)
        series = @h.resistors.find { |r| r.series && r.side == l.side }
        earth = earth(l.place)
        ohms = l.wire_ohm + (series ? series.ohms : 0) + (l.shell? ? 0 : l.earth_ohm)
        shell = l.shell? ? "#{l.id}_shell" : earth
        parts = [wire("wire_#{l.id}", l.fed_by, "#{l.id}_feed", l.open ? Network::Resistor::OPEN : [ohms, 1e-3].max),
          light(l.id, l, "#{l.id}_feed", shell)]
        parts << wire("earth_#{l.id}", shell, earth, [l.earth_ohm, 1e-3].max) if l.shell?
        parts << running(l, shell) if l.running
        parts << wire("touch_#{l.id}", "#{l.id}_feed", 'run', 0.05) if l.contacts_joined
        parts
      end

      def running(l, shell)
        return wire("run_#{l.id}", 'run', shell, Network::Resistor::OPEN) if l.unplugged

        Network::Filament.new("run_#{l.id}", 'run', shell, *l.running)
      end

      def light(id, what, a, b)
        return wire(id, a, b, Network::Resistor::OPEN) if what.respond_to?(:out?) && what.out?
        return Network::Filament.new(id, a, b, what.volts, what.amps) if what.filament?

        Network::Led.new(id, a, b, kind: what.law, volts: what.volts, amps: what.amps, from_v: what.from_v,
          reversed: (what.respond_to?(:reversed) && what.reversed) || false,
          bridged: (what.respond_to?(:bridged) && what.bridged) || false)
      end

      def telltale
        t = @h.telltale
        case t.wiring
        when 'pair' then SIDES.map { |s| light("telltale_#{s}", t, s, '0') }
        when 'shared' then [light('telltale', t, 'left', 'right')]
        when 'diodes' then [*SIDES.map { |s| Network::Diode.new("diode_#{s}", s, 'tell') }, light('telltale', t, 'tell', '0')]
        when 'pilot' then [light('telltale', t, 'out', '0')]
        else []
        end
      end

      def bridges = @h.joined_ohm ? [wire('join', 'left', 'right', @h.joined_ohm)] : []

      def jumpers = @h.jumpers.each_with_index.map { |ends, i| wire("jumper#{i}", *ends.map { |point| @h.node(point) }, JUMPER_OHM) }

      def earth(place) = @h.earth_node(place)

      def earths
        used = (@h.lamps + @h.others).map(&:place).uniq
        @h.earths.slice(*used).map { |place, ohms| wire("common_#{place}", earth(place), '0', ohms) }
      end

      # Tail and brake.
      def other_lights
        @h.others.flat_map do |o|
          own = o.earth_ohm.positive?
          shell = own ? "#{o.id}_shell" : earth(o.place)
          o.filaments.map { |feed, draws| light(feed, draws, FEEDS.fetch(feed), shell) } +
            (own ? [wire("earth_#{o.id}", shell, earth(o.place), o.earth_ohm)] : [])
        end
      end

      # Running filaments and the tail hang on the lights' feed, the brake on its switch: on or open.
      def other_feeds
        fed = @h.others.flat_map { |o| o.filaments.keys }
        lights = fed.include?('tail') || @h.lamps.any? { |l| l.running || l.contacts_joined }
        [(wire('lights', 'bat', 'run', @s.lights ? CONTACT_OHM : Network::Resistor::OPEN) if lights),
          (wire('brake_switch', 'bat', 'stop', @s.brake ? CONTACT_OHM : Network::Resistor::OPEN) if fed.include?('brake'))].compact
      end
    end
  end
end
