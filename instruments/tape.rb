# frozen_string_literal: true

require 'monitor'

module Miser
  module Instruments
    # What a run has to say, numbered, for any number of readers at their own pace.
    # It is bounded: a reader that lags behind its end is told how much it missed.
    class Tape
      # @!attribute number [Integer] rising by one
      Event = Struct.new(:number, :kind, :data)

      # A quarter of an hour of two instruments at ten readings a second.
      MOST = 18_000

      def initialize(most: MOST)
        @most = most
        @events = []
        @number = 0
        @closed = false
        @readers = 0
        @listeners = []
        @left_at = now
        @lock = Monitor.new
        @more = @lock.new_cond
      end

      # @param kind [String] @param data [Hash]
      def write(kind, data)
        @lock.synchronize do
          @events << Event.new(@number += 1, kind, data)
          @events.shift if @events.size > @most
          @more.broadcast
        end
        tell
      end

      # An event of another tape, under the number it has there.
      # @param number [Integer]
      def copy(number, kind, data)
        @lock.synchronize do
          next if number <= @number

          @events << Event.new(@number = number, kind, data)
          @events.shift if @events.size > @most
          @more.broadcast
        end
        tell
      end

      # Nothing more will come.
      def close
        @lock.synchronize do
          @closed = true
          @more.broadcast
        end
        tell
      end

      # It is gone on with.
      def reopen = @lock.synchronize { @closed = false }

      def closed? = @closed

      # A reader begins.
      # @param heard [#call, nil] called whenever there is more
      def come(heard = nil)
        @lock.synchronize do
          @readers += 1
          @listeners += [heard].compact
        end
      end

      # And leaves.
      def go(heard = nil)
        @lock.synchronize do
          @readers -= 1
          @listeners -= [heard]
          @left_at = now
        end
      end

      # Counts whoever reads in the block.
      def with_reader
        come
        yield
      ensure
        go
      end

      # @return [Float] s that nobody has been reading
      def unread_s = @readers.positive? ? 0.0 : now - @left_at

      def size = @events.size

      # @return [Integer] number of the last event
      def last = @lock.synchronize { @number }

      # What came after a number; waits for it when there is nothing yet.
      # @param number [Integer] @param wait [Float] s
      # @return [Array<Event>] empty when nothing came in time or the tape is closed
      def after(number, wait: 5.0)
        @lock.synchronize do
          @more.wait(wait) if @number <= number && !@closed
          next [] if @events.empty? || @number <= number

          missed = @events.first.number - number - 1
          fresh = @events.last([@number - number, @events.size].min)
          missed.positive? ? [Event.new(fresh.first.number - 1, 'gap', { missed: missed }), *fresh] : fresh
        end
      end

      private

      def tell = @listeners.each(&:call)

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    end
  end
end
