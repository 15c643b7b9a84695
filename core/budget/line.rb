# frozen_string_literal: true

require_relative '../figure'
require_relative '../charging/flicker'
require_relative 'battery_side'
require_relative 'verdict'

module Miser
  module Budget
    # One line of the ledger: one scenario on one circuit, one side of the
    # conversion. What is earned, spent, kept, and at what volts it really runs.
    class Line
      attr_reader :ledger, :scenario, :blocks, :circuit

      # @param ledger [Ledger]
      # @param scenario [Scenario]
      def initialize(ledger, scenario)
        @ledger = ledger
        @scenario = scenario
        @circuit = ledger.circuit
        @volts = @circuit.volts
        @blocks = ledger.blocks(scenario)
      end

      def rpm = scenario.rpm

      # @return [Figure] A
      def earns
        @earns ||= if !scenario.running? then Figure.new(0.0, 'A', sigma: 0.0) { plain('Earned', '0: the engine is off') }
                   elsif rpm.nil? then Figure.unknown('A', scenario.reason)
                   else @circuit.earns(rpm, earn_by_volts.abs)
                   end
      end

      # @return [Figure] A
      def spends
        @spends ||= if unknown_loads.any?
                      Figure.unknown('A', unknown_words)
                    else
                      Figure.new(known_spends, 'A', sigma: Math.sqrt(load_variance + (spend_by_volts**2)),
                        assumed: blocks.any?(&:assumed?)) { spends_working }
                    end
      end

      # @return [Boolean] whether what it keeps is known
      def known? = earns.known? && unknown_loads.empty?

      # @return [Float] A of the loads whose draw is known
      def known_spends = @known_spends ||= blocks.sum { |b| b.amps || 0.0 }

      # @return [Figure] A
      def keeps
        @keeps ||= if earns.known? && spends.known?
                     Figure.new(earns.value - spends.value, 'A', sigma: keep_sigma,
                       assumed: earns.assumed || spends.assumed) { keeps_working }
                   else
                     Figure.unknown('A', [earns, spends].filter_map(&:reason).join('; '))
                   end
      end

      def verdict = Verdict.of(keeps.value, keeps.sigma)

      # Speed above which it keeps.
      # @return [Figure] rpm
      def break_even
        @break_even ||= if !scenario.running? then Figure.unknown('rpm', 'the engine is off')
                        elsif @circuit.curve.nil? then Figure.unknown('rpm', @circuit.reason)
                        elsif !spends.known? then Figure.unknown('rpm', spends.reason)
                        else @ledger.break_even(spends.value)
                        end
      end

      # @return [Charging::OperatingPoint::Result, nil]
      def point = @point ||= @ledger.point(scenario, rpm)

      # @return [Figure] V the system settles at
      def system_v
        @system_v ||= if rpm.nil? then Figure.unknown('V', scenario.reason)
                      elsif !spends.known? then Figure.unknown('V', spends.reason)
                      elsif scenario.running? && @circuit.curve.nil? then Figure.unknown('V', @circuit.reason)
                      elsif wants_battery? then Figure.unknown('V', 'battery capacity is not entered')
                      else
                        Figure.new(point.volts, 'V') { volts_working }
                      end
      end

      # Light of each lamp lit in this scenario at the volts it really has, as a share
      # of its rated light, and its life as a multiple of rated life.
      # @return [Array<Hash>] entry, share (Figure), life (Float, nil), life_words (String, nil): a life cut short
      def light
        return [] unless system_v.known? && !scenario.parked?

        volts = system_v.value
        blocks.filter_map do |b|
          next unless b.amps && b.entry.lit?

          law = b.entry.load.law
          rated = b.entry.load.light_v
          there = b.entry.load.lamp_volts(volts)
          share = law.light(there, of: rated)
          share && { entry: b.entry, life: law.life(there, of: rated), life_words: life_words(law.life(there, of: rated)),
                     share: Figure.new(share, '1') { light_working(b.entry, volts, rated) } }
        end
      end

      # @param load [String] id
      # @return [Figure, nil]
      def light_of(load) = light.find { |l| l[:entry].id == load }&.fetch(:share)

      # @return [BatterySide] what the battery gives or takes, and how long it lasts
      def battery = @battery ||= BatterySide.new(self)

      # @return [Figure] h until the battery will not crank
      def lasts = battery.lasts

      # @return [Figure] A the battery gives (above 0) or takes
      def battery_a = battery.amps

      # W that a shunt regulator burns: what is earned and neither spent nor taken by the battery.
      # @return [Figure]
      def burns
        return Figure.unknown('W', 'it passes on what is asked for and burns nothing') unless @circuit.shunts? && scenario.running?
        return Figure.unknown('W', system_v.reason) unless system_v.known?

        left = point.regime == :held ? [point.alternator_a + point.battery_a - @ledger.sum(scenario).amps(point.volts), 0.0].max : 0.0
        Figure.new(left * point.volts, 'W', assumed: earns.assumed) { burns_working(left) }
      end

      # @return [Float, nil] Hz at which the light pulses on an AC circuit
      def flicker_hz
        return nil unless @circuit.ac? && @circuit.pole_pairs && rpm&.positive?

        Charging::Flicker.light_hz(@circuit.pole_pairs, rpm, half_wave: @circuit.half_wave?)
      end

      # Parts of the doubt in what is kept, as variances.
      # :together is of sums they were read in and of the meter's and the clamp's gain; it may be below nothing.
      # @return [Hash{Object=>Float}] entry, :earns, :volts or :together => A²
      def doubt
        parts = blocks.filter_map { |b| b.sigma && [b.entry, b.sigma**2] }.to_h
        parts[:earns] = curve_sigma**2
        parts[:volts] = (earn_by_volts - spend_by_volts)**2
        together = in_common + clamp_common
        parts[:together] = together unless together.zero?
        parts
      end

      # A filament's life under this share of its rated life is worth saying: assumption.
      SHORT_LIFE = 0.7
      # Under this nobody counts: assumption.
      NO_LIFE = 0.01

      # @return [Array<Ledger::Block>] of the loads whose draw is unknown
      def unknown_loads = @unknown_loads ||= blocks.select { |b| b.amps.nil? }

      # @return [Float] A², of the loads
      def load_variance = @load_variance ||= blocks.sum { |b| b.sigma ? b.sigma * b.sigma : 0.0 } + in_common

      # What one load's doubt has in common with the rest of the line's: sums they were read in, and the meter's gain.
      # @param block [Ledger::Block]
      # @return [Float] A²
      def in_common_with(block) = summed_with(block) + ((block.gain || 0.0) * (gain - (block.gain || 0.0)))

      # @return [Float] A that the meter's gain moves what is spent by: it is one, so it adds straight
      def gain = @gain ||= blocks.sum { |b| b.gain || 0.0 }

      # @return [Float] A that the clamp's gain, one standard uncertainty up, makes too much of what is spent
      def clamp = @clamp ||= blocks.sum { |b| b.clamp || 0.0 }

      # The same of what is earned.
      # @return [Float] A
      def clamp_earned = @clamp_earned ||= scenario.running? && rpm && @circuit.curve ? @circuit.curve.gain(rpm, @volts) : 0.0

      # One clamp read what is earned and what is spent: it takes from what is kept what it gives there.
      # @param spent [Float] A
      # @return [Float] A², nothing or less
      def clamp_common(spent = clamp) = -2 * clamp_earned * spent

      # @return [Float] A²; of sums alone
      def summed_with(block)
        return 0.0 unless @ledger.together && !scenario.parked?

        blocks.sum { |b| b.equal?(block) ? 0.0 : b.duty * block.duty * @ledger.together.call(b.entry, block.entry) }
      end

      # @return [Float] A
      def curve_sigma = @curve_sigma ||= scenario.running? && rpm && @circuit.curve ? @circuit.curve.sigma(rpm, @volts) : 0.0

      # Volts move earning and spending together, so their share of the doubt in
      # what is kept is taken once, with its sign.
      # @return [Float] A earned more, with the volts one standard uncertainty up
      def earn_by_volts
        return 0.0 unless scenario.running? && rpm && @circuit.curve

        @earn_by_volts ||= half_difference { |v| @circuit.curve.amps(rpm, v) }
      end

      # @return [Float] A spent more, alike
      def spend_by_volts
        return 0.0 if scenario.parked?

        sum = @ledger.sum(scenario)
        @spend_by_volts ||= half_difference { |v| sum.amps(v) }
      end

      # Half of what a function of the volts changes by over their doubt.
      # @yieldparam volts [Float] @return [Float]
      def half_difference
        step = @circuit.volts_sigma
        step.zero? ? 0.0 : (yield(@volts + step) - yield(@volts - step)) / 2
      end

      # @return [String] where a figure of it is asked for
      def path(name) = "line/#{@ledger.side}/#{scenario.id}/#{@circuit.id}/#{name}"

      private

      # What the loads' doubts have in common with one another: sums they were read in, and the meter's gain.
      # @return [Float] A²
      def in_common
        @in_common ||= begin
          sums = @ledger.together ? blocks.select(&:sigma).sum(0.0) { |b| summed_with(b) } : 0.0
          gain.zero? ? sums : sums + (gain**2) - blocks.sum(0.0) { |b| (b.gain || 0.0)**2 }
        end
      end

      def unknown_words
        dark = scenario.parked? ? [] : unknown_loads.filter_map { |b| b.entry.load.dark_words(@volts) }
        unread = unknown_loads.select { |b| scenario.parked? || b.entry.load.dark_words(@volts).nil? }.map { |b| b.entry.name }
        [*dark, unread.any? ? "draw #{'with the key off ' if scenario.parked?}unknown: #{unread.join(', ')}" : nil].compact.join('; ')
      end

      def life_words(life)
        return unless life && life < SHORT_LIFE

        format('life × %s', life < NO_LIFE ? format('%g or less', NO_LIFE) : format('%.1g', life))
      end

      # Where the alternator does not hold the volts, the battery's share must be known.
      def wants_battery? = @circuit.battery.nil? && (!scenario.running? || (@circuit.dc? && point.regime != :held))

      def keep_sigma = Math.sqrt([load_variance + (curve_sigma**2) + clamp_common, 0.0].max + ((earn_by_volts - spend_by_volts)**2))

      def plain(title, text) = Working.new(title: title, formula: text, inputs: [], source: 'nothing turns', notes: [])

      def spends_working
        inputs = blocks.select { |b| b.duty.positive? }.map do |b|
          Input.new(name: b.duty >= 1.0 ? b.entry.name : "#{b.entry.name} × duty #{format('%g', b.duty)}", value: b.amps, unit: 'A',
            sigma: b.sigma,
            origin: b.entry.load.anchor&.origin&.label || 'key-off draw, entered', ref: "load/#{@ledger.side}/#{b.entry.id}")
        end
        Working.new(title: "Spent: #{scenario.name}", formula: 'Σ duty · I(V)', inputs: inputs,
          source: 'sum of the loads; doubts add in quadrature',
          notes: [format('Every draw is carried to %.1f V by its own law first.', @volts)])
      end

      def keeps_working
        Working.new(title: "Kept: #{scenario.name}", formula: 'keep = earn(n) − Σ duty · I(V)',
          inputs: [Input.new(name: 'Earned', value: earns.value, unit: 'A', sigma: earns.sigma,
            origin: @circuit.curve ? @circuit.basis_words : 'engine off', ref: path('earns')),
            Input.new(name: 'Spent', value: spends.value, unit: 'A', sigma: spends.sigma, origin: 'ledger', ref: path('spends')),
            Input.new(name: 'Volts', value: @volts, unit: 'V', sigma: @circuit.volts_sigma, origin: 'budget volts',
              ref: "circuit/#{@circuit.id}/volts")],
          source: 'common practice',
          notes: ['Keeps if more than 2σ above nothing, owes if more than 2σ below, else too close to call.',
            'A doubt in the volts moves earning and spending together; it is counted once.'])
      end

      def volts_working
        formula = if @circuit.dc?
                    'alternator(n, V) + battery(V) = Σ loads(V), no higher than the regulator holds'
                  else
                    'alternator(n, V) = Σ I(V), then the regulator clamps'
                  end
        inputs = [Input.new(name: 'Engine speed', value: rpm, unit: 'rpm', origin: 'scenario'),
          Input.new(name: 'Alternator gives', value: point.alternator_a, unit: 'A', origin: 'solved'),
          Input.new(name: 'Loads take', value: @ledger.sum(scenario).amps(point.volts), unit: 'A', origin: 'solved')]
        if @circuit.battery
          inputs << Input.new(name: 'Battery gives', value: point.battery_a, unit: 'A', origin: 'solved')
          inputs << Input.new(name: 'Battery at rest', value: @circuit.battery.rest_v, unit: 'V', origin: 'battery')
          inputs << @circuit.battery.ohms_input
        end
        if @circuit.held
          inputs << Input.new(name: 'Regulator holds', value: @circuit.held, unit: 'V',
            origin: @circuit.measured_volts ? 'measured' : 'assumed')
        end
        Working.new(title: "System volts: #{scenario.name}", formula: formula, inputs: inputs,
          source: @circuit.curve ? @circuit.curve.form.source : 'battery and loads in balance', notes: [])
      end

      def light_working(entry, volts, rated)
        law = entry.load.law
        there = entry.load.lamp_volts(volts)
        life = law.life(there, of: rated)
        notes = if life
                  [format('Its life at these volts: %.2g of the rated life, by (V / V_rated)^−%.0f.', life, -Draw::Filament::LIFE)]
                else
                  []
                end
        Working.new(title: "Light of #{entry.part_name || entry.name}",
          formula: if entry.load.filament?
                     format('(V / V_rated)^%.1f', Draw::Filament::LIGHT)
                   else
                     'light follows the amps of its law'
                   end,
          inputs: [Input.new(name: 'System volts', value: volts, unit: 'V', origin: 'solved', ref: path('system_v')),
            Input.new(name: 'At the lamp', value: there, unit: 'V', origin: entry.load.feed ? entry.load.feed.origin : 'as the system'),
            Input.new(name: 'Rated at', value: rated, unit: 'V',
              origin: format('lamp base, else %.1f V', Volts::HEADLAMP_TEST))],
          source: law.class.source, notes: notes)
      end

      def burns_working(left)
        Working.new(title: "Burnt by the regulator: #{scenario.name}", formula: 'P = (earned − spent − taken by the battery) · V',
          inputs: [Input.new(name: 'Left over', value: left, unit: 'A', origin: 'solved'),
            Input.new(name: 'System volts', value: point.volts, unit: 'V', origin: 'solved', ref: path('system_v'))],
          source: 'common practice', notes: ['A regulator that opens the circuit instead burns nothing: say so at Intake.'])
      end
    end
  end
end
