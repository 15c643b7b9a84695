# frozen_string_literal: true

require_relative 'remedy'

module Miser
  module Signals
    # Load-independent flasher with its own earth.
    class FlasherWithEarth < Remedy
      declare 'flasher_3', label: 'Load-independent flasher, three terminals', group: :rate, school: 'swap'

      TERMINALS = Flasher::BY_KEY.fetch('free_3').terminals

      def applies? = flasher.kind.key != 'controller'

      def apply(harness) = harness.with(flasher: harness.flasher.with(kind: 'free_3', rate: nil, earthed: true))

      def pins = PinMap.new(@case.plug, TERMINALS)

      def cost
        added = pins.problems.any? { |p| p.start_with?('Earth') }
        plain_cost(parts: [part('flasher_3'), *(added ? [part('earth_lead')] : [])], tasks: added ? ['earth_lead'] : [],
          loses_warning: flasher.warns?, notes: pins.problems)
      end
    end

    # Load-independent flasher that lives on what trickles through the lamps.
    class FlasherInLine < Remedy
      declare 'flasher_2', label: 'Load-independent flasher, two terminals', group: :rate, school: 'swap'

      def applies? = flasher.kind.key != 'controller'

      def apply(harness) = harness.with(flasher: harness.flasher.with(kind: 'free_2', rate: nil))

      def cost
        map = PinMap.new(@case.plug, Flasher::BY_KEY.fetch('free_2').terminals)
        plain_cost(parts: [part('flasher_2')], loses_warning: flasher.warns?,
          notes: [*map.problems, 'It lives on a few milliamps through the lamps.'])
      end
    end

    # A resistor across each side that draws what the filaments drew.
    class LoadResistors < Remedy
      declare 'resistors', label: 'Load resistor across each side', group: :rate, school: 'resistors'

      def applies? = flasher.kind.listens && missing_a > 0.05

      def apply(harness)
        harness.with(resistors: harness.resistors + SIDES.map do |s|
          Shunt.new(id: "load_#{s}", side: s, ohms: ohms, rated_w: rated_w, series: false)
        end)
      end

      # R = V / (I_design − I_led), the preferred value below it.
      def ohms = @ohms ||= Network::ESeries.at_most(@case.volts / missing_a)

      # V²/R while lit.
      def watts = (@case.volts**2) / ohms

      def rated_w = Network::ESeries.wattage(watts) || Network::ESeries::WATTAGES.keys.last

      def cost
        lit = 0.5
        plain_cost(parts: [part('load_resistor', 2, name: format('Load resistor %g Ω %g W', ohms, rated_w)), part('tap', 4)], cuts: 4,
          amps: @case.volts / ohms, watts: watts,
          surface_c: Network::ESeries.surface_c(watts * lit, rated_w),
          notes: ['They get hot enough to melt plastic: on bare metal, away from wires.',
            format('They spend %.1f A a side while lit: what the LEDs saved.', @case.volts / ohms)])
      end

      private

      def missing_a
        @missing_a ||= flasher.design_a - Judgement.new(@harness.with(flasher: flasher.with(kind: 'free_2')),
          thresholds: { ghost: 1, dim: 1, lit: 1 }).side_a
      end
    end

    # The controller is told not to look, or that LEDs are fitted.
    class ControllerSetting < Remedy
      declare 'controller', label: 'Controller told that LEDs are fitted', group: :rate

      def applies? = flasher.kind.key == 'controller'

      def apply(harness) = harness.with(flasher: harness.flasher.with(outage_off: true))

      def cost = plain_cost(loses_warning: true, notes: ['Only where the maker’s tool offers it.'])
    end

    # One filament a side stays: half the draw, and the old flasher may be content.
    class KeepOneFilament < Remedy
      declare 'keep_one', label: 'Leave the rear lamps filament', group: :rate

      def applies?
        @case.before.lamps.any? { |l| l.place == 'rear' && l.filament? } && @harness.lamps.any? { |l| l.place == 'rear' && !l.filament? }
      end

      def apply(harness)
        harness.with(lamps: harness.lamps.map { |l| l.place == 'rear' ? (@case.before.lamp(l.id) || l) : l })
      end

      def cost
        back = @case.before.lamps.select { |l| l.place == 'rear' }.sum(&:amps) / 2
        plain_cost(amps: back, notes: ['Front and rear differ in colour and speed.'])
      end
    end

    # One diode from each side into the tell-tale, its other end to earth.
    class DiodePair < Remedy
      declare 'diodes', label: 'Diode pair into the tell-tale', group: :cross

      def applies? = @harness.telltale.wiring == 'shared'

      def apply(harness) = harness.with(telltale: harness.telltale.with(wiring: 'diodes'))

      def cost = plain_cost(parts: [part('diode_pair')], cuts: 2, notes: ['The tell-tale’s other end goes to earth.'])
    end

    # Two LED tell-tales, each to earth.
    class LedTelltales < Remedy
      declare 'led_telltales', label: 'LED tell-tale pair, each to earth', group: :cross

      def applies? = @harness.telltale.wiring == 'shared'

      def apply(harness)
        harness.with(telltale: Telltale.new(wiring: 'pair', law: 'resistor', volts: Volts::RUNNING, amps: 0.012, from_v: 3.0))
      end

      def cost = plain_cost(parts: [part('led_telltale', 2)], cuts: 3, notes: ['Needs a second place on the dash.'])
    end

    # A polarised lamp in a reversed seat.
    class SwapPolarity < Remedy
      declare 'polarity', label: 'Swap the two wires of the dark lamp', group: :cross

      def applies? = @harness.lamps.any?(&:reversed)

      def apply(harness) = harness.with(lamps: harness.lamps.map { |l| l.with(reversed: false) })

      def cost = plain_cost(notes: ['A wedge flips; at a bayonet swap the wires and label it.'])
    end
  end
end
