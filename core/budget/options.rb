# frozen_string_literal: true

require_relative '../figure'
require_relative 'verdict'

module Miser
  module Budget
    # Parts tried in a lamp's place, each as a difference to the line that stands: what every
    # function draws, what that saves against the lamp as it came in, what is kept then.
    class Options
      # @!attribute functions [Array<Function>] in the lamp's order @!attribute keeps [Figure] A
      Option = Struct.new(:part, :functions, :keeps, :verdict, keyword_init: true) do
        # @return [Boolean] whether all it draws is known
        def known? = functions.all? { |f| f.amps.known? }
      end
      # What a part does of what the lamp does.
      # @!attribute load_id [String] @!attribute word [String] low, brake … @!attribute how [String] part, kept, dark, unsaid
      # @!attribute amps, saving [Figure] A, of all copies @!attribute dark [String, nil] that it gives no light at the volts it gets
      Function = Struct.new(:load_id, :word, :how, :amps, :saving, :dark, keyword_init: true)

      # @param budget [Budget] @param lamp [Job::Lamp]
      # @param scenario [Scenario, nil] looked at
      def initialize(budget, lamp, scenario)
        @budget = budget
        @lamp = lamp
        @rows = lamp.own_loads
        @scenario = scenario
        @lines = {}
        @now = budget.entries('after').to_h { |e| [e.id, e] }
      end

      # @param part [Hash]
      # @param choice [String, nil] id of the choice whose part it is: what was read on it counts
      # @return [Option]
      def of(part, choice = nil)
        loads = @rows.map { |row| [row, choice ? fitted(row, part, choice) : @budget.load_of_part(row, part)] }
        functions = loads.map { |row, load| function(part, row, load) }
        keeps = keeps_with(loads)
        Option.new(part: part, functions: functions, keeps: keeps, verdict: Verdict.of(keeps.value, keeps.sigma))
      end

      private

      def circuit(row) = @budget.ledgers('after')[@budget.circuit_of(row)]

      # A part that stands at the lamp, with what was read on it.
      def fitted(row, part, choice)
        how = @budget.function_of(part, row)&.fetch('how', 'part')
        %w[kept dark].include?(how) ? @budget.load_of_part(row, part) : @budget.thing(row['id'], choice)
      end

      def function(part, row, load)
        known = @budget.function_of(part, row)
        volts = circuit(row).circuit.volts
        amps = load ? load.figure(volts) : Figure.new(0.0, 'A', sigma: 0.0)
        Function.new(load_id: row['id'], word: Job::Functions::BY_KEY[Job::Functions.of(row['role'])]&.word,
          how: known ? known.fetch('how', 'part') : 'unsaid', amps: amps, saving: saving(row, load, amps, volts), dark: load&.dark_words(volts))
      end

      def saving(row, load, new, volts)
        was = @lamp.choice && @lamp.choice['action'] == 'add' ? nil : @budget.as_is(row)
        old = was ? was.figure(volts) : Figure.new(0.0, 'A', sigma: 0.0)
        unknown = [old, new].find { |f| !f.known? }
        return Figure.unknown('A', unknown.reason) if unknown

        Figure.new(old.value - new.value, 'A', sigma: [was, load].compact.then { |one, other| one ? one.sigma_apart(other, volts) : 0.0 },
          assumed: old.assumed || new.assumed)
      end

      # What is kept on the circuit of the lamp's first function, with all its functions there changed.
      def keeps_with(loads)
        pairs = loads.select { |row, _| @budget.circuit_of(row) == @budget.circuit_of(@rows.first) }
        line = @scenario && pairs.any? ? circuit(pairs.first.first).line(@scenario) : nil
        return Figure.unknown('A', 'no scenario') unless line

        reason = unknown(line, pairs)
        return reason if reason

        changed(line, pairs.select do |_, load|
          load.nil? || load.reason_at(line.circuit.volts).nil?
        end.map { |row, load| swap(line, row, load) })
      end

      # @return [Figure, nil] why it can't be said
      def unknown(line, pairs)
        mine = pairs.filter_map { |row, load| load && duty(row).positive? ? load.reason_at(line.circuit.volts) : nil }.first
        return Figure.unknown('A', mine) if mine
        return line.earns unless line.earns.known?

        others = line.unknown_loads.reject { |b| pairs.any? { |row, _| row['id'] == b.entry.id } }
        Figure.unknown('A', "draw unknown: #{others.map { |b| b.entry.name }.join(', ')}") if others.any?
      end

      # One function's load in exchange for another: what it adds to the line's sums.
      # @!attribute keeps, moved [Float] A @!attribute variance [Float] A²
      # @!attribute block [Ledger::Block, nil] what goes @!attribute gain, clamp [Float] A of the meter's and the clamp's, in what comes
      Swap = Struct.new(:load, :block, :keeps, :moved, :variance, :gain, :clamp)
      private_constant :Swap

      def swap(line, row, load)
        duty = duty(row)
        volts = line.circuit.volts
        block = line.blocks.find { |b| b.entry.id == row['id'] && b.amps }
        by_volts = ->(l) { l ? duty * line.half_difference { |v| l.amps(v) } : 0.0 }
        gone = block ? (block.sigma**2) + (2 * line.in_common_with(block)) : 0.0
        Swap.new(load, block, (block ? block.amps : 0.0) - (load ? duty * load.amps(volts) : 0.0),
          by_volts[block && @now[row['id']].load] - by_volts[load], (load ? (duty * load.sigma(volts))**2 : 0.0) - gone,
          load ? duty * load.gain(volts) : 0.0, load ? duty * load.clamp(volts) : 0.0)
      end

      # What those that go have in common among themselves went with each of the two: once too often. What comes has the
      # meter's gain in common with what stays, and among itself.
      def in_common(line, swaps)
        blocks = swaps.filter_map(&:block)
        together = line.ledger.together
        gone = blocks.combination(2).sum(0.0) do |a, b|
          2 * ((a.gain * b.gain) + (together ? a.duty * b.duty * together.call(a.entry, b.entry) : 0.0))
        end
        stays = line.gain - blocks.sum(0.0, &:gain)
        comes = swaps.sum(0.0, &:gain)
        gone + (2 * stays * comes) + (comes**2) - swaps.sum(0.0) { |s| s.gain**2 }
      end

      def duty(row) = @scenario.parked? ? 0.0 : @scenario.duty(row)

      # The line's own sums, less the lamp as it stands there, with the part.
      def changed(line, swaps)
        moved = line.earn_by_volts - line.spend_by_volts + swaps.sum(0.0, &:moved)
        variance = [line.load_variance + swaps.sum(0.0, &:variance) + in_common(line, swaps), 0.0].max
        clamp = line.clamp_common(line.clamp + swaps.sum(0.0) { |s| s.clamp - (s.block&.clamp || 0.0) })
        Figure.new(line.earns.value - line.known_spends + swaps.sum(0.0, &:keeps), 'A',
          sigma: Math.sqrt([variance + (line.curve_sigma**2) + clamp, 0.0].max + (moved**2)),
          assumed: line.earns.assumed || line.blocks.any?(&:assumed?) || swaps.any? { |s| s.load && s.load.anchor.origin.assumed? })
      end
    end
  end
end
