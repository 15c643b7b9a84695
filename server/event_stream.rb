# frozen_string_literal: true

require 'json'

module Miser
  module Server
    # A tape as server-sent events. A reader that was cut off comes back with the
    # number of the last event it saw and misses nothing that is still on the tape.
    class EventStream
      # A line now and then tells a reader that has gone from one that is quiet.
      BEAT_S = 3.0
      # Then the browser comes back by itself; no thread is held for ever.
      LONGEST_S = 600.0

      # @param tape [Instruments::Tape]
      # @param number [Integer] the last event seen
      def initialize(tape, number)
        @tape = tape
        @number = number
        @over = false
      end

      def each(&)
        @tape.with_reader { stream(&) }
      end

      def close = @over = true

      private

      def stream
        give_up = now + LONGEST_S
        yield "retry: 500\n\n"
        until @over || now > give_up
          events = @tape.after(@number, wait: BEAT_S)
          if events.empty?
            return yield "event: end\ndata: {}\n\n" if @tape.closed?

            yield ": quiet\n\n"
          else
            @number = events.last.number
            yield events.map { |e| "id: #{e.number}\nevent: #{e.kind}\ndata: #{JSON.generate(e.data)}\n\n" }.join
          end
        end
      end

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    end
  end
end
