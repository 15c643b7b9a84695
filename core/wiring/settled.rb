# frozen_string_literal: true

require_relative '../feeds/blade'
require_relative 'circuit'

module Miser
  module Wiring
    # The wiring in one state, come to rest: relays pull in and outputs close as their volts say, fuses that
    # must open are open. One phase of the flasher.
    class Settled
      # V at which a relay's coil pulls in, and from which a trigger is taken for live. A relay of 12 V pulls in by
      # two thirds: common practice.
      PULL_IN_V = 8.0
      LIVE_V = 6.0
      # Rounds until it must have come to rest.
      ROUNDS = 24

      attr_reader :solution, :circuit, :state

      # @param scheme [Scheme] @param state [Circuit::State]
      # @param cache [Hash] solutions known already, by the circuit's parts; added to
      def initialize(scheme, state, cache = {})
        @scheme = scheme
        @cache = cache
        settle(Circuit::State.new(**state.to_h, pulled: expected(state)))
      end

      # @return [Array<String>] fuses that went
      def opened = state.open

      # @return [Boolean] whether a relay switches itself on and off
      def restless? = @restless || false

      # @return [Float] A through a part; nothing where it is dead
      def amps(id) = solution.amps[id] || 0.0

      # @return [Float] V across two nodes
      def volts(a, b = '0') = (solution.volts[a] || 0.0) - (solution.volts[b] || 0.0)

      def duty(load_id) = circuit.duties.fetch(load_id, 1.0)

      private

      def settle(state)
        seen = {}
        ROUNDS.times do
          seen[state] = true
          solve(state)
          nxt = after(state)
          return if nxt == state

          @restless = seen.key?(nxt)
          return if @restless

          state = nxt
        end
        @restless = true
      end

      # What a live wire pulls in by itself, so that most states are solved once: the volts have the last word, and what hangs
      # on other relays follows from them.
      def expected(state)
        live = ->(key) { live?(key, state) }
        pulled = @scheme.known.select { |c| c.feed&.kind&.relay? && c.feed.row['from_load'].nil? && live[c.feed.trigger] }
        boxes = @scheme.devices.each_with_index.flat_map do |d, i|
          told = Devices.triggers(d)['ignition']
          Devices.outputs(d).select { |o| live[o.group == 'channel' ? told : o.sense] }.map { |o| "o#{i}_#{o.part}" }
        end
        (pulled.map { |c| c.part('k') } + boxes).sort
      end

      def live?(key, state)
        line = Feeds::Lines::BY_KEY[key] or return false
        return @scheme.battery? if line.hot?

        @scheme.switches.live?(line, state.on) && (state.flash || !line.flashes?)
      end

      # One answer for all states that come to the same circuit.
      def solve(state)
        @state = state
        @circuit = Circuit.new(@scheme, state)
        network = @circuit.elements
        @solution = @cache[[@circuit.duties, signature(network)]] ||= Network::Solver.new(network).solve
      end

      def signature(elements) = elements.map { |e| [e.id, e.a, e.b, e.respond_to?(:ohms) ? e.ohms : nil, e.source? ? e.volts : nil] }

      # @return [Circuit::State] as this one's volts make it
      def after(state)
        Circuit::State.new(**state.to_h, pulled: (relays + outputs).sort, open: (state.open + blown).uniq.sort)
      end

      def relays
        all = @scheme.known.select { |c| c.feed&.kind&.relay? }
        all.select do |c|
          state.hurt.welded.include?(c.id) || volts(c.part('n86_'),
            c.part('n85_')).abs >= PULL_IN_V
        end.map { |c| c.part('k') }
      end

      def outputs
        @scheme.devices.each_with_index.flat_map do |d, i|
          fed = volts("d#{i}", "de#{i}") >= LIVE_V
          Devices.outputs(d).select { |o| fed && on?(d, o) }.map { |o| "o#{i}_#{o.part}" }
        end
      end

      # A controller without its ignition wire does nothing.
      def on?(device, output)
        return volts(line(Devices.triggers(device)['ignition'])) >= LIVE_V if output.group == 'channel'

        output.sense == 'battery' || volts(line(output.sense)) >= LIVE_V
      end

      def line(key) = key == 'battery' ? 'bat' : "l_#{key}"

      def blown
        fed = @scheme.known.select { |c| c.feed&.fuse_a }
        own = fed.select { |c| opens?(amps(c.part('f')), c.feed.fuse_a) }.map { |c| c.part('f') }
        own + @scheme.devices.each_with_index.filter_map { |d, i| "df#{i}" if d['fuse_a'] && opens?(amps("df#{i}"), d['fuse_a']) }
      end

      def opens?(amps, rating) = Feeds::Blade.opening(amps.abs, rating).opens?
    end
  end
end
