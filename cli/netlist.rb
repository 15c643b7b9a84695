# frozen_string_literal: true

require_relative 'options'
require_relative 'signal_survey'
require_relative '../formats/netlist'

module Miser
  module Cli
    # netlist FILE: the signal circuit of one state in SPICE syntax.
    module Netlist
      def self.run(argv)
        options = Options.parse(argv, %i[state side open], files: 1, usage: 'netlist JOB [--state STATE] [--side SIDE] [--open]')
        path = options[:arguments].first
        survey = SignalSurvey.read(path)
        state = Miser::Signals::State.new(command: options[:state], closed: options[:state] != 'off' && !options[:open], lights: true,
          volts: 12.6)
        $stdout.write(Formats::Netlist.write(survey.harness(options[:side]), state, name: File.basename(path, '.*')))
        0
      end
    end
  end
end
