# frozen_string_literal: true

require 'socket'

module Miser
  module StandIns
    # Serves one simulated instrument on a port of this machine, a thread a caller.
    class Server
      HOST = '127.0.0.1'
      LONGEST_LINE = 512
      MOST_CALLERS = 16

      attr_reader :port, :instrument

      # @param instrument [Instrument]
      # @param port [Integer] 0 takes a free one
      def initialize(instrument, port: 0)
        @instrument = instrument
        @socket = TCPServer.new(HOST, port)
        @port = @socket.addr[1]
        @callers = {}
        @lock = Mutex.new
      end

      # @return [self]
      def start
        @thread = Thread.new do
          loop { greet(@socket.accept) }
        rescue IOError, SystemCallError
          nil # the server was stopped
        end
        self
      end

      def stop
        @socket.close
        hang_up
        @thread&.join(1)
      end

      # As when somebody pulls the cable.
      def hang_up = @lock.synchronize { @callers.each_key(&:close).clear }

      # Words to the bench itself: they reach it with the cable out, so that it can be put back.
      BENCH = /\A\s*(SIM:|SYST:ERR\?)/i
      private_constant :BENCH

      private

      def pulled? = instrument.fault == 'pulled'

      def greet(caller)
        return caller.close if @callers.size >= MOST_CALLERS

        @lock.synchronize { @callers[caller] = Thread.new { converse(caller) } }
      end

      def converse(caller)
        while (line = caller.gets(LONGEST_LINE))
          return hang_up if pulled? && !line.match?(BENCH)

          answer = instrument.answer(line)
          return hang_up if pulled? && !line.match?(BENCH)

          caller.write("#{answer}\n") if answer && (instrument.fault != 'silent' || !line.match?(/READ|MEAS/i))
        end
      rescue IOError, SystemCallError
        nil # the caller went away
      ensure
        @lock.synchronize { @callers.delete(caller) }
        caller.close
      end
    end
  end
end
