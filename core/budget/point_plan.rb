# frozen_string_literal: true

module Miser
  module Budget
    # Where to measure what the charging system earns: the engine speeds, what to
    # expect there, and what to switch on so that the regulator passes all of it on.
    # A regulator that shunts shows what is spent and not what could be earned.
    class PointPlan
      # @!attribute rpm [Float] @!attribute expect_a [Figure]
      # @!attribute switch_on [Array<String>] @!attribute demand_a [Float] at held volts
      # @!attribute enough [Boolean, nil] nil where it is not known what it earns
      # @!attribute taken [Boolean] whether a point near this speed is measured
      Step = Struct.new(:rpm, :expect_a, :switch_on, :demand_a, :enough, :taken, :words, keyword_init: true)

      # Demand over what is earned, so that the volts sag a little below the regulator's.
      MARGIN = 1.05
      # Two speeds nearer than this tell the same.
      ALIKE = 0.1

      # @param ledger [Ledger] as the machine came in
      # @param machine [Hash]
      def initialize(ledger, machine)
        @ledger = ledger
        @circuit = ledger.circuit
        @machine = machine
      end

      # @return [Array<Step>] slowest first; empty where no engine speed is known
      def steps = speeds.map { |rpm| step(rpm) }

      private

      # Near cut-in the curve is steep, at cruise it is flat: both ends and the knee.
      def speeds
        idle = @machine['idle_rpm']
        cut_in = @circuit.curve&.cut_in(@circuit.volts)
        wanted = [cut_in && (cut_in * 1.2), idle, idle && (idle * 1.6), @machine['slow_rpm'], @machine['cruise_rpm']].compact
        wanted = wanted.select { |n| idle.nil? || n >= idle * 0.99 }.map { |n| (n / 50).round * 50.0 }.sort
        wanted.each_with_object([]) { |n, kept| kept << n if kept.empty? || n > kept.last * (1 + ALIKE) }
      end

      # Biggest loads first, the engine's own always running.
      def loads
        @loads ||= @ledger.entries.select { |e| e.load.known? }.map { |e| [e, e.load.amps(@circuit.volts)] }.sort_by { |_, a| -a }
      end

      def step(rpm)
        expect = @circuit.earns(rpm)
        own, others = loads.partition { |e, _| e.row['group'] == 'engine' }
        demand = own.sum(&:last)
        goal = expect.known? ? (expect.value + (expect.sigma || 0)) * MARGIN : nil
        chosen = others.take_while { |_, a| (goal.nil? || demand < goal).tap { |more| demand += a if more } }
        enough = goal && demand >= goal
        Step.new(rpm: rpm, expect_a: expect, switch_on: chosen.map { |e, _| e.name }, demand_a: demand, enough: enough, taken: taken?(rpm),
          words: words(goal, demand, enough))
      end

      def taken?(rpm) = @circuit.points.any? { |p| (p['rpm'] - rpm).abs <= ALIKE * rpm }

      def words(goal, demand, enough)
        return 'What it earns is not known yet: switch everything on.' if goal.nil?
        return format('%.1f A wanted, so the regulator passes all it has.', demand) if enough

        format('Only %.1f A can be switched on: it will shunt. Add %.0f W of lamps or a part-flat battery, or leave this speed out.',
          demand, (goal - demand) * @circuit.volts)
      end
    end
  end
end
