# frozen_string_literal: true

require 'etc'
require 'json'
require 'rbconfig'
require 'securerandom'
require_relative '../server/place/far'

module Miser
  module Cli
    # Several processes serve one shop where there are cores for it. Beside those that answer there is
    # one place for what can't be in several: readings under way, who is where, the daily copy.
    class Processes
      MOST = 4
      AGAIN_S = 0.5

      # @param asked [Integer, nil]
      # @return [Integer] half the cores, so that the others, browsers and the disk among them, have theirs
      def self.number(asked) = asked || (Etc.nprocessors / 2).clamp(1, MOST)

      # @param path [String] the shop's file @param network [Server::Network, nil]
      # @raise [Failure]
      def initialize(path, network)
        @path = path
        @network = network && { **network.to_h, secret: [network.secret].pack('m0') }
        @token = SecureRandom.hex(32)
        @port = 0
        begin_place
        @watch = Thread.new { watch }
      end

      # @return [Server::Far] not begun
      def far = Server::Far.new(@port, @token)

      # @return [void]
      def stop
        @stopped = true
        @place.close
      end

      private

      # A program of its own, so that it holds nothing open of this one's. It ends when its input does: with this one.
      def begin_place
        yjit = RubyVM.const_defined?(:YJIT) && RubyVM::YJIT.enabled? ? ['--yjit'] : []
        @place = IO.popen([RbConfig.ruby, '-EUTF-8', *yjit, File.expand_path('miser.rb', __dir__), 'place'], 'r+')
        @place.puts(JSON.generate(path: @path, token: @token, port: @port, network: @network))
        @place.flush
        @port = Integer(@place.gets || raise(Failure, 'a part of Miser did not start'))
      end

      # Where it ends by itself it is begun again, at the same port.
      def watch
        until @stopped
          @place.read
          break if @stopped

          @place.close
          sleep AGAIN_S
          begin_place
        end
      rescue Failure, SystemCallError => e
        warn "miser: #{e.message}"
        sleep AGAIN_S
        retry unless @stopped
      rescue IOError
        # It was closed: Miser ends.
        nil
      end
    end
  end
end
