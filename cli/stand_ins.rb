# frozen_string_literal: true

require_relative 'options'
require_relative 'stand_in_instruments'

module Miser
  module Cli
    # stand-ins: the simulated bench on its own.
    module StandIns
      def self.run(argv)
        Options.parse(argv, [], usage: 'stand-ins')
        bench = StandInInstruments.start
        bench.addresses.each { |a| puts "#{a['name']}: #{a['host']}:#{a['port']}" }
        puts 'Simulated: they measure nothing. Ctrl-C stops them.'
        $stdout.flush
        sleep
      rescue Interrupt
        bench&.stop
        0
      end
    end
  end
end
