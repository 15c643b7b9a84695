# frozen_string_literal: true

require_relative 'batch'
require_relative '../cli/demo_data'
require_relative '../core/miser'
require_relative '../formats/job_file'
require_relative '../formats/netlist'

module Miser
  module Speed
    # A whole diagnosis beside ngspice solving the same list of circuits in one batch.
    class Signals
      SEEN = { 'left' => { 'lamps' => { 'front_left' => 'flashes', 'rear_left' => 'dark' }, 'rate' => 'normal' },
               'hazard' => { 'rate' => 'normal' } }.freeze

      def run
        survey = cured
        harness = survey.harness('after')
        2.times { diagnosis(harness, survey) }
        ours, solved = Batch.timed { diagnosis(harness, survey) }
        circuits = listed(harness, solved)
        solving, = Batch.timed { circuits.each { |h, state| Miser::Signals::LoopCircuit.new(h, state).circuit.solve } }
        theirs, = Batch.timed { Batch.run(netlists(circuits), 'left') }
        puts format('signals: %<rate>.0f circuits built and solved a second; ngspice %<other>.0f in one batch   ratio %<ratio>.2f',
          rate: circuits.size / solving, other: circuits.size / theirs, ratio: solving / theirs)
        puts format('a whole diagnosis: %<n>d circuits, %<ours>.2f s; ngspice the same circuits as one batch %<theirs>.2f s   ratio %<ratio>.2f   (aim: under 0.5)',
          n: solved, ours: ours, theirs: theirs, ratio: ours / theirs)
      end

      private

      def cured
        document = Formats::JobFile.read(Cli::DemoData.texts.fetch('dunlin250')).document
        Miser::Signals::Survey.new(Budget::Budget.new(document.merge('signals' => document['signals'].merge('remedies' => %w[flasher_2
          diodes]))))
      end

      def diagnosis(harness, survey)
        found = Miser::Signals::Diagnosis.new(harness, SEEN, thresholds: survey.thresholds)
        found.candidates
        found.next_test
        found.solved
      end

      # As many circuits of the diagnosis as it solved: faults and pairs of faults, contact closed and open.
      def listed(harness, count)
        faults = Miser::Signals::Fault.all_in(harness)
        sets = faults.map { |f| [f] } + faults.combination(2).to_a
        sets.lazy.flat_map do |list|
          broken = list.reduce(harness) { |h, f| f.apply(h) }
          %w[left hazard].product([true, false]).map do |command, closed|
            [broken,
              Miser::Signals::State.new(command: command, closed: closed,
                lights: true, volts: 12.6)]
          end
        end.first(count)
      end

      def netlists(circuits) = circuits.map { |harness, state| Formats::Netlist.write(harness, state, name: 'bench') }
    end
  end
end
