# frozen_string_literal: true

require_relative '../network/solver'
require_relative 'flasher'

module Miser
  module Signals
    # The turn-signal loop of one machine as it is wired: battery, fuse, flasher,
    # switch, lamps, tell-tale, and what was added or went wrong. Remedies and faults
    # each make another harness of it; a state makes a circuit of it.
    Harness = Struct.new(:lamps, :telltale, :flasher, :resistors, :joined_ohm, :shorts, :fuse_a, :fuse_blown, :feed_ohm, :source_ohm,
      keyword_init: true) do
      # @param changes [Hash] members to replace
      # @return [Harness]
      def with(**changes) = self.class.new(**to_h, **changes)

      # @param id [String]
      # @yieldparam lamp [Lamp] @yieldreturn [Lamp]
      def with_lamp(id) = with(lamps: lamps.map { |l| l.id == id ? yield(l) : l })

      def side(name) = lamps.select { |l| l.side == name }

      def lamp(id) = lamps.find { |l| l.id == id }
    end

    # One signal lamp where it hangs.
    # @!attribute side [String] left or right @!attribute place [String] front, rear …
    # @!attribute law [String] draw law @!attribute volts, amps [Float] its draw there
    # @!attribute from_v [Float] LED: where it begins
    # @!attribute running [Array(Float, Float), nil] volts and amps of the second filament in the same bulb
    Lamp = Struct.new(:id, :name, :side, :place, :load_id, :law, :volts, :amps, :from_v, :bridged, :reversed, :open, :wire_ohm, :earth_ohm,
      :running, :contacts_joined, keyword_init: true) do
      def with(**changes) = self.class.new(**to_h, **changes)

      def filament? = law == 'filament'

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
    # @!attribute volts [Float] of the battery
    State = Struct.new(:command, :closed, :lights, :volts, keyword_init: true) do
      def to_s = "#{command}, contact #{closed ? 'closed' : 'open'}, lights #{lights ? 'on' : 'off'}, #{volts} V"
    end

    COMMANDS = %w[off left right hazard].freeze
    SIDES = %w[left right].freeze

    # Makes the circuit of a harness in a state.
    class Wiring
      CONTACT_OHM = 0.01
      FUSE_OHM = 0.005

      # @param harness [Harness] @param state [State]
      def initialize(harness, state)
        @h = harness
        @s = state
      end

      # @return [Network::Solver]
      def circuit = Network::Solver.new([*feed, *SIDES.flat_map { |s| side(s) }, *telltale, *bridges, *running_feed])

      private

      def wire(id, a, b, ohms) = Network::Resistor.new(id, a, b, ohms)

      def feed
        fuse = @h.fuse_blown ? Network::Resistor::OPEN : FUSE_OHM + @h.feed_ohm
        contact = @s.closed && @h.flasher.passes? ? CONTACT_OHM : @h.flasher.leak_ohm || Network::Resistor::OPEN
        contact = CONTACT_OHM if @h.flasher.welded
        [Network::Source.new('battery', 'bat', '0', @s.volts, @h.source_ohm), wire('fuse', 'bat', 'fed', fuse),
          wire('flasher', 'fed', 'out', contact),
          *SIDES.map { |s| wire("switch_#{s}", 'out', s, switched?(s) ? CONTACT_OHM : Network::Resistor::OPEN) },
          *@h.shorts.map { |node, ohms| wire("pinch_#{node}", node, '0', ohms) }]
      end

      def switched?(side) = [side, 'hazard'].include?(@s.command)

      def side(name)
        @h.side(name).flat_map { |l| lamp(l) } + @h.resistors.select { |r| r.side == name && !r.series }.map do |r|
          wire(r.id, name, '0', r.ohms)
        end
      end

      # Wire, lamp, earth; a resistor wrongly in series lies in the wire. A lamp whose
      # shell is nobody else's keeps its earth's resistance in the wire.
      def lamp(l)
        series = @h.resistors.find { |r| r.series && r.side == l.side }
        ohms = l.wire_ohm + (series ? series.ohms : 0) + (l.shell? ? 0 : l.earth_ohm)
        shell = l.shell? ? "#{l.id}_shell" : '0'
        parts = [wire("wire_#{l.id}", l.side, "#{l.id}_feed", l.open ? Network::Resistor::OPEN : [ohms, 1e-3].max),
          light(l.id, l, "#{l.id}_feed", shell)]
        parts << wire("earth_#{l.id}", shell, '0', [l.earth_ohm, 1e-3].max) if l.shell?
        parts << Network::Filament.new("run_#{l.id}", 'run', shell, *l.running) if l.running
        parts << wire("touch_#{l.id}", "#{l.id}_feed", 'run', 0.05) if l.contacts_joined
        parts
      end

      def light(id, what, a, b)
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

      # Running filaments hang on their own feed, on or open with the lights.
      def running_feed
        return [] unless @h.lamps.any? { |l| l.running || l.contacts_joined }

        [wire('lights', 'bat', 'run', @s.lights ? CONTACT_OHM : Network::Resistor::OPEN)]
      end
    end
  end
end
