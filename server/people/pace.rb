# frozen_string_literal: true

module Miser
  module Server
    # How often one person writes: more than any hand does is held up, so that a key that hangs
    # or a script leaves the others their turn.
    class Pace
      BURST = 300
      PER_S = 5.0

      # @param clock [#call] seconds
      def initialize(clock: -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) })
        @clock = clock
        @lock = Mutex.new
        @left = Hash.new { |all, id| all[id] = [BURST.to_f, @clock.call] }
      end

      # @param id [Integer] person
      # @return [Boolean] whether this write may go
      def take?(id)
        @lock.synchronize do
          now = @clock.call
          left, at = @left[id]
          left = [left + ((now - at) * PER_S), BURST].min
          may = left >= 1
          @left[id] = [may ? left - 1 : left, now]
          may
        end
      end
    end
  end
end
