# frozen_string_literal: true

module Miser
  module Store
    # Writers take turns before they take a connection: however many wait, readers find one,
    # and a wait ends in words.
    class Turn
      # Nobody got to write in time.
      class Busy < StandardError; end

      # @param wait_s [Float] how long a writer waits for those before it
      def initialize(wait_s)
        @wait_s = wait_s
        @lock = Mutex.new
        @left = ConditionVariable.new
        @holder = nil
      end

      # @return [Object] what the block gives
      # @raise [Busy]
      def take
        return yield if @holder == Thread.current

        enter
        begin
          yield
        ensure
          leave
        end
      end

      # For a database whose immediate transactions, which are those that write, take turns.
      module Taken
        attr_accessor :turn

        def transaction(opts = {}, &)
          opts[:mode] == :immediate && !in_transaction?(opts) ? turn.take { super } : super
        end
      end

      private

      def enter
        give_up = now + @wait_s
        @lock.synchronize do
          while @holder
            raise Busy, 'others are being saved' if give_up <= now

            @left.wait(@lock, give_up - now)
          end
          @holder = Thread.current
        end
      end

      def leave
        @lock.synchronize do
          @holder = nil
          @left.signal
        end
      end

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    end
  end
end
