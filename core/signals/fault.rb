# frozen_string_literal: true

require_relative 'harness'

module Miser
  module Signals
    # What can go wrong with a signal circuit: each kind of fault says where it can sit,
    # what it does to the harness, how it is proved and mended. How common each is, is
    # common practice.
    class Fault
      # A fault at a place. @!attribute target [String, nil] lamp, side or place; nil for the loop as a whole
      # @!attribute ohms [Float, nil] how bad a joint is, where it can be bad in degrees
      Instance = Struct.new(:kind, :target, :label, :ohms) do
        # Where it is, however bad.
        def place_id = [kind.key, target].compact.join('@')
        def id = [place_id, ohms && ohms != kind.usual ? SEVERITIES.fetch(ohms) : nil].compact.join('~')
        def apply(harness) = kind.change.call(harness, target, ohms)
        # Its share of how common its kind is.
        def prior = kind.prior / (kind.grades || [nil]).size
        def check = kind.check
        def cure = kind.cure
        # Whether it comes and goes as the housing is opened and shut.
        def moves? = kind.moves || false

        def words
          if ohms
            "#{label}, #{ohms == OPEN_OHM ? 'open' : format('about %g Ω', ohms)}"
          else
            label
          end
        end
      end
      # @!attribute at [Symbol] lamp, led, dual, side, place, other, loop @!attribute grades [Array<Float>, nil] Ω it can have
      # @!attribute moves [Boolean, nil]
      Kind = Struct.new(:key, :label, :at, :prior, :change, :check, :cure, :grades, :moves, keyword_init: true) do
        # @return [Float, nil] Ω where nobody says how bad
        def usual = grades && (grades.include?(HEAVY_OHM) ? HEAVY_OHM : grades.last)
      end

      OPEN_OHM = Network::Resistor::OPEN
      HEAVY_OHM = 150.0
      # A joint from bad to hopeless, Ω.
      SEVERITIES = { 1.0 => '1', 2.0 => '2', 4.0 => '4', 15.0 => '15', HEAVY_OHM => '150', OPEN_OHM => 'open' }.freeze
      JOINT = [1.0, 4.0, 15.0, HEAVY_OHM].freeze
      # Where several lamps hang behind it, little says much.
      ANY = SEVERITIES.keys.freeze

      def self.kind(key, label, at, prior, check, cure, grades: nil, moves: nil, &change)
        Kind.new(key: key, label: label, at: at, prior: prior, check: check, cure: cure, change: change, grades: grades, moves: moves)
      end
      private_class_method :kind

      PINCH_OHM = 0.02
      # Ω between contacts that touch: assumption.
      TOUCH_OHM = 0.1
      # The load resistor sold for one side of a 12 V machine: common practice.
      USUAL_LOAD_OHM = 6.8
      USUAL_LOAD_W = 50.0
      LEAK_OHM = 15_000.0

      TABLE = [
        kind('reversed', 'reversed polarity', :led, 3.0, 'Turn the wedge, or swap the two wires at the socket, and try again.',
          'Swap the wires and label them; a wedge just flips.') do |h, t|
          h.with_lamp(t) do |l|
            l.with(reversed: true)
          end
        end,
        kind('open', 'lamp open or not seated', :lamp, 3.0, 'Try the lamp straight on the battery.',
          'Reseat or replace it.') { |h, t| h.with_lamp(t) { |l| l.with(dead: true) } },
        kind('earth', 'earth lost', :lamp, 2.0, 'Run a jumper from the lamp’s shell to battery −.',
          'Clean and remake its earth.') { |h, t| h.with_lamp(t) { |l| l.with(earth_ohm: OPEN_OHM) } },
        kind('pulled', 'wire pulled off or broken where the housing shuts', :lamp, 0.8, 'Works open and not closed up: watch the wire as you shut it.',
          'Free it, mend it, leave it slack.', moves: true) { |h, t| h.with_lamp(t) { |l| l.with(open: true) } },
        kind('corroded', 'corroded joint', :lamp, 4.0, 'Volts at the lamp, lit, against volts at the switch: the difference is the joint.',
          'Clean, crimp anew, grease.', grades: JOINT) do |h, t, ohms|
          h.with_lamp(t) do |l|
            l.with(wire_ohm: l.wire_ohm + ohms)
          end
        end,
        kind('bad_earth', 'bad earth of a bulb with two filaments', :dual, 1.5, 'Volts between its shell and battery −, lit: there should be none.',
          'Clean and remake its earth.', grades: JOINT) { |h, t, ohms| h.with_lamp(t) { |l| l.with(earth_ohm: l.earth_ohm + ohms) } },
        kind('side_feed', 'bad joint in the wire to that side', :side, 1.0,
          'Volts behind the switch, lit, against volts at the lamps of that side: the difference is the joint.',
          'Find the plug or splice behind the switch; clean, crimp anew.', grades: ANY) do |h, t, ohms|
          h.with(side_ohm: h.side_ohm.merge(t => ohms))
        end,
        kind('switch', 'switch contact of that side', :side, 1.2, 'Volts before and behind the switch, that side on: there should be no difference.',
          'Open it, clean the contacts, or replace it.', grades: ANY) { |h, t, ohms| h.with(switch_ohm: h.switch_ohm.merge(t => ohms)) },
        kind('common_earth', 'earth that the lamps there share', :place, 1.5, 'Jumper from the lamps’ common earth to battery −: all is well at once.',
          'Clean and remake the common earth.', grades: ANY) { |h, t, ohms| h.with(earths: h.earths.merge(t => ohms)) },
        kind('other_earth', 'earth of the lamp', :other, 1.0, 'Jumper from its shell to battery −.', 'Clean and remake its earth.',
          grades: ANY) do |h, t, ohms|
          h.with(others: h.others.map { |o| o.id == t ? o.with(earth_ohm: ohms) : o })
        end,
        kind('swapped', 'plugs of left and right swapped there', :place, 1.0, 'Unplug one of the two: see which lamp goes dark.',
          'Swap the plugs back.') do |h, t|
          h.with(lamps: h.lamps.map { |l| l.place == t ? l.with(feed_side: (SIDES - [l.fed_by]).first) : l })
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
          h.with(telltale: h.telltale.with(wiring: 'shared'))
        end,
        kind('pinched', 'wire pinched to earth', :side, 1.5,
          'Works open and not closed up: look where the housing shuts. Ohms from the feed to earth, lamp out.',
          'Free it, mend the insulation.', moves: true) do |h, t|
          h.with(shorts: h.shorts.merge(t => PINCH_OHM))
        end,
        kind('crossed', 'flasher’s supply and output crossed', :loop, 0.7,
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
        kind('feed', 'corroded joint in the feed', :loop, 4.5, 'Volts at the flasher’s supply, lamps lit, against the battery’s.',
          'Clean fuse clips, plugs and earth strap.', grades: ANY) do |h, _, ohms|
          h.with(feed_ohm: h.feed_ohm + ohms)
        end,
        kind('lamp_test', 'controller takes the LEDs for a lamp out', :loop, 2.0, 'Clip a 21 W filament lamp across one side: the tell-tale slows down.',
          'The controller’s setting for LEDs, or load resistors.') do |h, _|
          h.with(flasher: h.flasher.with(outage_off: false))
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
      def self.all_in(harness)
        TABLE.flat_map { |k| places(k, harness).flat_map { |t| (k.grades || [nil]).map { |ohms| instance(k, t, harness, ohms) } } }
      end

      # @param id [String] as of an instance
      # @return [Instance, nil] nil where there is no such fault here
      def self.named(id, harness) = all_in(harness).find { |f| f.id == id }

      def self.places(kind, harness)
        case kind.at
        when :lamp then harness.lamps.map(&:id)
        when :led then harness.lamps.reject { |l| l.filament? || l.bridged }.map(&:id)
        when :dual then harness.lamps.select(&:running).map(&:id)
        when :side then SIDES
        when :place then placed(kind, harness)
        when :other then harness.others.select { |o| o.filaments.size > 1 }.map(&:id)
        else loop_fits?(kind, harness) ? [nil] : []
        end
      end
      private_class_method :places

      # Swapped, they must be two; a common earth wants no more than company.
      def self.placed(kind, harness)
        return harness.shared_places unless kind.key == 'swapped'

        PLACES.select { |p| SIDES.all? { |s| harness.side(s).any? { |l| l.place == p } } }
      end
      private_class_method :placed

      def self.loop_fits?(kind, harness)
        case kind.key
        when 'unearthed' then harness.flasher.kind.terminals.include?('31')
        when 'crossed' then harness.flasher.kind.terminals.any?
        when 'wrong_flasher' then !harness.flasher.kind.listens
        when 'lamp_test' then harness.flasher.kind.key == 'controller' && harness.flasher.outage_off
        when 'telltale' then harness.telltale.wiring != 'none'
        # Between the sides by design, it is no fault.
        when 'bridge' then !%w[none shared].include?(harness.telltale.wiring)
        else true
        end
      end
      private_class_method :loop_fits?

      def self.instance(kind, target, harness, ohms)
        place = harness.lamp(target)&.name || harness.others.find { |o| o.id == target }&.name || target
        Instance.new(kind, target, [place && (place[0].upcase + place[1..]), kind.label].compact.join(': '), ohms)
      end
      private_class_method :instance
    end
  end
end
