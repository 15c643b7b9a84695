# frozen_string_literal: true

require_relative 'crest'

module Miser
  module Budget
    # An AC coil without a regulator: how high its volts go, and what that kills. Loads that come
    # and go are tried on and off in every combination, filaments burnt out one after another.
    class Runaway
      # @!attribute limit_v [Float] what the weakest load stands: crest volts where crest, else rms
      # @!attribute weakest [String] its name @!attribute crest [Boolean] whether its limit is for DC
      # @!attribute peak_v [Float] rms, at peak_rpm
      # @!attribute crosses_rpm [Float] where the limit is passed
      # @!attribute off [Array<String>] what comes and goes, and is off just then
      # @!attribute burnt [String, nil] the filament that is gone
      Danger = Struct.new(:scenario, :weakest, :limit_v, :crest, :peak_v, :peak_rpm, :crosses_rpm, :off, :burnt, keyword_init: true) do
        # @return [Float] rms V
        def limit_rms = crest ? limit_v / Crest::FACTOR : limit_v
      end
      # One thing lit: its law from the battery's side, how many, what it stands, as rms.
      Lit = Struct.new(:entry, :limit_v, :crest) do
        def name = entry.part_name || entry.name
        def limit_rms = limit_v && (crest ? limit_v / Crest::FACTOR : limit_v)
        def weighed = [entry.load.fed, entry.load.count]
      end

      # More loads that come and go than this are only tried all on and all off.
      MOST = 5

      # @param ledger [Ledger] of an AC circuit
      # @param scenarios [Array<Scenario>]
      # @param redline [Float] rpm
      def initialize(ledger, scenarios, redline)
        @ledger = ledger
        @redline = redline
        loose = ledger.circuit.ac? && ledger.circuit.held.nil? && ledger.circuit.curve
        @scenarios = loose ? scenarios.select { |s| s.running? && ledger.blocks(s).none? { |b| b.amps.nil? } } : []
      end

      # @return [Danger, nil] the worst scenario, or nil where the volts stay in bounds
      def worst = @worst ||= @scenarios.filter_map { |s| danger(s) }.max_by(&:peak_v)

      # The worst that one filament burning out does where all is well until then.
      # @return [Danger, nil]
      def burnt
        return if worst

        @scenarios.flat_map do |s|
          lamps(s).select { |b| b.entry.kind == 'filament' && b.duty >= 1.0 }.filter_map { |b| danger(s, without: b.entry) }
        end.max_by(&:peak_v)
      end

      private

      def lamps(scenario) = @ledger.blocks(scenario).select(&:amps)

      def danger(scenario, without: nil)
        blocks = lamps(scenario).reject { |b| b.entry.equal?(without) }
        always, now_and_then = blocks.partition { |b| b.duty >= 1.0 }.map { |list| list.map { |b| lit(b.entry) } }
        combinations(now_and_then).filter_map { |on| passed(scenario, always + on, now_and_then - on, without) }.max_by(&:peak_v)
      end

      def combinations(loads)
        return [[], loads].uniq if loads.size > MOST

        (0..loads.size).flat_map { |n| loads.combination(n).to_a }
      end

      def lit(entry)
        Lit.new(entry, entry.limit_v(@ledger.settings), !@ledger.circuit.rectified? && Crest.dc_only?(entry))
      end

      # @return [Danger, nil] nil where all that is lit stands it
      def passed(scenario, loads, off, without)
        weakest = loads.select(&:limit_v).min_by(&:limit_rms) or return
        solver = Charging::OperatingPoint.new(curve: @ledger.circuit.curve, sum: Draw::Sum.new(loads.map(&:weighed)))
        peak = solver.at(@redline).volts
        return unless peak > weakest.limit_rms

        Danger.new(scenario: scenario, weakest: weakest.name, limit_v: weakest.limit_v, crest: weakest.crest, peak_v: peak,
          peak_rpm: @redline, crosses_rpm: crossing(solver, weakest.limit_rms), off: off.map(&:name), burnt: without&.name)
      end

      # Volts rise with speed, so halving finds the speed.
      def crossing(solver, limit)
        low = 0.0
        high = @redline
        40.times do
          mid = (low + high) / 2
          solver.at(mid).volts > limit ? high = mid : low = mid
        end
        high
      end
    end
  end
end
