# frozen_string_literal: true

require_relative '../network/solver'
require_relative 'hurt'
require_relative 'scheme'

module Miser
  module Wiring
    # The wiring as one network, in a state of the switches and with some relays, outputs and channels on. Which of
    # them are on follows from the volts at their coils and triggers: Settled finds that.
    class Circuit
      # Ω of a switch's contact; what more there is stands in a lamp's own wire.
      SWITCH_OHM = 0.002
      # A relay's coil, as the budget has it.
      COIL_OHM = Job::Fed::COIL_V / Job::Fed::COIL_A
      # What a trigger takes of the wire it listens to, Ω. Assumption.
      SENSE_OHM = 10_000.0
      # mm² of a wire laid between two points, where nobody says. Assumption.
      LOOSE_MM2 = 0.75

      # What the circuit is made for.
      # @!attribute on [Array<String>] switches @!attribute flash [Boolean] whether the flasher's contact is closed
      # @!attribute pulled [Array<String>] relays and outputs that are on @!attribute open [Array<String>] fuses that went
      # @!attribute full [Boolean] every channel at full @!attribute volts [Float, nil] at the source, where not as usual
      # @!attribute hurt [Hurt] what is wrong with it
      State = Struct.new(:on, :flash, :pulled, :open, :full, :volts, :hurt, keyword_init: true) do
        def initialize(on:, flash: true, pulled: [], open: [], full: false, volts: nil, hurt: Hurt::NONE) = super
      end

      attr_reader :duties

      # @param scheme [Scheme] @param state [State]
      def initialize(scheme, state)
        @scheme = scheme
        @state = state
        @parts = []
        @duties = {}
        build
      end

      # @return [Array<Network::Element>] live ones: what leads to the source without going through earth
      def elements = @elements ||= @parts.select { |e| live_nodes[e.a] && live_nodes[e.b] }

      private

      attr_reader :scheme, :state

      # @return [Hash{String=>true}]
      def live_nodes
        @live_nodes ||= begin
          near = Hash.new { |all, node| all[node] = [] }
          @parts.each { |e| (near[e.a] << e.b) && (near[e.b] << e.a) }
          reached = { 'bat' => true, '0' => true }
          waiting = ['bat']
          while (node = waiting.pop)
            fresh = near[node].reject { |n| reached[n] }
            fresh.each { |n| reached[n] = true }
            waiting.concat(fresh)
          end
          reached
        end
      end

      def wire(id, a, b, ohms)
        more = state.hurt.ohms.fetch(id, 0.0)
        @parts << Network::Resistor.new(id, a, b, [ohms + more, Consumer::LEAST_OHMS].max)
      end

      def live?(key)
        line = Feeds::Lines::BY_KEY.fetch(key)
        return false if line.flashes? && !state.flash
        return scheme.battery? if line.hot?

        scheme.switches.live?(line, state.on)
      end

      # @return [String] node of a wire of the machine
      def node(key) = Feeds::Lines::BY_KEY.fetch(key).hot? ? 'bat' : "l_#{key}"

      def own_on?(id) = id.nil? || state.on.include?(Switches.own(id))

      def build
        volts = state.volts || scheme.volts(state.on)
        dead = scheme.coil? && !state.on.include?('key')
        @parts << Network::Source.new('battery', 'bat', '0', dead ? 0.0 : volts, scheme.source_ohms)
        wire('s_15', 'bat', 'k', SWITCH_OHM) if state.on.include?('key')
        lines.each { |key| wire("s_#{key}", 'k', node(key), SWITCH_OHM) if live?(key) && node(key) != 'bat' }
        scheme.devices.each_with_index { |d, i| device(d, i) }
        scheme.known.each { |c| consumer(c) }
        Job::Document.rows(scheme.wiring, 'wires').each_with_index { |w, i| loose(w, i) }
        state.hurt.joins.each_with_index { |(a, b, ohms), i| wire("x#{i}", a, b, ohms) }
      end

      # Wires of the machine that something is taken from.
      def lines
        @lines ||= [*scheme.known.flat_map { |c| c.feed ? [c.feed.source, c.feed.trigger, c.line] : [c.line] },
          *scheme.devices.flat_map { |d| [*Devices.lines(d), *Devices.outputs(d).filter_map(&:sense)] },
          *Job::Document.rows(scheme.wiring, 'wires').flat_map { |w| [w['from'], w['to']] }].compact.uniq.select { |k| Feeds::Lines::BY_KEY.key?(k) }
      end

      def consumer(c)
        return if c.gives_way && state.on.include?(c.gives_way)

        feed = c.feed
        if feed.nil? || (feed.kind.on_machine? && feed.kind.wires.empty?) then on_machine(c)
        elsif feed.kind.device? then on_device(c)
        elsif feed.kind.relay? then on_relay(c)
        else on_line(c)
        end
      end

      # As the machine came, with a plug-in harness between perhaps.
      def on_machine(c)
        wire(c.part('m'), node(c.line), c.part('c'), c.machine_ohms + (c.feed ? c.feed.kind.extra_ohms : 0.0))
        load(c, '0')
      end

      def on_line(c)
        top = fuse(c, tapped(c))
        top = switched(c, top) or return
        first, *rest = c.feed.wires.select { |w| w.carries == :lamp }
        wire(c.part("w_#{first.key}_"), top, c.part('c'), first.ohms)
        load(c, back(c, rest.first))
      end

      # What feeds another load, where it is taken from there.
      def shared(c)
        other = c.feed.row['from_load'] && scheme.known.find { |o| o.id == c.feed.row['from_load'] && !o.equal?(c) }
        other&.part('c')
      end

      # What is taken from a lamp's wire shares that wire's way.
      def tapped(c)
        top = shared(c) || node(c.feed.source)
        return top if c.feed.kind.source

        wire(c.part('m'), top, c.part('tap'), scheme.settings[:feed_ohm])
        c.part('tap')
      end

      def on_relay(c)
        coil(c)
        top = fuse(c, 'bat')
        wire(c.part('w_supply_'), top, c.part('n30_'), c.feed.wire_named('supply').ohms)
        return unless state.pulled.include?(c.part('k'))

        wire(c.part('r'), c.part('n30_'), c.part('n87_'), Feeds::CONTACT_OHM)
        wire(c.part('w_out_'), c.part('n87_'), c.part('c'), c.feed.wire_named('out').ohms)
        load(c, back(c, c.feed.wire_named('earth')))
      end

      # Its switch sits in the trigger's wire, and so does a factory plug that holds it back on high beam.
      def coil(c)
        feed = c.feed
        return unless own_on?(feed.row['switch_id'])
        return if feed.row['interlock'] && !feed.row['jumper'] && live?('high')

        wire(c.part('w_trigger_'), shared(c) || node(feed.trigger), c.part('n86_'), feed.wire_named('trigger').ohms)
        wire(c.part('k'), c.part('n86_'), c.part('n85_'), COIL_OHM)
        wire(c.part('w_coil_earth_'), c.part('n85_'), '0', feed.wire_named('coil_earth').ohms)
      end

      def on_device(c)
        feed = c.feed
        index = scheme.devices.index { |d| d.equal?(feed.device) } or return
        out = Devices.output(feed.device, feed.row['output']) or return
        return unless state.pulled.include?(output_id(index, out.part))

        duty = duty(feed, out)
        return if duty.zero?

        top = "d#{index}_#{out.part}"
        @duties[c.id] = duty
        wire(c.part('w_out_'), top, c.part('c'), feed.wire_named('out').ohms)
        wire(c.part('w_earth_'), c.part('e'), "de#{index}", feed.wire_named('earth').ohms)
        @parts << lamp(c, c.part('e'), duty)
      end

      # @return [String] node of its earth side
      def back(c, earth)
        return '0' unless earth

        wire(c.part("w_#{earth.key}_"), c.part('e'), '0', earth.ohms + (c.feed.earth == 'bracket' ? Feeds::BRACKET_OHM : 0.0))
        c.part('e')
      end

      def load(c, earth) = @parts << lamp(c, earth)

      def lamp(c, earth, duty = 1.0)
        return c.element(c.part('c'), earth, duty) unless state.hurt.dead.include?(c.id)

        Network::Resistor.new(c.part('lamp'), c.part('c'), earth, Network::Resistor::OPEN)
      end

      def fuse(c, top)
        return top unless c.feed.fuse_a

        wire(c.part('f'), top, c.part('fused'), state.open.include?(c.part('f')) ? Network::Resistor::OPEN : Feeds.fuse_ohms(c.feed.fuse_a))
        c.part('fused')
      end

      def switched(c, top) = own_on?(c.feed.row['switch_id']) ? top : nil

      def output_id(index, key) = "o#{index}_#{key}"

      # Supply, what it takes itself, its outputs that are on.
      def device(row, index)
        top = supply(row)
        if row['fuse_a']
          wire("df#{index}", top, "dfused#{index}",
            state.open.include?("df#{index}") ? Network::Resistor::OPEN : Feeds.fuse_ohms(row['fuse_a']))
          top = "dfused#{index}"
        end
        run = scheme.supply_ohms(row)
        wire("dw#{index}", top, "d#{index}", run)
        wire("dwe#{index}", "de#{index}", '0', run)
        wire("dq#{index}", "d#{index}", "de#{index}", Volts::NOMINAL / [Devices.quiescent(row), 1e-6].max)
        Devices.outputs(row).each do |o|
          id = output_id(index, o.part)
          wire(id, "d#{index}", "d#{index}_#{o.part}", Devices::SWITCH_OHM) if state.pulled.include?(id)
          sense(index, o)
        end
        Devices.triggers(row).each { |name, line| wire("t#{index}_#{name}", node(line), '0', SENSE_OHM) if Feeds::Lines::BY_KEY.key?(line) }
      end

      # The battery, or an output of another box.
      def supply(row)
        other = row['from_device'] && scheme.devices.index { |d| d['id'] == row['from_device'] }
        return 'bat' unless other

        out = Devices.output(scheme.devices[other], row['from_output'])
        out ? "d#{other}_#{out.part}" : "nowhere#{scheme.devices.index(row)}"
      end

      def sense(index, output)
        wire("t#{index}_#{output.part}", node(output.sense), '0', SENSE_OHM) if output.sense && output.sense != 'battery'
      end

      # Share of full that a controller's channel gives this lamp just now; an output of a hub gives all.
      def duty(feed, out)
        return 1.0 unless out.group == 'channel'

        told = Devices.triggers(feed.device)
        signalling = %w[left right].find { |s| told.key?(s) && state.on.include?(s) }
        return (state.flash ? 1.0 : 0.0) if told.key?('horn') && state.on.include?('horn')

        if signalling && [nil, 'both', signalling].include?(feed.row['side'])
          return 0.0 if out.key == 'a'

          return state.flash ? 1.0 : 0.0
        end
        return 1.0 if state.full || (told.key?('high') && live?(told['high']))

        Devices.level(feed.device, out.key) / Devices::LEVELS.to_f
      end

      # A wire somebody laid between two points.
      def loose(row, index)
        ends = %w[from to].map { |k| point(row[k]) }
        return if ends.include?(nil) || ends.uniq.one?

        copper = Draw::Conductor.ohms(row['length_m'] || Feeds::Feed::NEARBY_M, row['area_mm2'] || LOOSE_MM2, row['material'] || 'copper')
        wire("j#{index}", *ends, copper + (Feeds::Feed::JOINTS * Feeds::JOINT_OHM))
      end

      def point(name)
        return if name.nil?
        return '0' if name == 'earth'
        return node(name) if Feeds::Lines::BY_KEY.key?(name)

        scheme.known.find { |c| name == "load:#{c.id}" }&.part('c')
      end
    end
  end
end
