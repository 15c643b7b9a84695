# frozen_string_literal: true

require 'io/wait'
require 'json'

module Miser
  module Server
    # Server-sent events to any number of readers from one thread: a connection is taken over
    # from the web server, whose own threads stay free. A reader that was cut off comes back
    # with the number of the last event it saw and misses nothing that is still on the tape.
    class EventHub
      # A line now and then tells a reader that has gone from one that is quiet.
      BEAT_S = 3.0
      # Then the browser comes back by itself; no connection is held for ever.
      LONGEST_S = 600.0
      # Bytes that wait for a reader: one that takes no more is let go, and comes back by itself.
      MOST_WAITING = 1_000_000
      # A socket behind TLS knows no write that never waits: it is given what its buffer is sure to take.
      SURE_BYTES = 8192

      # One reader of one tape.
      class Follower
        attr_reader :io

        # @param io [IO] to it @param tape [Instruments::Tape] @param number [Integer] the last event it saw
        def initialize(io, tape, number, &heard)
          @io = io
          @tape = tape
          @number = number
          @heard = heard
          @waiting = +"retry: 500\n\n"
          @began = @spoke = EventHub.now
          tape.come(heard)
        end

        def waiting? = !@waiting.empty?

        # Everything new on its tape, or a beat, as far as the connection takes it.
        # @return [Boolean] whether it goes on
        def serve
          hear
          send_off
          !(@over && @waiting.empty?) && @waiting.bytesize < MOST_WAITING
        rescue SystemCallError, IOError
          false
        end

        # Whether the other end is still there; it has nothing to say.
        def there?
          @io.read_nonblock(1024, exception: false) != nil # rubocop:disable Style/NonNilCheck -- nil is the end of it
        rescue IO::WaitReadable
          # TLS had something to say of itself.
          true
        rescue SystemCallError, IOError
          false
        end

        def close
          @tape.go(@heard)
          @io.close
        rescue SystemCallError, IOError
          nil # It is gone already.
        end

        private

        def hear
          return if @over

          events = @tape.after(@number, wait: 0)
          now = EventHub.now
          if events.any? then take(events)
          elsif @tape.closed? || now - @began > LONGEST_S then finish
          elsif now - @spoke < BEAT_S then return
          else @waiting << ": quiet\n\n"
          end
          @spoke = now
        end

        def take(events)
          @number = events.last.number
          @waiting << events.map { |e| "id: #{e.number}\nevent: #{e.kind}\ndata: #{JSON.generate(e.data)}\n\n" }.join
        end

        # Where there is more to come, the browser takes it up again by itself.
        def finish
          @over = true
          @waiting << "event: end\ndata: {}\n\n" if @tape.closed?
        end

        def send_off
          until @waiting.empty?
            sent = written
            return if sent == :wait_writable

            @waiting = @waiting.byteslice(sent..)
          end
        end

        def written
          return @io.write_nonblock(@waiting, exception: false) if @io.is_a?(BasicSocket)
          return :wait_writable unless @io.to_io.wait_writable(0)

          @waiting.byteslice(0, SURE_BYTES).bytesize.tap { |size| @io.write(@waiting.byteslice(0, size)) }
        end
      end

      def self.now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

      def initialize
        @followers = []
        @lock = Mutex.new
        @bell, @rope = IO.pipe
      end

      # Takes a reader over; gives back at once.
      # @return [void]
      def follow(io, tape, number)
        follower = Follower.new(io, tape, number) { ring }
        @lock.synchronize do
          @followers << follower
          @thread = Thread.new { attend } unless @thread&.alive?
        end
        ring
      end

      # @return [Integer] readers now
      def size = @lock.synchronize { @followers.size }

      private

      def ring = @rope.write_nonblock('.', exception: false)

      def attend
        while (followers = these)
          drop(round(followers))
        end
      end

      # Waits for something to do, and does it.
      # @return [Array<Follower>] those that are gone
      def round(followers)
        heard, = IO.select([@bell, *followers.map(&:io)], followers.select(&:waiting?).map(&:io), nil, BEAT_S)
        @bell.read_nonblock(4096, exception: false) if heard&.include?(@bell)
        heard = (heard || []).to_h { |io| [io, true] }
        followers.reject { |f| (!heard[f.io] || f.there?) && f.serve }
      rescue IOError, Errno::EBADF
        followers.select { |f| f.io.closed? }
      end

      # @return [Array<Follower>, nil] nil where there is none: the thread ends, the next reader begins another
      def these
        @lock.synchronize do
          @thread = nil if @followers.empty?
          @followers.empty? ? nil : @followers.dup
        end
      end

      def drop(gone)
        @lock.synchronize { @followers -= gone }
        gone.each(&:close)
      end
    end
  end
end
