# frozen_string_literal: true

require_relative '../../core/signals/cures'
require_relative '../../core/signals/diagnosis'

module Miser
  # Signal circuits for tests, drawn up by hand or at random.
  module Loops
    SEEN = { ghost: 0.002, dim: 0.05, lit: 0.35 }.freeze

    def signal_lamp(side, place, law: 'filament', volts: 12.0, amps: 1.75, from_v: 0.0)
      Signals::Lamp.new(id: "#{place}_#{side}", name: "#{place.capitalize} #{side}", side: side, place: place, load_id: 'l', law: law,
        volts: volts, amps: amps, from_v: from_v,
        bridged: false, reversed: false, open: false, wire_ohm: 0.04, earth_ohm: 0.04, running: nil, contacts_joined: false)
    end

    def four(**draw) = Signals::SIDES.flat_map { |s| %w[front rear].map { |p| signal_lamp(s, p, **draw) } }

    def led(**rest) = { law: 'resistor', volts: 12.8, amps: 0.12, from_v: 7.0 }.merge(rest)

    # A tail and brake bulb at the rear.
    def rear_lamp
      Signals::Other.new(id: 'rear_lamp', name: 'Rear lamp', place: 'rear', earth_ohm: 0.0,
        filaments: { 'tail' => Signals::Draws.new(law: 'filament', volts: 12.0, amps: 0.42, from_v: 0.0),
                     'brake' => Signals::Draws.new(law: 'filament', volts: 12.0, amps: 1.75, from_v: 0.0) })
    end

    def signal_loop(lamps: four, wiring: 'shared', flasher: 'outage', tell: { law: 'filament', volts: 12.0, amps: 0.28, from_v: 0.0 },
                    **rest)
      defaults = { resistors: [], joined_ohm: nil, shorts: {}, fuse_a: 15.0, fuse_blown: false, feed_ohm: 0.05, source_ohm: 0.03 }
      Signals::Harness.new(lamps: lamps, telltale: Signals::Telltale.new(wiring: wiring, **tell),
        flasher: Signals::Flasher.new(kind: flasher, design_a: 3.6), **defaults, **rest)
    end

    def random_loop(random)
      lamps = Signals::SIDES.flat_map do |side|
        %w[front rear].first(random.rand(1..2)).map do |place|
          kind = %w[filament resistor driver regulated].sample(random: random)
          draw = if kind == 'filament'
                   { law: kind, volts: 12.0, amps: random.rand(0.4..1.8) }
                 else
                   { law: kind, volts: 13.0, amps: random.rand(0.05..0.5), from_v: random.rand(5.5..8.5) }
                 end
          signal_lamp(side, place, **draw).with(bridged: kind == 'resistor' && random.rand < 0.3, reversed: random.rand < 0.15,
            running: place == 'front' && random.rand < 0.4 ? [12.0, random.rand(0.3..0.5)] : nil)
        end
      end
      harness = signal_loop(lamps: lamps, wiring: %w[pair shared diodes pilot none].sample(random: random),
        flasher: %w[outage free_2 thermal].sample(random: random))
      random.rand < 0.5 ? Signals::Fault.all_in(harness).sample(random: random).apply(harness) : harness
    end

    def seen(harness, command = 'left', **options) = Signals::Seen.new(harness, command, thresholds: SEEN, **options)
  end
end
