# frozen_string_literal: true

module Miser
  module Budget
    # Where to measure what the charging system earns: the engine speeds, what to
    # expect there, and what to switch on so that the regulator passes all of it on.
    # A regulator that shunts shows what is spent and not what could be earned.
    class PointPlan
      # @!attribute rpm [Float] @!attribute expect_a [Figure]
      # @!attribute switch_on [Array<String>] @!attribute demand_a [Float] at held volts, as a clamp shows it
      # @!attribute enough [Boolean, nil] nil where it is not known what it earns
      # @!attribute taken [Boolean] whether a point near this speed is measured
      Step = Struct.new(:rpm, :expect_a, :switch_on, :demand_a, :enough, :taken, :words, keyword_init: true)
      # Loads that one movement of a switch brings on together.
      Switched = Struct.new(:name, :amps)

      # Demand over what is earned, so that the volts sag a little below the regulator's.
      MARGIN = 1.05
      # Two speeds nearer than this tell the same.
      ALIKE = 0.1
      # A clamp on a flashing lamp shows the middle: lit half the time. Common practice.
      LIT = 0.5
      SIGNALS = %w[signal_left signal_right].freeze
      BEAMS = %w[head_low head_high].freeze

      # @param ledger [Ledger] as the machine came in
      # @param machine [Hash]
      # @param hazard [Boolean] whether both sides can flash at once
      def initialize(ledger, machine, hazard: false)
        @ledger = ledger
        @circuit = ledger.circuit
        @machine = machine
        @hazard = hazard
      end

      # @return [Array<Step>] slowest first; empty where no engine speed is known
      def steps = speeds.map { |rpm| step(rpm) }

      # How it is read, in order: which clamp, round which wire, with what on. Common practice.
      # @return [Array<String>]
      def how
        return coil if @circuit.ac? && !@circuit.rectified?

        ['Engine warm. Clamp meter on DC amps, zeroed with nothing in it.',
          "Clamp round the regulator’s output#{', the wire to the battery' if @circuit.dc?}: all strands of it, before any branch, the arrow away from the regulator.",
          'At each speed switch on what is named, wait ten seconds, read amps and the volts there.',
          *(flashing? ? ['Signals swing the reading: take the middle of it.'] : [])]
      end

      private

      def coil
        ['Engine warm. A clamp for AC, true rms: one made for DC alone shows nothing here.',
          'Clamp round one lead of the lighting coil alone: both together cancel.',
          'At each speed switch on what is named; read amps, and volts AC (rms) at a lamp that is lit.']
      end

      # Near cut-in the curve is steep, at cruise it is flat: both ends and the knee.
      def speeds
        idle = @machine['idle_rpm']
        cut_in = @circuit.curve&.cut_in(@circuit.volts)
        wanted = [cut_in && (cut_in * 1.2), idle, idle && (idle * 1.6), @machine['slow_rpm'], @machine['cruise_rpm']].compact
        wanted = wanted.select { |n| idle.nil? || n >= idle * 0.99 }.map { |n| (n / 50).round * 50.0 }.sort
        wanted.each_with_object([]) { |n, kept| kept << n if kept.empty? || n > kept.last * (1 + ALIKE) }
      end

      # What can really be on at once: one beam, both sides only by a hazard switch. Biggest first.
      # @return [Array<Switched>]
      def switched
        @switched ||= [beam, *signals, *others].compact.sort_by { |s| -s.amps }
      end

      def known = @known ||= @ledger.entries.select { |e| e.load.known? }
      def of(*roles) = known.select { |e| roles.include?(e.row['role']) }
      def own = known.select { |e| e.row['group'] == 'engine' }
      def amps(entries) = entries.sum { |e| e.load.amps(@circuit.volts) }
      def flashing? = signals.any?

      def others
        (known - own - of(*BEAMS, *SIGNALS)).map { |e| Switched.new(e.name, amps([e])) }
      end

      # Low alone, or high with the low lamps that stay on.
      def beam
        low = of('head_low')
        high = of('head_high') + (of('head_high').any? ? low.select { |e| e.row['stays_on'] } : [])
        best = [low, high].reject(&:empty?).max_by { |set| amps(set) }
        best && Switched.new(best.map(&:name).join(' and '), amps(best))
      end

      def signals
        @signals ||= begin
          sides = SIGNALS.map { |role| of(role) }.reject(&:empty?)
          sides = [@hazard ? sides.flatten : sides.max_by { |set| amps(set) }].compact.reject(&:empty?)
          sides.map { |set| Switched.new("#{set.map(&:name).join(' and ')} flashing", LIT * amps(set)) }
        end
      end

      def step(rpm)
        expect = @circuit.earns(rpm)
        demand = amps(own)
        goal = expect.known? ? (expect.value + (expect.sigma || 0)) * MARGIN : nil
        chosen = switched.take_while { |s| (goal.nil? || demand < goal).tap { |more| demand += s.amps if more } }
        enough = goal && demand >= goal
        Step.new(rpm: rpm, expect_a: expect, switch_on: chosen.map(&:name), demand_a: demand, enough: enough, taken: taken?(rpm),
          words: words(goal, demand, enough))
      end

      def taken?(rpm) = @circuit.points.any? { |p| (p['rpm'] - rpm).abs <= ALIKE * rpm }

      def words(goal, demand, enough)
        return 'Nothing shunts here: whatever is lit, read amps and volts together.' if @circuit.ac? && @circuit.held.nil?
        return 'What it earns is not known yet: switch everything on.' if goal.nil?
        return format('%.1f A wanted, so the regulator passes all it has.', demand) if enough

        format('Only %.1f A can be switched on: it will shunt. Add %.0f W of lamps or a part-flat battery, or leave this speed out.',
          demand, (goal - demand) * @circuit.volts)
      end
    end
  end
end
