# frozen_string_literal: true

require_relative 'harness'

module Miser
  module Signals
    # What can go wrong with a signal circuit: each kind of fault says where it can sit,
    # what it does to the harness, how it is proved and mended. How common each is, is
    # common practice.
    class Fault
      # A fault at a place. @!attribute target [String, nil] lamp or side; nil for the loop as a whole
      Instance = Struct.new(:kind, :target, :label) do
        def id = [kind.key, target].compact.join('@')
        def apply(harness) = kind.change.call(harness, target)
        def prior = kind.prior
        def check = kind.check
        def cure = kind.cure
      end
      # @!attribute at [Symbol] lamp, led, dual, side, loop
      Kind = Struct.new(:key, :label, :at, :prior, :change, :check, :cure, keyword_init: true)

      def self.kind(key, label, at, prior, check, cure, &change)
        Kind.new(key: key, label: label, at: at, prior: prior, check: check, cure: cure, change: change)
      end
      private_class_method :kind

      HEAVY_OHM = 150.0
      PINCH_OHM = 0.02
      # Ω between contacts that touch: assumption.
      TOUCH_OHM = 0.1
      # The load resistor sold for one side of a 12 V machine: common practice.
      USUAL_LOAD_OHM = 6.8
      USUAL_LOAD_W = 50.0
      FEED_OHM = 3.3
      LEAK_OHM = 15_000.0

      TABLE = [
        kind('reversed', 'reversed polarity', :led, 3.0, 'Turn the wedge, or swap the two wires at the socket, and try again.',
          'Swap the wires and label them; a wedge just flips.') do |h, t|
          h.with_lamp(t) do |l|
            l.with(reversed: true)
          end
        end,
        kind('open', 'lamp open or not seated', :lamp, 3.0, 'Try the lamp straight on the battery.',
          'Reseat or replace it.') { |h, t| h.with_lamp(t) { |l| l.with(open: true) } },
        kind('earth', 'earth lost', :lamp, 2.0, 'Run a jumper from the lamp’s shell to battery −.',
          'Clean and remake its earth.') { |h, t| h.with_lamp(t) { |l| l.with(earth_ohm: Network::Resistor::OPEN) } },
        kind('corroded', 'corroded joint', :lamp, 1.5, 'Volts at the lamp, lit, against volts at the switch: the difference is the joint.',
          'Clean, crimp anew, grease.') do |h, t|
          h.with_lamp(t) do |l|
            l.with(wire_ohm: l.wire_ohm + HEAVY_OHM)
          end
        end,
        kind('single_in_dual', 'single contact in a dual socket', :dual, 2.0,
          'Pull the lamp: the short between running and signal feed goes.', 'Fit the right base.') do |h, t|
          h.with_lamp(t) do |l|
            l.with(contacts_joined: true)
          end
        end,
        kind('touching', 'socket contacts touching join left and right', :loop, 1.0,
          'Unplug the lamps one at a time: at the culprit the other side goes dark. Ohms between left and right feed.',
          'Bend the contacts apart, insulate.') do |h, _|
          h.with(joined_ohm: TOUCH_OHM)
        end,
        kind('bridge', 'tell-tale between left and right bridges them', :loop, 2.0,
          'Pull the tell-tale’s bulb: the other side goes dark at once.', 'Diode pair, or a tell-tale each side.') do |h, _|
          h.telltale.wiring == 'shared' ? h : h.with(telltale: h.telltale.with(wiring: 'shared'))
        end,
        kind('pinched', 'wire pinched to earth', :side, 1.5,
          'Works open and not closed up: look where the housing shuts. Ohms from the feed to earth, lamp out.',
          'Free it, mend the insulation.') do |h, t|
          h.with(shorts: h.shorts.merge(t => PINCH_OHM))
        end,
        kind('crossed', 'flasher’s supply and output crossed', :loop, 1.0,
          'With the flasher out, the supply contact of its plug has battery volts.', 'Move the terminals in the plug.') do |h, _|
          h.with(flasher: h.flasher.with(crossed: true))
        end,
        kind('unearthed', 'flasher’s earth missing', :loop, 1.5, 'Jumper from its earth terminal to battery −.',
          'Run a wire to a clean earth.') do |h, _|
          h.with(flasher: h.flasher.with(earthed: false))
        end,
        kind('dead_flasher', 'flasher dead', :loop, 1.0, 'Bridge supply and output with a fused lead: the lamps come on steady.',
          'Replace it.') { |h, _| h.with(flasher: h.flasher.with(dead: true)) },
        kind('stuck', 'flasher contact stuck', :loop, 0.6, 'Tap it: the lamps blink or go out.',
          'Replace it.') { |h, _| h.with(flasher: h.flasher.with(welded: true)) },
        kind('wrong_flasher', 'flasher listens to the draw: wrong kind for LEDs', :loop, 3.0,
          'Clip a 21 W filament lamp across one side: the rate falls to normal.',
          'Load-independent flasher.') do |h, _|
          h.with(flasher: h.flasher.with(kind: 'outage', dead: false))
        end,
        kind('in_series', 'load resistor in series instead of across', :side, 1.0,
          'Volts across the resistor while lit: near battery volts is across, less is in series.',
          'From feed to earth, not in the wire.') do |h, t|
          h.with(resistors: h.resistors + [Shunt.new(id: "series_#{t}", side: t, ohms: USUAL_LOAD_OHM, rated_w: USUAL_LOAD_W, series: true)])
        end,
        kind('telltale', 'tell-tale burnt out', :loop, 1.0, 'Try its bulb straight on the battery.', 'Replace it.') do |h, _|
          h.with(telltale: h.telltale.with(wiring: 'burnt'))
        end,
        kind('feed', 'corroded joint in the feed', :loop, 1.0, 'Volts at the flasher’s supply, lamps lit, against the battery’s.',
          'Clean fuse clips, plugs and earth strap.') do |h, _|
          h.with(feed_ohm: h.feed_ohm + FEED_OHM)
        end,
        kind('leaky', 'flasher leaks when open', :loop, 0.6, 'Milliamps through the flasher with its contact open.',
          'Another flasher, or a small resistor across each side.') do |h, _|
          h.with(flasher: h.flasher.with(leak_ohm: LEAK_OHM))
        end,
        kind('fuse', 'fuse blown', :loop, 1.5, 'Look at the fuse, or measure volts on both its sides.',
          'Find why before fitting another of the same size.') { |h, _| h.with(fuse_blown: true) }
      ].freeze
      BY_KEY = TABLE.to_h { |k| [k.key, k] }.freeze

      # @param harness [Harness]
      # @return [Array<Instance>] every fault that can sit in it
      def self.all_in(harness) = TABLE.flat_map { |k| places(k, harness).map { |t| instance(k, t, harness) } }

      # @param id [String] as of an instance
      # @return [Instance, nil] nil where there is no such fault here
      def self.named(id, harness) = all_in(harness).find { |f| f.id == id }

      def self.places(kind, harness)
        case kind.at
        when :lamp then harness.lamps.map(&:id)
        when :led then harness.lamps.reject { |l| l.filament? || l.bridged }.map(&:id)
        when :dual then harness.lamps.select(&:running).map(&:id)
        when :side then SIDES
        else loop_fits?(kind, harness) ? [nil] : []
        end
      end
      private_class_method :places

      def self.loop_fits?(kind, harness)
        case kind.key
        when 'unearthed' then harness.flasher.kind.terminals.include?('31')
        when 'crossed' then harness.flasher.kind.terminals.any?
        when 'wrong_flasher' then !harness.flasher.kind.listens
        when 'bridge', 'telltale' then harness.telltale.wiring != 'none'
        else true
        end
      end
      private_class_method :loop_fits?

      def self.instance(kind, target, harness)
        place = harness.lamp(target)&.name || target
        Instance.new(kind, target, [place && (place[0].upcase + place[1..]), kind.label].compact.join(': '))
      end
      private_class_method :instance
    end
  end
end
