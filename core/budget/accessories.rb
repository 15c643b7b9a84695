# frozen_string_literal: true

require_relative '../figure'
require_relative 'verdict'

module Miser
  module Budget
    # What the saving buys: the wanted accessories taken one after another in the
    # owner's order, each judged with those already taken.
    class Accessories
      # @!attribute fits [String] fits, too_close, does_not_fit, unknown
      # @!attribute worst [Hash, nil] scenario id and name, keeps (Figure), above_rpm (Figure)
      Judged = Struct.new(:load_id, :name, :amps, :fits, :worst, :reason, keyword_init: true)

      FITS = { 'keeps' => 'fits', 'too_close' => 'too_close', 'owes' => 'does_not_fit' }.freeze

      # @param ledger [Ledger] after the conversion, without any wanted accessory
      # @param wanted [Array<Entry>] in the owner's order
      # @param scenarios [Array<Scenario>]
      def initialize(ledger, wanted, scenarios)
        @ledger = ledger
        @wanted = wanted
        @scenarios = scenarios.select { |s| s.running? && s.rpm }
      end

      # @return [Array<Judged>]
      def judge
        taken = []
        @wanted.map do |entry|
          judged = one(entry, taken)
          taken << entry if %w[fits too_close].include?(judged.fits)
          judged
        end
      end

      private

      def one(entry, taken)
        volts = @ledger.circuit.volts
        return Judged.new(load_id: entry.id, name: entry.name, fits: 'unknown', reason: entry.load.reason) unless entry.load.known?

        results = @scenarios.filter_map { |s| in_scenario(s, entry, taken, volts) }
        base = { load_id: entry.id, name: entry.name, amps: entry.load.figure(volts) }
        return Judged.new(**base, fits: 'unknown', reason: @ledger.circuit.reason || 'no scenario tells') if results.empty?

        worst = results.min_by { |r| r[:keeps].value / [r[:keeps].sigma, 0.01].max }
        Judged.new(**base, fits: FITS.fetch(Verdict.of(worst[:keeps].value, worst[:keeps].sigma)), worst: worst)
      end

      def in_scenario(scenario, entry, taken, volts)
        line = @ledger.line(scenario)
        return nil unless line&.keeps&.known? && scenario.duty(entry.row).positive?

        group = [*taken, entry]
        extra = group.sum { |e| scenario.duty(e.row) * e.load.amps(volts) }
        sigma = Math.sqrt((line.keeps.sigma**2) + group.sum { |e| (scenario.duty(e.row) * e.load.sigma(volts))**2 })
        keeps = Figure.new(line.keeps.value - extra, 'A', sigma: sigma,
          assumed: line.keeps.assumed ||
            group.any? { |e| e.load.anchor.origin.assumed? }) do
          working(entry, scenario, line, group, volts)
        end
        { scenario: scenario.id, name: scenario.name, keeps: keeps, above_rpm: @ledger.break_even(line.spends.value + extra) }
      end

      def working(entry, scenario, line, group, volts)
        inputs = group.map do |e|
          Input.new(name: format('%<name>s × duty %<duty>g', name: e.name, duty: scenario.duty(e.row)),
            value: scenario.duty(e.row) * e.load.amps(volts), unit: 'A',
            sigma: scenario.duty(e.row) * e.load.sigma(volts), origin: e.load.anchor.origin.label, ref: "load/wanted/#{e.id}")
        end
        bare = Input.new(name: 'Kept without any wanted accessory', value: line.keeps.value, unit: 'A', sigma: line.keeps.sigma,
          origin: 'ledger')
        Working.new(title: "#{entry.name}: #{scenario.name}", formula: 'keep − Σ duty · I(V) of those taken before it, and of it',
          inputs: [bare, *inputs],
          source: 'common practice', notes: ['The scenario in which it fares worst.'])
      end
    end
  end
end
