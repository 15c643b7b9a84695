# frozen_string_literal: true

require_relative '../figure'
require_relative 'verdict'

module Miser
  module Budget
    # Parts tried in a lamp's place, each as a difference to the line that stands: what it
    # draws, what that saves against the lamp as it came in, what is kept then.
    class Options
      # @!attribute fits_base [Boolean] @!attribute amps, saving, keeps [Figure] A
      Option = Struct.new(:part, :fits_base, :amps, :saving, :keeps, :verdict, keyword_init: true)

      # @param budget [Budget] @param row [Hash] the lamp's
      # @param scenario [Scenario, nil] looked at
      def initialize(budget, row, scenario)
        @budget = budget
        @row = row
        @circuit = budget.ledgers('after')[budget.circuit_of(row)]
        @line = scenario && @circuit.line(scenario)
        @scenario = scenario
        @now = budget.entries('after').find { |e| e.id == row['id'] }
        @came_in = budget.as_is(row)
      end

      # What fits the base first, then what draws least; what nobody knows comes last of its kind.
      # @param parts [Array<Hash>]
      # @return [Array<Option>]
      def ranked(parts) = parts.map { |part| option(part) }.sort_by { |o| [o.fits_base ? 0 : 1, o.amps.value || Float::INFINITY] }

      private

      def volts = @circuit.circuit.volts

      def option(part)
        load = @budget.load_of_part(@row, part)
        keeps = keeps_with(load)
        Option.new(part: part, fits_base: part['base'] == @row['base'], amps: load.figure(volts), saving: saving(load), keeps: keeps,
          verdict: Verdict.of(keeps.value, keeps.sigma))
      end

      def saving(load)
        return Figure.unknown('A', [load, @came_in].filter_map(&:reason).first) unless load.known? && @came_in.known?

        old, new = [@came_in, load].map { |l| l.figure(volts) }
        Figure.new(old.value - new.value, 'A', sigma: Math.hypot(old.sigma, new.sigma), assumed: old.assumed || new.assumed)
      end

      def keeps_with(load)
        return Figure.unknown('A', 'no scenario') unless @line
        return Figure.unknown('A', load.reason) unless load.known?
        return @line.earns unless @line.earns.known?

        others = @line.unknown_loads.reject { |b| b.entry.id == @row['id'] }
        return Figure.unknown('A', "draw unknown: #{others.map { |b| b.entry.name }.join(', ')}") if others.any?

        changed(load)
      end

      # The line's own sums, less the lamp as it stands there, with the part.
      def changed(load)
        duty = @scenario.parked? ? 0.0 : @scenario.duty(@row)
        was = @line.blocks.find { |b| b.entry.id == @row['id'] }
        old = was&.amps ? @now.load : nil
        by_volts = ->(l) { l ? duty * @line.half_difference { |v| l.amps(v) } : 0.0 }
        moved = @line.earn_by_volts - @line.spend_by_volts + by_volts[old] - by_volts[load]
        variance = @line.load_variance - (was&.sigma.to_f**2) + ((duty * load.sigma(volts))**2)
        Figure.new(@line.earns.value - @line.known_spends + was&.amps.to_f - (duty * load.amps(volts)), 'A',
          sigma: Math.sqrt([variance, 0.0].max + (@line.curve_sigma**2) + (moved**2)),
          assumed: @line.earns.assumed || @line.blocks.any?(&:assumed?) || load.anchor.origin.assumed?)
      end
    end
  end
end
