# frozen_string_literal: true

require 'net/http'
require_relative '../../instruments/tape'

module Miser
  module Server
    # A tape of the one place, copied here for as long as somebody here follows it.
    class Mirror
      IDLE_S = 5.0
      # What a line to a place that ends or begins may give.
      BROKEN = [SystemCallError, IOError, Timeout::Error, JSON::ParserError, Net::HTTPBadResponse, Net::ProtocolError].freeze
      AGAIN_S = 0.5

      # @return [Instruments::Tape]
      attr_reader :tape

      # @param ask [#call] asks the one place for what is new after a number (nil: from now on) of a life (nil: whichever);
      #   gives nil where there is no such tape
      # @param always [Boolean] whether it is copied though nobody follows
      # @param from [Integer, nil] where it begins
      # @param again_s [Float] between one try and the next
      def initialize(ask, always: false, from: nil, again_s: AGAIN_S)
        @ask = ask
        @again_s = again_s
        @always = always
        @at = from
        @tape = Instruments::Tape.new
        @lock = Mutex.new
      end

      # Asks where the tape stands before anybody listens here: what is said from then on is heard.
      # @return [Mirror] self
      def begun
        said = @ask.call(@at, nil)
        said ? take(said) : @missed = true
        self
      rescue *BROKEN
        @missed = true
        self
      end

      # Sees to it that it is being copied.
      # @return [Mirror] self
      def follow
        @lock.synchronize { @thread = Thread.new { copy } unless @thread&.alive? }
        self
      end

      private

      def copy
        began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        loop do
          return if !@always && @tape.unread_s > IDLE_S && Process.clock_gettime(Process::CLOCK_MONOTONIC) - began > IDLE_S

          said = @ask.call(@at, @life)
          # What is always there is only not there yet.
          raise IOError, 'no such tape yet' if said.nil? && @always
          return @tape.close unless said && take(said)
        rescue *BROKEN
          @missed = true
          sleep @again_s
        end
      end

      # @return [Boolean] whether more may come
      def take(said)
        # Nobody here knows what was said before the first answer, where that was long in coming.
        begin_anew(said) if @life ? said['life'] != @life : @missed && @always
        @life = said['life']
        events = said['events']
        # What is always copied is heard from now on: its numbers are this process's own.
        events.each { |number, kind, data| @always ? @tape.write(kind, data) : @tape.copy(number, kind, data) }
        @at = events.any? ? events.last[0] : @at || said['last']
        !(said['closed'] && events.empty?)
      end

      # What was said meanwhile nobody here has heard.
      def begin_anew(said)
        @tape.write('gap', { missed: 0 })
        said['events'] = []
        @at = said['last']
      end
    end
  end
end
