# frozen_string_literal: true

module Miser
  module Store
    # Writers take turns, in the order they came, before they take a connection: however many wait, readers find
    # one, and a wait ends in words.
    class Turn
      # Nobody got to write in time.
      class Busy < StandardError; end

      # @param wait_s [Float] how long a writer waits for those before it
      def initialize(wait_s)
        @wait_s = wait_s
        @lock = Mutex.new
        @left = ConditionVariable.new
        @line = []
      end

      # @return [Object] what the block gives
      # @raise [Busy]
      def take
        return yield if @line.first == Thread.current

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

      # Who has just written can't go before one that waits: else a busy shop starves somebody.
      def enter
        give_up = now + @wait_s
        @lock.synchronize do
          @line << Thread.current
          until @line.first == Thread.current
            raise Busy, 'others are being saved' if give_up <= now

            @left.wait(@lock, give_up - now)
          end
        rescue Busy
          @line.delete(Thread.current)
          raise
        end
      end

      def leave
        @lock.synchronize do
          @line.delete(Thread.current)
          @left.broadcast
        end
      end

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    end
  end
end
