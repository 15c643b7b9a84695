# frozen_string_literal: true

require_relative '../budget/budget'
require_relative '../feeds/plan'
require_relative '../parts/catalogue'
require_relative 'consumer'
require_relative 'devices'
require_relative 'sizing'
require_relative 'switches'
require_relative 'wishes'

module Miser
  module Wiring
    # The wiring of a job after the change: what hangs where, the feeds decided on, and one proposed for
    # every function the change adds or alters that nobody decided on yet.
    class Scheme
      # V at the battery with the key off.
      KEY_OFF_V = Volts::REST
      # Ω of a coil behind its regulator, as one source. Assumption.
      COIL_OHM = 0.05
      # Loads that hang on no feed of their own.
      NEVER = %w[engine resistor].freeze

      attr_reader :budget, :document, :plan, :units, :catalogue

      # @param budget [Budget::Budget] @param catalogue [Parts::Catalogue] @param units [String] metric or us
      def initialize(budget, catalogue: Parts::Catalogue::NONE, units: 'metric')
        @budget = budget
        @document = budget.document
        @plan = Feeds::Plan.new(@document)
        @catalogue = catalogue
        @units = units
      end

      def wiring = plan.wiring
      def settings = budget.settings
      def places = plan.places

      # @return [Array<Consumer>] lamps and accessories as they stand after the change
      def consumers
        @consumers ||= fed_entries.each_with_index.map { |e, i| consumer(e, i) }
      end

      # @return [Array<Budget::Entry>] lamps and accessories, but for what a feed itself draws
      def fed_entries = @fed_entries ||= budget.entries('after').reject { |e| NEVER.include?(e.row['group']) || e.row['fed_by'] }

      # @return [Array<Consumer>] that the change adds or alters
      def altered = @altered ||= consumers.select(&:altered?)

      # @return [Array<Consumer>] whose draw is known, so that they can be solved
      def known = @known ||= consumers.select(&:known?)

      def consumer_of(load_id) = consumers.find { |c| c.id == load_id }

      # @return [Array<Hash>] hubs and controllers that something hangs on, or that stand there
      def devices = plan.devices

      # @return [Boolean] whether a coil feeds all of it
      def coil? = document.circuits.none? { |c| c['kind'] == 'dc' }

      def battery? = !coil?

      # @return [Budget::Circuit] that the wiring is looked at on
      def circuit = @circuit ||= (budget.ledgers('after').values.find { |l| l.circuit.dc? } || budget.ledgers('after').values.first).circuit

      # @param state [Array<String>] @return [Float] V at the source
      def volts(state) = state.include?('key') ? circuit.volts : KEY_OFF_V

      # @return [Float] Ω inside the source
      def source_ohms = circuit.battery&.ohms || COIL_OHM

      # @return [Switches]
      def switches
        @switches ||= Switches.new(needed: needed, own: Job::Document.rows(wiring, 'switches'), with_key: wiring['lights'] == 'with_key',
          coil: coil?)
      end

      # @param consumer [Consumer] @return [Array<Kind>] each with why it is not to be had, nil where it is
      def offers(consumer)
        kase = kase(consumer.entry)
        Feeds::Kind::REGISTRY.values.map { |kind| [kind, kind.no(kase)] }
      end

      # @param entry [Budget::Entry] @param row [Hash] its feed
      # @return [Sizing, nil] nil where its draw is unknown
      def sizing(entry, feed)
        return unless entry.load.known?

        volts = least_volts(feed)
        amps = most_believed(entry, volts)
        cold = entry.load.reading && cold_of(entry)
        lamp = feed.wires.select { |w| w.carries == :lamp }
        fixed = feed.loop_ohms + box_ohms(feed.device) - lamp.sum { |w| Draw::Conductor.ohms(w.length, w.area, w.material) }
        Sizing.new(amps: amps, cold_a: cold, filament: entry.load.filament?, metres: feed.loop_metres, fixed_ohms: fixed,
          volts: volts, drop: settings[:wire_drop], units: units, fused: feed.kind.fused?, contacts: contacts(entry, feed))
      end

      # Everything with a rating that the current of what is fed passes: relay, socket, switch, joints, the output it hangs on, the
      # connector it came with.
      # @param entry [Budget::Entry] @param feed [Feeds::Feed]
      # @return [Array<Feeds::Contact>]
      def contacts(entry, feed)
        output = Devices.output(feed.device, feed.row['output'])
        plug = entry.load.claim.connector
        own = [output&.limit_a && Feeds::Contact.new(label: "output #{output.label}", amps: output.limit_a),
          plug && Feeds::Contact.new(label: "its own #{plug.first}", amps: plug.last)]
        feed.contacts + own.compact
      end

      # @param consumer [Consumer] @param kind [Class] @param more [Hash] of its row
      # @return [Hash] its feed's row by another kind, filled in
      def filled_as(consumer, kind, more = {})
        kept = (consumer.feed&.row || {}).slice('at', 'wish', 'switch_id', 'strobe')
        proposed(consumer.entry, kind, **(consumer.feed ? { 'id' => consumer.feed.id } : {}), **kept, **more).row
      end

      # @param consumer [Consumer] whose draw is known
      # @return [Float] A that wires and fuse are chosen for
      def most_amps(consumer)
        (@most_amps ||= {})[consumer.id] ||= [most_believed(consumer.entry), cold_of(consumer.entry) || 0.0].max
      end

      # @param device [Hash] @return [Float] A of all that hangs on it, and its own
      def device_amps(device)
        Devices.quiescent(device) + known.select { |c| c.feed&.device.equal?(device) }.sum { |c| most_amps(c) }
      end

      # Ω of one of the two wires between the battery and a box.
      # @param row [Hash] of a device
      def supply_ohms(row)
        length = places.way(row['at'] || 'battery', 'battery').metres
        Draw::Conductor.ohms([length, Feeds::Feed::NEARBY_M].max, row['area_mm2'] || Devices::SUPPLY_MM2) + (Feeds::Feed::JOINTS * Feeds::JOINT_OHM)
      end

      # @return [Array<Budget::Entry>] that the change adds or alters and nobody decided on a feed for
      def waiting = @waiting ||= fed_entries.select { |e| wants_feed?(e) && plan.of(e.id).nil? }

      # @return [Array<Budget::Entry>] that want a feed, and none of the kinds will do
      def unfed = @unfed ||= consumers.select { |c| c.feed.nil? && wants_feed?(c.entry) }.map(&:entry)

      private

      # What lies between the battery and an output.
      def box_ohms(device)
        return 0.0 unless device

        (2 * supply_ohms(device)) + Devices::SWITCH_OHM + (device['fuse_a'] ? Feeds.fuse_ohms(device['fuse_a']) : 0.0)
      end

      # What is always live is on with the key off as well: a driver draws most there.
      def least_volts(feed) = feed.source == 'battery' && !feed.kind.relay? && battery? ? [circuit.volts, KEY_OFF_V].min : circuit.volts

      # Advertised watts are a range: a wire is chosen for its upper end.
      def most_believed(entry, volts = circuit.volts)
        amps = entry.load.amps(volts)
        return amps unless entry.load.anchor.origin.key == 'advertised'

        [amps, entry.load.claimed_w.last / volts * entry.load.count].max
      end

      def cold_of(entry)
        read = budget.readings_on(entry.row, part: entry.choice).select { |r| r.usable? && r.document['kind'] == 'cold' }.map(&:amps).max
        read && (read * entry.load.count)
      end

      def consumer(entry, index)
        decided = plan.of(entry.id)
        return Consumer.new(entry, index, feed: decided, decided: true) if decided
        return Consumer.new(entry, index) unless wants_feed?(entry)

        kind, why = Feeds::Kind.propose(kase(entry))
        feed = kind ? proposed(entry, kind) : nil
        Consumer.new(entry, index, feed: feed, why: why)
      end

      def wants_feed?(entry) = entry.row['wanted'] || (entry.choice && entry.choice['part']) || !entry.row['brought_by'].nil?

      # Filled in: wires and fuse as they should be, on a box of its kind where there is one.
      # @param more [Hash{String=>Object}] of its row
      # @return [Feeds::Feed]
      def proposed(entry, kind, **more)
        row = { 'id' => "p-#{entry.id}"[0, 40], 'load_id' => entry.id, 'kind' => kind.key, **live_when(entry, kind), **more }
        device = kind.device? ? devices.find { |d| d['kind'] == kind.key } : nil
        row = { **row, 'device_id' => device['id'], 'output' => free_output(device['id'], entry.row) } if device
        filled(entry, row.compact)
      end

      # The wire that is live when it is wanted, where its kind does not say itself.
      def live_when(entry, kind)
        line = Wishes.of(Consumer.new(entry, 0)).line
        return { 'trigger' => line } if kind.relay?

        kind.on_machine? && kind.wires.any? ? { 'source' => line } : {}
      end

      # @return [Feeds::Feed] with the sizes that fit where nobody chose any
      def filled(entry, row)
        bare = plan.feed(row, entry.row)
        sizes = sizing(entry, bare) or return bare
        fuse = sizes.fuse.value
        area = sizes.area.value || sizes.largest
        wires = bare.wires.map { |w| { 'id' => w.key, 'key' => w.key, 'area_mm2' => w.carries == :lamp ? [area, w.area].compact.max : w.area } }
        plan.feed({ **row, 'fuse_a' => bare.kind.fused? ? fuse : nil, 'wires' => wires }.compact, entry.row)
      end

      def free_output(device_id, row)
        device = plan.device(device_id)
        taken = plan.feeds.select { |f| f.row['device_id'] == device_id }.map { |f| f.row['output'] }
        Devices.outputs(device).map(&:key).find { |o| !taken.include?(o) && Devices.suits?(device, o, row['role']) }
      end

      def kase(entry)
        Feeds::Kind::Case.new(role: entry.row['role'], group: entry.row['group'], amps: entry.load.known? ? entry.load.amps(circuit.volts) : nil,
          swapped: !entry.choice.nil? && !entry.row['wanted'], brought: !entry.row['brought_by'].nil?, plugs_differ: plugs_differ?(entry),
          bus: document.data_bus?, battery: battery?, extras: extras)
      end

      def extras = @extras ||= budget.entries('after').count { |e| e.row['role'] == 'aux_lamp' && e.row['wanted'] && !e.row['fed_by'] }

      def plugs_differ?(entry)
        part = entry.choice&.dig('part', 'connector')
        holder = document.lamp_of(entry.row)&.holder&.fetch('connector', nil)
        !part.nil? && !holder.nil? && part != holder
      end

      # What the machine has, and what something is taken from.
      def needed
        told = devices.flat_map { |d| Devices.lines(d) }
        here = consumers.map(&:role) + plan.feeds.flat_map { |f| [f.source, f.trigger, f.row['wish']] } + told
        here << 'horn' if plan.feeds.any? { |f| f.row['strobe'] }
        NEEDED.select { |_, from| here.intersect?(from) }.keys
      end

      # Switches by what asks for them.
      NEEDED = { 'high' => %w[head_high aux_lamp high], 'left' => %w[signal_left left], 'right' => %w[signal_right right],
                 'brake' => %w[brake brake_live], 'horn' => %w[horn] }.freeze
      private_constant :NEEDED
    end
  end
end
