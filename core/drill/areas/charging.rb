# frozen_string_literal: true

require_relative '../../charging/troubled'
require_relative 'area'

module Miser
  module Drill
    # Stator, regulator, battery, and what runs on them.
    class ChargingArea < Area
      declare 'charging', 'Charging'

      # How the machine is used, by engine and switches: scenarios of the budget.
      USES = { 'parked' => 'parked', 'key_on' => 'key_on', 'idle' => 'idle_night', 'cruise' => 'cruise_night',
               'light' => 'cruise_day' }.freeze
      LEADS = %w[output_lead battery_lead].freeze
      # Between which volts are read.
      WAYS = [%w[bat 0], %w[output bat], %w[case 0], %w[output case]].freeze
      NAMES = { 'bat' => 'Battery +', '0' => 'Battery −', 'output' => 'Regulator: output', 'case' => 'Regulator: case' }.freeze

      # @param ledger [Budget::Ledger] of a battery's circuit whose curve is known @param scenarios [Array<Budget::Scenario>]
      def initialize(ledger, scenarios)
        super()
        @ledger = ledger
        @circuit = ledger.circuit
        @scenarios = scenarios.to_h { |s| [s.id, s] }
      end

      # @return [Boolean] whether enough is known of a machine
      def self.fits?(ledger, scenarios)
        c = ledger&.circuit
        !!(c && c.dc? && c.curve && c.battery && c.held && USES.values.all? { |id| scenarios.any? { |s| s.id == id && s.rpm } })
      end

      def points
        @points ||= [*NAMES.map { |id, name| Point.new(id: id, name: name, at: { 'bat' => 'seat', '0' => nil }.fetch(id, 'engine')) },
          *legs.map { |l| Point.new(id: "leg_#{l}", name: "Stator plug: leg #{l.upcase}", at: 'engine') },
          Point.new(id: 'output_lead', name: 'Clamp on the regulator’s output lead', at: 'engine'),
          Point.new(id: 'battery_lead', name: 'Clamp on the battery’s lead', at: 'seat')]
      end

      def way(_suspect) = named(%w[output bat 0 case])

      # What lamps show of the volts, in tenths of their light.
      def remarks(suspects, state)
        return [] unless state.on?('key') || state.running?

        is, was = [suspects, []].map { |s| point(s, use(state)).volts }
        tenths = (((is / was)**Draw::Filament::LIGHT) * 10).round
        return [] if tenths == 10

        [tenths > 10 ? 'Every lamp is whiter than it should be.' : "Every lamp gives about #{tenths} tenths of the light it should."]
      end

      def chains
        states = [[[], 'off'], [%w[key lights], 'off'], [%w[key lights], 'idle'], [%w[key lights], 'cruise'], [%w[key], 'cruise']]
        pairs = legs.combination(2).map { |a, b| ["leg_#{a}", "leg_#{b}"] } << %w[leg_a 0]
        [*states.map { |on, e| [look(on, e)] }, *states.product(WAYS).map { |(on, e), ends| [volts(on, *ends, e)] },
          *states.product(LEADS).map { |(on, e), lead| [volts(on, lead, lead, e, what: 'amps')] },
          *pairs.map { |a, b| [volts(%w[key], a, b, 'cruise', what: 'ac_volts')] }]
      end

      def quantities
        @quantities ||= { 'volts' => NAMES.keys, 'amps' => LEADS, 'ac_volts' => [*legs.map { |l| "leg_#{l}" }, '0'] }
      end

      private

      def legs = @legs ||= Charging::Fault::LEGS.fetch(phases)

      def phases = @circuit.curve.form.key == 'three_phase' ? 3 : 1

      def faults = Charging::Fault.all_in(phases)

      def cure_at(fault) = { 'battery_tired' => 'seat', 'drain' => 'seat' }.fetch(fault.kind.key, 'engine')

      def use(state)
        return state.on?('key') ? 'key_on' : 'parked' unless state.running?
        return 'idle' if state.engine == 'idle'

        state.on?('lights') || state.on?('high') ? 'cruise' : 'light'
      end

      def troubled(suspects)
        kept(:troubled, suspects) do
          trouble = suspects.first&.fault&.does || Charging::Fault::NONE
          Charging::Troubled.new(curve: @circuit.curve, battery: @circuit.battery, held: @circuit.held, trouble: trouble)
        end
      end

      def point(suspects, use)
        kept(:point, suspects, use) do
          scenario = @scenarios.fetch(USES.fetch(use))
          troubled(suspects).at(scenario.running? ? scenario.rpm : 0.0, @ledger.sum(scenario))
        end
      end

      def rpm(state)
        return 0.0 unless state.running?

        @scenarios.fetch(state.engine == 'idle' ? 'idle_night' : 'cruise_day').rpm
      end

      # The stator is read unplugged: nothing else is to be had of it then.
      def measured(suspects, state, what, red, black)
        return ac(suspects, state, *[red, black].map { |p| p.delete_prefix('leg_') }) if what == 'ac_volts'

        now = point(suspects, use(state))
        return { 'output_lead' => now.output_a, 'battery_lead' => now.battery_a }.fetch(red) if what == 'amps'

        at = { 'bat' => now.volts, '0' => 0.0, 'output' => now.volts + now.output_drop, 'case' => -now.earth_drop }
        at.fetch(red) - at.fetch(black)
      end

      def ac(suspects, state, red, black)
        return 0.0 if red == black || !state.running?

        known = troubled(suspects)
        [red, black].include?('0') ? known.leg_to_frame(rpm(state)) : known.legs(rpm(state), [red, black].sort.join)
      end

      # V and A from which a rider notices: common practice.
      COOKS_V = 15.0
      LOW_V = 13.2
      WEAK_V = 12.0
      FALLS_V = 0.3
      DRAINS_A = 0.05
      RUNS_DOWN_A = 1.0
      private_constant :COOKS_V, :LOW_V, :WEAK_V, :FALLS_V, :DRAINS_A, :RUNS_DOWN_A

      def found_signs(suspects)
        is, was = [suspects, []].map { |s| USES.keys.to_h { |u| [u, point(s, u)] } }
        noticed = { 'runs_down' => is['cruise'].battery_a - [was['cruise'].battery_a, 0.0].max > RUNS_DOWN_A,
                    'dim_idle' => is['idle'].volts < was['idle'].volts - FALLS_V,
                    'cooks' => is['light'].volts > COOKS_V && was['light'].volts <= COOKS_V,
                    'never_full' => is['light'].volts < LOW_V && was['light'].volts >= LOW_V,
                    'flat_standing' => is['parked'].battery_a > was['parked'].battery_a + DRAINS_A,
                    'cranks_slow' => is['key_on'].volts < WEAK_V && was['key_on'].volts >= WEAK_V }
        noticed.select { |_, there| there }.keys.map { |k| Sign.new(k, nil) }
      end
    end
  end
end
