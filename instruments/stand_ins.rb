# frozen_string_literal: true

require_relative 'stand_ins/server'
require_relative 'stand_ins/meter'
require_relative 'stand_ins/light_meter'
require_relative 'stand_ins/probe_meter'

module Miser
  # Simulated instruments that ship with Miser: real servers on this machine,
  # speaking as real ones do, fed by a model of the lamp under test.
  module StandIns
    # Two instruments at one bench.
    Bench = Struct.new(:rig, :meter, :light_meter) do
      def stop = [meter, light_meter].each(&:stop)

      # As the shop's settings keep them.
      # @return [Array<Hash>]
      def addresses
        [{ 'id' => 'bench_meter', 'name' => 'Simulated bench meter', 'kind' => 'meter', 'host' => Server::HOST, 'port' => meter.port,
           'simulated' => true },
          { 'id' => 'light_meter', 'name' => 'Simulated light meter', 'kind' => 'light_meter', 'host' => Server::HOST,
            'port' => light_meter.port, 'simulated' => true }]
      end
    end

    module_function

    # @param ports [Array(Integer, Integer)] 0 takes a free one
    # @return [Bench]
    def start(ports: [0, 0], rig: Rig.new)
      servers = [Meter.new(rig),
        LightMeter.new(rig, random: Random.new(2))].zip(ports).map { |instrument, port| Server.new(instrument, port: port).start }
      Bench.new(rig, *servers)
    end
  end
end
