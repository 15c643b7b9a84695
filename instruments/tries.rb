# frozen_string_literal: true

module Miser
  module Instruments
    # How often addresses are knocked at: a test is for a person at the bench, not for going through a network.
    class Tries
      # Tests in so many seconds, of all addresses together.
      MOST = 12
      SECONDS = 60.0

      # @param clock [#call] seconds that only rise
      def initialize(clock = -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) })
        @clock = clock
        @at = []
        @lock = Mutex.new
      end

      # @return [Boolean] whether one more may be made; it counts
      def take?
        @lock.synchronize do
          now = @clock.call
          @at.reject! { |at| at < now - SECONDS }
          next false if @at.size >= MOST

          @at << now
        end && true
      end
    end
  end
end
