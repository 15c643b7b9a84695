# frozen_string_literal: true

require_relative 'steps'
require_relative 'verdict'

module Miser
  module Budget
    # Earning, keeping with its verdict at every step, and volts at both ends of the conversion, sampled
    # over engine speed for one scenario and circuit: what the screen draws and slides along.
    class Curve
      POINTS = 200

      attr_reader :rpm, :earns, :earns_sigma, :earns_low, :earns_high, :keeps, :keeps_sigma, :verdicts, :system_v, :reason

      # @param ledgers [Hash{String=>Ledger}] by step
      # @param scenario [Scenario]
      # @param redline [Float] rpm at the right-hand end
      def initialize(ledgers, scenario, redline)
        @rpm = grid(redline)
        @keeps = {}
        @keeps_sigma = {}
        @verdicts = {}
        @system_v = {}
        circuit = ledgers['before'].circuit
        @reason = circuit.reason unless circuit.curve
        return unless circuit.curve

        @earns = rpm.map { |n| circuit.curve.amps(n, circuit.volts) }
        @earns_sigma = doubts(circuit)
        # One standard uncertainty below and above, for drawing.
        @earns_low, @earns_high = earns.zip(earns_sigma).map { |a, s| [[a - s, 0.0].max, a + s] }.transpose
        ledgers.each { |side, ledger| sample(side, ledger, scenario) }
      end

      # A round step, so that the slider stops at round speeds.
      # @return [Integer] rpm
      def self.step(redline) = [(redline / POINTS / 5.0).ceil * 5, 5].max

      private

      def grid(redline)
        step = Curve.step(redline)
        (0..POINTS).map { |i| i * step }.take_while { |n| n <= redline + step }
      end

      # At every second speed, and straight between: it costs more than all the rest, and bends little in so short a step.
      def doubts(circuit)
        there = rpm.each_slice(2).map { |n,| circuit.curve.sigma(n, circuit.volts) }
        rpm.each_index.map { |i| i.even? || i + 1 >= rpm.size ? there[i / 2] : (there[i / 2] + there[(i / 2) + 1]) / 2 }
      end

      def sample(side, ledger, scenario)
        line = ledger.line(scenario) or return
        volts_known = line.system_v.known?
        keeps[side] = line.spends.known? ? earns.map { |a| a - line.spends.value } : nil
        keeps_sigma[side] = line.spends.known? ? earns_sigma.map { |s| Math.hypot(s, line.spends.sigma) } : nil
        verdicts[side] = keeps[side]&.zip(keeps_sigma[side])&.map { |keep, sigma| Verdict.of(keep, sigma) }
        # Each of the volts is an operating point solved: only those that are drawn.
        return unless Steps::ENDS.include?(side)

        system_v[side] = volts_known ? solved(ledger, scenario) : nil
      end

      # Volts at every speed, each looked for first where the two before it lead to.
      def solved(ledger, scenario)
        last = before = nil
        rpm.map do |n|
          near = before ? (2 * last) - before : last
          before = last
          last = ledger.point(scenario, n, near: near).volts
        end
      end
    end
  end
end
