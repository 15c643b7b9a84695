# frozen_string_literal: true

module Miser
  module Budget
    # An AC coil without a regulator: how high its volts go, and what that kills.
    class Runaway
      # @!attribute limit_v [Float] what the weakest load stands
      # @!attribute weakest [String] its name
      # @!attribute peak_v [Float] at peak_rpm
      # @!attribute crosses_rpm [Float] where the limit is passed
      Danger = Struct.new(:scenario, :weakest, :limit_v, :peak_v, :peak_rpm, :crosses_rpm, keyword_init: true)

      # @param ledger [Ledger] of an AC circuit
      # @param scenarios [Array<Scenario>]
      # @param redline [Float] rpm
      # @return [Danger, nil] the worst scenario, or nil where the volts stay in bounds
      def self.worst(ledger, scenarios, redline)
        return nil if !ledger.circuit.ac? || ledger.circuit.held || ledger.circuit.curve.nil?

        scenarios.select(&:running?).filter_map { |s| danger(ledger, s, redline) }.max_by(&:peak_v)
      end

      def self.danger(ledger, scenario, redline)
        lit = ledger.blocks(scenario).filter_map { |b| limit = b.entry.limit_v(ledger.settings) and [limit, b.entry] }
        return nil if lit.empty? || ledger.blocks(scenario).any? { |b| b.amps.nil? }

        limit, weakest = lit.min_by(&:first)
        peak = ledger.point(scenario, redline).volts
        return nil unless peak > limit

        Danger.new(scenario: scenario, weakest: weakest.part_name || weakest.name, limit_v: limit, peak_v: peak, peak_rpm: redline,
          crosses_rpm: crossing(ledger, scenario, limit, redline))
      end
      private_class_method :danger

      # Volts rise with speed, so halving finds the speed.
      def self.crossing(ledger, scenario, limit, redline)
        low = 0.0
        high = redline
        40.times do
          mid = (low + high) / 2
          ledger.point(scenario, mid).volts > limit ? high = mid : low = mid
        end
        high
      end
      private_class_method :crossing
    end
  end
end
