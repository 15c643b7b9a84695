# frozen_string_literal: true

require_relative '../draw/sum'
require_relative '../charging/operating_point'
require_relative 'circuit'
require_relative 'entry'
require_relative 'line'

module Miser
  module Budget
    # The loads of one circuit on one side of the conversion, against what the
    # circuit earns.
    class Ledger
      # A load's share of one line. amps is nil where the draw is unknown; gain and clamp are the meter's and the clamp's own part of sigma.
      Block = Struct.new(:entry, :duty, :amps, :sigma, :gain, :clamp) do
        def assumed? = amps&.positive? && entry.load.anchor ? entry.load.anchor.origin.assumed? : false
      end

      attr_reader :side, :circuit, :entries, :settings

      # @param side [String] before or after
      # @param circuit [Circuit]
      # @param entries [Array<Entry>]
      # @param settings [Assumptions]
      # @param redline [Float, nil] rpm
      def initialize(side:, circuit:, entries:, settings:, redline: nil, together: nil)
        @side = side
        @circuit = circuit
        @entries = entries
        @settings = settings
        @redline = redline
        @together = together
        @lines = {}
        @sums = {}
      end

      # What two loads' doubts have in common, where sums of them were read.
      # @return [#call, nil] A² of two entries
      attr_reader :together

      # @return [Line, nil] nil where the scenario says nothing of this circuit
      def line(scenario)
        return nil if circuit.ac? && !scenario.running?

        @lines[scenario.id] ||= Line.new(self, scenario)
      end

      # @return [Array<Block>] of every load that is on in the scenario
      def blocks(scenario)
        (@blocks ||= {})[scenario.id] ||= entries.filter_map do |entry|
          entry.share_of(scenario) { scenario.parked? ? parked_block(entry) : lit_block(entry, scenario.duty(entry.row)) }
        end
      end

      # @return [Draw::Sum] of the known loads at their duty
      def sum(scenario)
        @sums[scenario.id] ||= Draw::Sum.new(
          scenario.parked? ? [] : blocks(scenario).filter_map { |b| [b.entry.load.fed, b.duty * b.entry.load.count] if b.amps }
        )
      end

      # @param near [Float, nil] volts found at a neighbouring speed
      # @return [Charging::OperatingPoint::Result, nil]
      def point(scenario, rpm, near: nil)
        rpm && solver(scenario).at(scenario.running? ? rpm : 0.0, near: near)
      end

      # @param battery [Charging::Battery] the circuit's own, fuller or emptier
      # @param near [Float, nil] volts found with another charge
      # @return [Charging::OperatingPoint::Result]
      def point_with(scenario, battery, near: nil)
        Charging::OperatingPoint.new(curve: circuit.curve, sum: sum(scenario), battery: battery, held: circuit.held)
                                .at(scenario.running? ? scenario.rpm : 0.0, near: near)
      end

      # @param spend [Float] A
      # @return [Figure] rpm above which the circuit keeps
      def break_even(spend)
        return Figure.unknown('rpm', circuit.reason) unless circuit.curve

        rpm = circuit.curve.break_even(spend, circuit.volts)
        unless rpm
          return Figure.unknown('rpm', format('never: it spends %.1f A and the most it can earn is %.1f A', spend, circuit.curve.i_inf))
        end
        return Figure.unknown('rpm', format('not below the redline: %d rpm would be needed', rpm.round)) if @redline && rpm > @redline

        Figure.new(rpm, 'rpm', assumed: circuit.assumed?) do
          Working.new(title: 'Break-even speed', formula: "#{circuit.curve.form.formula}, solved for n",
            inputs: [Input.new(name: 'Spent I', value: spend, unit: 'A', origin: 'ledger'), *circuit.curve_inputs,
              Input.new(name: 'Volts', value: circuit.volts, unit: 'V', origin: 'budget volts', ref: "circuit/#{circuit.id}/volts")],
            source: circuit.curve.form.source, notes: ['The earn curve solved for engine speed at what is spent.'])
        end
      end

      private

      def lit_block(entry, duty)
        return if duty.zero?

        amps, sigma, gain, clamp = entry.draw(circuit.volts)
        amps ? Block.new(entry, duty, amps * duty, sigma * duty, gain * duty, clamp * duty) : Block.new(entry, duty)
      end

      def parked_block(entry)
        amps = entry.key_off_a
        return Block.new(entry, 1.0) unless amps

        amps.positive? ? Block.new(entry, 1.0, amps, amps * settings[:sigma_maker], 0.0, 0.0) : nil
      end

      def solver(scenario)
        (@solvers ||= {})[scenario.id] ||= Charging::OperatingPoint.new(curve: circuit.curve, sum: sum(scenario), battery: circuit.battery,
          held: circuit.held)
      end
    end
  end
end
