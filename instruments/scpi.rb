# frozen_string_literal: true

require 'socket'
require_relative 'address'
require_relative 'trouble'

module Miser
  module Instruments
    # A conversation in SCPI (Standard Commands for Programmable Instruments, an
    # open standard) over TCP: one command a line, one answer a line.
    class Scpi
      # No honest answer to what is asked here is longer.
      MOST_BYTES = 512

      # @param host [String] @param port [Integer]
      # @param timeout [Float] s, for connecting and for each answer
      # @param confirmed [Boolean] whether it may be outside the shop's network
      # @raise [Trouble] unreachable, outside
      def initialize(host, port, timeout: 2.0, confirmed: false)
        @timeout = timeout
        @socket = Socket.tcp(Address.resolve(host, confirmed: confirmed), port, connect_timeout: timeout)
        @socket.setsockopt(Socket::IPPROTO_TCP, Socket::TCP_NODELAY, 1)
        @buffer = +''
      rescue SystemCallError, SocketError => e
        raise Trouble.new(:unreachable, e.message.sub(/ - .*/, ''))
      end

      # Sends a command that has no answer.
      # @raise [Trouble] pulled
      def tell(command)
        @socket.write("#{command}\n")
      rescue SystemCallError, IOError
        raise Trouble, :pulled
      end

      # Sends a query.
      # @return [String] its answer, one line
      # @raise [Trouble] silent, garbage, pulled
      def ask(query)
        tell(query)
        line
      end

      # Sends a query whose answer is a number.
      # @return [Float]
      # @raise [Trouble] also overload: 9.9E37 is the standard's word for it
      def ask_number(query)
        text = ask(query)
        value = Float(text, exception: false)
        raise Trouble.new(:garbage, text) unless value&.finite?
        raise Trouble, :overload if value.abs >= 9.9e37

        value
      end

      def close = @socket.close

      private

      def line
        give_up = now + @timeout
        until (cut = @buffer.index("\n"))
          raise Trouble, :garbage if @buffer.bytesize > MOST_BYTES
          raise Trouble, :silent unless @socket.wait_readable([give_up - now, 0].max)

          @buffer << @socket.read_nonblock(MOST_BYTES)
        end
        @buffer.slice!(0..cut).scrub('?').strip
      rescue SystemCallError, IOError
        raise Trouble, :pulled
      end

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    end
  end
end
