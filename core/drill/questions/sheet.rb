# frozen_string_literal: true

require_relative '../../budget/budget'
require_relative 'question'

module Miser
  module Drill
    # A bench sheet of a made-up machine with its budget: some draws read, some only said.
    class BenchSheet < Question
      SCENARIO = 'idle_night'
      # A read on the bench, with volts at the lamp, of some loads; the rest stay as their makers say.
      def columns = ['load', 'A', 'at V', 'from']

      def rows = line.blocks.map { |b| row(b) }

      private

      # Idle speed times, at which its charging output was read.
      SPEEDS = [1.0, 1.5, 2.5].freeze
      private_constant :SPEEDS

      def set_up
        document = told(MadeUp.new(@random).document)
        @budget = Budget::Budget.new(earning(document, between(-keeps_within, keeps_within)))
      end

      # What is known how well, by level.
      def told(document) = document

      # A, either way, that it keeps at idle by night.
      def keeps_within = 2.0

      # Its output read at some speeds, so that it keeps about so much.
      # @param keeps [Float] A @return [Hash] the document
      def earning(document, keeps)
        budget = Budget::Budget.new(document)
        curve = budget.ledgers('after').fetch('main').circuit.curve
        idle = document['machine']['idle_rpm']
        times = (budget.line('after', SCENARIO, 'main').spends.value + keeps) / curve.amps(idle, Volts::RUNNING)
        points = SPEEDS.each_with_index.map do |speed, i|
          amps = (curve.amps(idle * speed, Volts::RUNNING) * times).round(1)
          { 'id' => "p#{i}", 'rpm' => (idle * speed).round, 'amps' => amps, 'volts' => Volts::RUNNING, 'stator' => 'hot' }
        end
        circuits = document['circuits'].map { |c| c.merge('alternator' => c['alternator'].slice('cut_in_rpm').merge('points' => points)) }
        document.merge('circuits' => circuits)
      end

      def line = @line ||= @budget.line('after', SCENARIO, 'main')

      def row(block)
        load = block.entry.load
        duty = block.duty < 1 ? format(', on %d %% of the time', (block.duty * 100).round) : ''
        ["#{block.entry.name}#{duty}", amps(load.count * load.anchor.amps), format('%.1f', load.anchor.volts),
          "#{load.anchor.origin.label}; #{load.law_key}"]
      end
    end
  end
end
