# frozen_string_literal: true

require_relative '../../instruments/stand_ins'
require_relative '../../instruments/runs'

module Miser
  # A simulated bench on free ports, and runs on it, for tests.
  module BenchSupport
    def bench = @bench ||= StandIns.start

    def meter_address = bench.addresses[0]

    def light_address = bench.addresses[1]

    def teardown
      super
      @runs&.stop_all
      @bench&.stop
    end

    def runs = @runs ||= Instruments::Runs.new

    # @param lamp [String] words of the stand-in
    def start_run(lamp: 'driver 12.5 1.6 0.08 50 2000 8', expected: 1.6, slow: true, **options)
      watch = Draw::Watch.new(expected: expected, slow: slow, settings: Assumptions.new)
      runs.start(Instruments::Run.new(id: 'r1', subject: { job: 'j', load: 'l', choice: nil }, watch: watch, meter: meter_address,
        range: 10.0, volts: true,
        every: 0.05, lamp: lamp, pace: 120.0, **options))
    end

    # Waits for what must come true.
    def eventually(seconds = 30)
      give_up = Process.clock_gettime(Process::CLOCK_MONOTONIC) + seconds
      until (found = yield)
        flunk 'it did not come true in time' if Process.clock_gettime(Process::CLOCK_MONOTONIC) > give_up
        sleep 0.02
      end
      found
    end
  end
end
