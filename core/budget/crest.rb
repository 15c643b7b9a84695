# frozen_string_literal: true

require_relative '../charging/phase_cut'
require_relative '../charging/regulator'

module Miser
  module Budget
    # An LED unit on raw AC that a regulator holds: its limit is for DC, and its input sees the crest.
    module Crest
      # Crest of a sine over its rms.
      FACTOR = Math.sqrt(2)
      # What a part's supply says of one that may hang on AC; what does not mind its crests anyway.
      AC_RATED = %w[ac either].freeze
      PATIENT = %w[filament heater].freeze
      # Less than this takes nothing that is worth solving for.
      LEAST_A = 1e-3

      # @!attribute entry [Entry] @!attribute volts [Float] rms @!attribute crest_v, limit_v [Float]
      # @!attribute rpm [Float, nil] where the crest is so high @!attribute cut [Boolean] whether by cutting half-waves short
      # @!attribute said [Boolean] whether somebody said what the regulator does to the wave
      Over = Struct.new(:entry, :volts, :crest_v, :limit_v, :rpm, :cut, :said, keyword_init: true)

      # @param entry [Entry]
      # @return [Boolean] whether its limit is for DC
      def self.dc_only?(entry)
        %w[led accessory].include?(entry.kind) && !PATIENT.include?(entry.load.law_key) && !AC_RATED.include?(entry.load.document['supply'])
      end

      # @param ledger [Ledger] @param scenarios [Array<Scenario>] @param redline [Float] rpm
      # @return [Array<Over>] of those whose supply nobody says
      def self.over(ledger, scenarios, redline)
        volts = ledger.circuit.held
        return [] unless ledger.circuit.ac? && !ledger.circuit.rectified? && volts

        wave = ledger.circuit.document.dig('regulator', 'wave')
        # What draws alike has one crest.
        solved = Hash.new { |known, amps| known[amps] = crest(ledger.circuit, amps, redline) }
        ledger.entries.select { |e| dc_only?(e) && e.load.document['supply'].nil? }.filter_map do |entry|
          limit = entry.limit_v(ledger.settings) or next
          cut = wave == 'clamping' ? nil : cut_short(ledger, entry, scenarios, solved)
          crest = [volts * FACTOR, cut].compact.max
          next unless crest > limit

          Over.new(entry: entry, volts: volts, crest_v: crest, limit_v: limit, rpm: redline, cut: crest == cut, said: !wave.nil?)
        end
      end

      # The worst crest of a regulator that cuts half-waves short, over what may be lit beside the unit.
      # @param solved [Hash{Float=>Float, nil}] crest volts by the amps that are lit
      # @return [Float, nil] V; nil where the coil is not known, or it is never lit
      def self.cut_short(ledger, entry, scenarios, solved)
        return unless ledger.circuit.curve

        amps = scenarios.select { |s| s.running? && s.duty(entry.row).positive? }.map { |s| beside(ledger, entry, s) }.uniq
        amps.filter_map { |a| solved[a] }.max
      end

      # Amps at the volts held of the unit and of what is lit beside it all the time: what comes and goes may be off.
      def self.beside(ledger, entry, scenario)
        lit = ledger.blocks(scenario).select { |b| b.amps && (b.duty >= 1.0 || b.entry.equal?(entry)) }
        lit.sum { |b| b.entry.load.amps(ledger.circuit.held) }
      end

      def self.crest(circuit, amps, rpm)
        return unless amps > LEAST_A

        Charging::PhaseCut.of(circuit.curve, rpm, circuit.held / amps).at(circuit.held).crest_v
      end
      private_class_method :cut_short, :beside, :crest
    end
  end
end
