# frozen_string_literal: true

require_relative '../instruments/stand_ins'

module Miser
  module Cli
    # The simulated instruments, on their usual ports where those are free.
    module StandInInstruments
      PORTS = [7381, 7382].freeze

      module_function

      # @param shop [Store::Shop, nil] whose settings learn their addresses
      # @return [StandIns::Bench]
      def start(shop = nil)
        bench = Miser::StandIns.start(ports: PORTS.map { |port| free?(port) ? port : 0 })
        shop && introduce(shop, bench.addresses)
        bench
      end

      # Instruments the shop entered itself stay as they are.
      def introduce(shop, addresses)
        ours = addresses.map { |a| a['id'] }
        shop['instruments'] = addresses + shop.instruments.reject { |i| ours.include?(i['id']) }
      end

      def free?(port)
        TCPServer.new(Miser::StandIns::Server::HOST, port).close
        true
      rescue SystemCallError
        false
      end
    end
  end
end
