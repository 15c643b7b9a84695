# frozen_string_literal: true

require_relative 'specimen'

module Miser
  module StandIns
    # The simulated bench: a battery or a running machine, leads, a meter in series
    # with its fuses, a lamp. Both stand-ins read from it.
    class Rig
      # Jack => [fuse A, series Ω of meter and fuse]
      JACKS = { 'ten' => [10.0, 0.012], 'milli' => [0.4, 1.4] }.freeze
      LEADS_OHM = 0.045
      # Source => [open volts, Ω]: a rested battery sags, a running machine holds.
      SOURCES = { 'rest' => [12.72, 0.06], 'running' => [14.1, 0.02] }.freeze
      # A fuse melts once it has been over its amps for this long, scaled by the square.
      MELT_S = 0.4

      # State of the circuit at a moment.
      Moment = Struct.new(:amps, :lamp_v, :lux)

      attr_reader :pace
      attr_accessor :jack, :source

      # @param clock [#call] seconds
      def initialize(clock: -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) })
        @clock = clock
        @lock = Mutex.new
        @jack = 'ten'
        @source = 'rest'
        @pace = 1.0
        @blown = {}
      end

      # Puts a lamp on the bench and switches it on.
      def put(specimen)
        @lock.synchronize do
          @beam = nil
          @specimen = specimen
          @since = now
          @blown = {}
        end
      end

      # A beam on a wall instead, and the light meter at a mark on it.
      # @param beam [BeamSpecimen]
      def shine(beam)
        @lock.synchronize do
          @beam = beam
          @mark = [0.0, 0.0]
        end
      end

      # @param x, y [Float] m from the beam's axis
      def carry(x, y)
        @lock.synchronize { @mark = [x, y] }
      end

      # @return [Float] lx at the light meter
      def light = @lock.synchronize { @beam&.lux(*@mark) } || moment(in_series: false).lux

      def take_off = @lock.synchronize { @specimen = nil }

      # How fast its clock runs against the wall's, so that nobody waits.
      def pace=(factor)
        @lock.synchronize { @pace = factor }
      end

      def blown?(jack = self.jack) = @blown[jack]

      # @param in_series [Boolean] false where only volts or light are read
      # @return [Moment]
      def moment(in_series: true)
        @lock.synchronize do
          return Moment.new(0.0, 0.0, 0.0) if @specimen.nil? || (in_series && blown?)

          t = (now - @since) * @pace
          solved = solve(t)
          melt(solved.amps, t) if in_series
          blown? && in_series ? Moment.new(0.0, 0.0, 0.0) : solved
        end
      end

      private

      def now = @clock.call

      # Volts at the lamp by halving: E − I(V)·R = V.
      def solve(since)
        open_v, source_ohm = SOURCES.fetch(source)
        ohms = source_ohm + LEADS_OHM + JACKS.fetch(jack).last
        low = 0.0
        high = open_v
        60.times do
          mid = (low + high) / 2
          open_v - (@specimen.amps(mid, since) * ohms) > mid ? low = mid : high = mid
        end
        Moment.new(@specimen.amps(low, since), low, @specimen.lux(low, since))
      end

      def melt(amps, since)
        fuse = JACKS.fetch(jack).first
        return if amps <= fuse

        @blown[jack] = true if since * ((amps / fuse)**2) > MELT_S
      end
    end
  end
end
