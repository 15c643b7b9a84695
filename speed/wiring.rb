# frozen_string_literal: true

require 'open3'
require 'tempfile'
require_relative '../cli/demo_data'
require_relative '../core/miser'
require_relative '../formats/job_file'
require_relative '../formats/track_drawing'
require_relative '../formats/wiring_netlist'

module Miser
  module Speed
    # Every state of the switches of the largest demo solved and drawn, beside ngspice running the same list as one batch.
    class Wiring
      JOB = 'curlew1100'

      def run
        document = Formats::JobFile.read(Cli::DemoData.texts.fetch(JOB)).document
        2.times { solved(document) }
        ours, truth = timed { solved(document) }
        looks = truth.states.map { |s| truth.look(s) }
        theirs, = timed { batch(looks) }
        puts format('wiring: %<n>d switch positions solved and drawn, %<ours>.0f ms; ngspice the same list as one batch %<theirs>.0f ms   ratio %<ratio>.2f   (aim: under 0.5)',
          n: truth.states.size, ours: ours * 1000, theirs: theirs * 1000, ratio: ours / theirs)
      end

      private

      # From the document on, nothing known before.
      def solved(document)
        survey = Miser::Wiring::Survey.new(Budget::Budget.new(document))
        drawing = Formats::TrackDrawing.new(survey, all: true)
        survey.truth.states.each do |state|
          look = survey.truth.look(state)
          look.seen
          drawing.closed(look)
        end
        survey.truth
      end

      def timed
        start = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        result = yield
        [Process.clock_gettime(Process::CLOCK_MONOTONIC) - start, result]
      end

      # One process, every netlist read and solved in turn; both phases where the flasher is at work.
      def batch(looks)
        netlists = looks.flat_map { |l| [true, *(l.flashing? ? [false] : [])].map { |f| Formats::WiringNetlist.write(l, name: 'bench', flash: f) } }
        Dir.mktmpdir do |folder|
          script = netlists.each_with_index.map do |text, i|
            path = File.join(folder, "#{i}.cir")
            File.write(path, text.sub(".op\n", ''))
            "source #{path}\nop\nprint v(bat)\nremcirc"
          end
          main = File.join(folder, 'main.cir')
          File.write(main, "batch\nr1 a 0 1\n.control\n#{script.join("\n")}\nquit\n.endc\n.end\n")
          out, = Open3.capture2e('ngspice', '-b', main)
          found = out.scan(/^v\(bat\) = /).size
          raise "ngspice solved #{found} of #{netlists.size}" if found < netlists.size * 0.98
        end
      end
    end
  end
end
