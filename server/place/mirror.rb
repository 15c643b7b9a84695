# frozen_string_literal: true

require_relative '../../instruments/tape'

module Miser
  module Server
    # A tape of the one place, copied here for as long as somebody here follows it.
    class Mirror
      IDLE_S = 5.0
      AGAIN_S = 0.5

      # @return [Instruments::Tape]
      attr_reader :tape

      # @param ask [#call] asks the one place for what is new after a number (nil: from now on) of a life (nil: whichever);
      #   gives nil where there is no such tape
      # @param always [Boolean] whether it is copied though nobody follows
      # @param from [Integer, nil] where it begins
      def initialize(ask, always: false, from: nil)
        @ask = ask
        @always = always
        @at = from
        @tape = Instruments::Tape.new
        @lock = Mutex.new
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
          return @tape.close unless (said = @ask.call(@at, @life)) && take(said)
        rescue SystemCallError, IOError, Timeout::Error, JSON::ParserError
          sleep AGAIN_S
        end
      end

      # @return [Boolean] whether more may come
      def take(said)
        begin_anew(said) if @life && said['life'] != @life
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
