# frozen_string_literal: true

require_relative 'runaway'

module Miser
  module Budget
    # What a person must be told that no ledger line says.
    class Flags
      # @!attribute level [String] danger, warning, note
      Flag = Struct.new(:key, :level, :side, :text, :cure, keyword_init: true) do
        # @return [Boolean] whether it must be seen wherever the machine is
        def serious? = level != 'note'

        # @return [String] in a few words, for a list
        def short = [SHORT.fetch(key, key), side == 'before' ? 'as it came in' : nil].compact.join(', ')
      end

      SHORT = { 'six_volts' => 'a machine of 6 V', 'dark' => 'a lamp stays dark',
                'ac_runaway' => 'volts run away', 'ac_burnt' => 'a burnt filament lets the volts run away',
                'crest' => 'crest volts too high for an LED', 'needs_dc' => 'a part needs DC', 'data_bus' => 'data bus: do not splice',
                'starved' => 'a unit cuts out', 'charging_fault' => 'charging fault',
                'overcharge' => 'overcharging', 'never_keeps' => 'owes everywhere', 'flicker' => 'flickers',
                'flasher' => 'flasher may run fast', 'curve' => 'charging curve in doubt',
                'hot_regulator' => 'regulator runs hotter', 'worse_beam' => 'a worse headlamp', 'wiring' => 'wired wrongly' }.freeze
      DATA_BUS = 'Data bus: never splice into lamp wires. Use a plug-in isolating hub.'
      # Shown where the charging system is entered.
      OF_CHARGING = %w[ac_runaway ac_burnt charging_fault overcharge].freeze

      # Share of what is earned over which what a shunt burns is said: common practice.
      HOT_SHARE = 0.5

      # @param budget [Budget]
      def initialize(budget)
        @budget = budget
        @settings = budget.settings
      end

      # @return [Array<Flag>]
      def all
        [six_volts, data_bus, *dark, *runaways, *burnt, *starved, *needs_dc, *crests, *charging_fault, *flicker, *signals,
          *hot_regulators, *curve_remarks, *nothing_kept].compact
      end

      private

      def six_volts
        refusal = @budget.refusal
        refusal && Flag.new(key: 'six_volts', level: 'danger', text: refusal, cure: 'Do it by hand, or enter the volts that were meant.')
      end

      # A lamp that must shine and does not: no saving, whatever it does not draw.
      def dark
        @budget.ledgers('after').values.flat_map do |ledger|
          volts = ledger.circuit.volts
          lit = ledger.entries.select { |e| @budget.scenarios.any? { |s| s.running? && s.duty(e.row).positive? } }
          lit.filter_map { |e| e.load.dark_words(volts) }.map do |words|
            Flag.new(key: 'dark', level: 'danger', side: 'after', text: "#{words[0].upcase}#{words[1..]}.",
              cure: 'Fit one made for these volts.')
          end
        end
      end

      def data_bus
        return unless @budget.document.data_bus?

        Flag.new(key: 'data_bus', level: 'warning', text: DATA_BUS,
          cure: 'A hub fed by the battery and triggered by the lamp wires; a lamp the controller watches may still show a fault.')
      end

      def runaway(side, ledger) = (@loose ||= {})[[side, ledger.circuit.id]] ||= Runaway.new(ledger, @budget.scenarios, @budget.redline)

      def each_ledger = Budget::SIDES.flat_map { |side| @budget.ledgers(side).values.filter_map { |ledger| yield(side, ledger) } }

      def runaways
        each_ledger do |side, ledger|
          danger = runaway(side, ledger).worst
          danger && Flag.new(key: 'ac_runaway', level: 'danger', side: side,
            text: format('%<side>s: the coil passes %<limit>s at %<rpm>d rpm and reaches %<peak>.0f V at %<redline>d rpm (%<scenario>s%<off>s). %<weakest>s is rated to %<own>.1f V.',
              **danger_words(danger, side)),
            cure: 'Fit an AC regulator, or a rectifier-regulator, before any LED unit.')
        end
      end

      # All is well until one filament burns out, and the rest gets its volts.
      def burnt
        each_ledger do |side, ledger|
          danger = runaway(side, ledger).burnt
          danger && Flag.new(key: 'ac_burnt', level: side == 'after' ? 'warning' : 'note', side: side,
            text: format('%<side>s: should %<burnt>s burn out, the coil passes %<limit>s at %<rpm>d rpm and reaches %<peak>.0f V at %<redline>d rpm (%<scenario>s%<off>s). %<weakest>s is rated to %<own>.1f V.',
              burnt: danger.burnt, **danger_words(danger, side)),
            cure: 'An AC regulator holds the volts whatever burns out.')
        end
      end

      def danger_words(danger, side)
        { side: side == 'after' ? 'After the change' : 'As it came in',
          limit: format(danger.crest ? '%.1f V (its crest: %.1f V)' : '%.1f V', danger.limit_rms, danger.limit_v),
          rpm: danger.crosses_rpm.round(-1), peak: danger.peak_v, redline: danger.peak_rpm.round, scenario: danger.scenario.name,
          off: danger.off.any? ? ", #{danger.off.join(' and ')} off" : '', weakest: danger.weakest, own: danger.limit_v }
      end

      # Held by a regulator, but raw: an LED's limit is for DC.
      def crests
        @budget.ledgers('after').values.flat_map do |ledger|
          Crest.over(ledger, @budget.scenarios, @budget.redline).map do |over|
            name = over.entry.part_name || over.entry.name
            Flag.new(key: 'crest', level: 'danger', side: 'after',
              text: format('%<name>s: %<volts>.1f V rms is %<crest>.1f V at its crest%<how>s; it is rated to %<limit>.1f V DC.', name: name,
                volts: over.volts, crest: over.crest_v, limit: over.limit_v, how: cut_words(over)),
              cure: 'Fit a rectifier-regulator with smoothing, or choose an AC-rated unit and say so at its supply.')
          end
        end
      end

      def cut_words(over)
        return '' unless over.cut

        format(' at %<rpm>d rpm, where a regulator cuts half-waves short%<said>s', rpm: over.rpm.round,
          said: over.said ? '' : ' (what this one does to them is not said)')
      end

      # Constant-watt units that can't be fed drop out, come back, drop out again.
      def starved
        @budget.ledgers('after').values.filter_map do |ledger|
          hit = @budget.scenarios.select(&:running?).filter_map { |s| ledger.line(s) }.find do |l|
            l.system_v.known? &&
              l.point.regime == :starved
          end
          next unless hit

          text = format('%<scenario>s: the volts fall to %<volts>.1f V, where a unit cuts out. It will flicker on and off.',
            scenario: hit.scenario.name, volts: hit.point.volts)
          Flag.new(key: 'starved', level: 'warning', side: 'after', text: text,
            cure: 'Fewer loads at this speed, or a unit that works from lower volts.')
        end
      end

      def needs_dc
        @budget.ledgers('after').values.select { |l| l.circuit.ac? && !l.circuit.rectified? }.flat_map do |ledger|
          ledger.entries.select { |e| e.load.document['supply'] == 'dc' }.map do |e|
            Flag.new(key: 'needs_dc', level: 'danger', side: 'after', text: "#{e.part_name || e.name} needs DC; this circuit is AC.",
              cure: 'Fit a rectifier-regulator with smoothing, or choose an AC-rated unit.')
          end
        end
      end

      # Low volts at cruise with amps to spare is no budget matter.
      def charging_fault
        @budget.ledgers('before').values.select { |l| l.circuit.dc? && l.circuit.measured_volts }.filter_map do |ledger|
          volts = ledger.circuit.measured_volts
          if volts < @settings[:low_cruise_v]
            text = format('%.1f V measured running: under %.1f V with a light load is a charging fault, not a budget.', volts,
              @settings[:low_cruise_v])
            Flag.new(key: 'charging_fault', level: 'warning', text: text,
              cure: 'Check stator, regulator, earths and battery before counting amps.')
          elsif volts > @settings[:over_v]
            Flag.new(key: 'overcharge', level: 'warning',
              text: format('%.1f V measured running: over %.1f V the regulator is at fault.', volts, @settings[:over_v]),
              cure: 'Check the regulator and its earth.')
          end
        end
      end

      def flicker
        @budget.ledgers('after').values.select { |l| l.circuit.ac? && l.circuit.pole_pairs && !l.circuit.rectified? }.filter_map do |ledger|
          slowest = @budget.scenarios.select { |s| s.running? && s.rpm&.positive? }.min_by(&:rpm) or next
          hz = ledger.line(slowest).flicker_hz
          next unless hz < @settings[:flicker_hz] && ledger.entries.any? { |e| e.kind == 'led' }

          Flag.new(key: 'flicker', level: 'note', side: 'after',
            text: format('LED light pulses at %.0f Hz at %d rpm; people notice under %.0f Hz.', hz, slowest.rpm.round,
              @settings[:flicker_hz]),
            cure: 'Rectify and smooth, or choose a unit with its own storage.')
        end
      end

      # Changing what a flasher listens to changes how it flashes.
      def signals
        swapped = @budget.ledgers('after').values.flat_map(&:entries).any? do |e|
          e.choice && e.row['role'].to_s.start_with?('signal_') &&
            e.kind == 'led'
        end
        return [] unless swapped

        [Flag.new(key: 'flasher', level: 'note', side: 'after',
          text: 'Turn signals changed to LED: a flasher that listens to the draw may run fast or stay on.',
          cure: 'Solve the signal circuit: it tells what will be seen, and what cures it.')]
      end

      # What lamps no longer take, a shunt regulator burns.
      def hot_regulators
        @budget.ledgers('after').values.filter_map do |ledger|
          pairs = @budget.scenarios.select(&:running?).filter_map { |s| both(ledger.circuit.id, s) }
          was, now = pairs.select { |old, new| new.burns.value > old.burns.value }.max_by { |_, new| new.burns.value }
          next unless now

          Flag.new(key: 'hot_regulator', level: 'note', side: 'after',
            text: format('%<scenario>s: over half of what is earned is left over. A shunt regulator burns %<now>.0f W of it, %<was>.0f W as it came in.',
              scenario: now.scenario.name, now: now.burns.value, was: was.burns.value),
            cure: 'See that air reaches it and its plug is sound; a series regulator burns nothing.')
        end
      end

      # @return [Array(Line, Line), nil] before and after, where the surplus is so large and both are known
      def both(circuit, scenario)
        was, now = Budget::SIDES.map { |side| @budget.line(side, scenario.id, circuit) }
        return nil unless was && now&.keeps&.known? && now.keeps.value > HOT_SHARE * now.earns.value

        [was, now].all? { |l| l.burns.known? } ? [was, now] : nil
      end

      def curve_remarks
        @budget.ledgers('before').values.flat_map { |l| l.circuit.remarks }.map { |text| Flag.new(key: 'curve', level: 'note', text: text) }
      end

      def nothing_kept
        @budget.ledgers('after').values.filter_map do |ledger|
          lines = @budget.scenarios.select(&:running?).filter_map { |s| ledger.line(s) }
          next unless lines.any? && lines.all? { |l| l.verdict == 'owes' }

          Flag.new(key: 'never_keeps', level: 'warning', side: 'after', text: "#{ledger.circuit.name}: owes in every scenario.",
            cure: 'Fewer loads, or a check of the charging system.')
        end
      end
    end
  end
end
