# frozen_string_literal: true

module Miser
  module Charging
    # A lighting coil whose regulator cuts each half-wave short: thyristors close the coil on itself from some angle on, until its
    # current has come to nothing. The rms is what is held; the crest before the cut is what a lamp's input sees.
    #
    # With E the coil's open-circuit volts, X its reactance and R the loads, all at one speed, angles from the coil's own zero:
    #
    #     open:   X·i' + R·i = √2·E·sin θ, from i = 0 at the start
    #     closed: X·i' = √2·E·sin θ, until i = 0, half a turn after the start
    #
    # Both have closed forms; the start follows from the half-waves being alike, the cut from the rms that is held. The coil's own
    # resistance is left out, as in the form of its earn curve: the crest comes out a little high.
    class PhaseCut
      HALVINGS = 24
      SAMPLES = 60
      # A cut is looked for between these shares of a half-wave.
      SHORTEST = 1e-3

      # @!attribute crest_v [Float] V @!attribute open [Float] angle it stays open for, rad @!attribute start [Float] rad
      Result = Struct.new(:crest_v, :open, :start, keyword_init: true)

      # @param volts [Float] open circuit, rms, at the speed @param reactance [Float] Ω at the speed
      # @param load [Float] Ω of all that is lit
      def initialize(volts:, reactance:, load:)
        @peak = volts * Math.sqrt(2)
        @x = reactance
        @r = load
        @z = Math.hypot(load, reactance)
        @lag = Math.atan2(reactance, load)
      end

      # @param curve [EarnCurve] of a coil @param rpm [Float] @param load [Float] Ω
      # @return [PhaseCut]
      def self.of(curve, rpm, load)
        volts = curve.open_circuit(rpm)
        new(volts: volts, reactance: volts / curve.i_inf, load: load)
      end

      # @param held [Float] V rms @return [Result] uncut where the coil does not reach it
      def at(held)
        low = SHORTEST * Math::PI
        high = Math::PI
        return result(high) if rms(high) <= held

        HALVINGS.times do
          mid = (low + high) / 2
          rms(mid) > held ? high = mid : low = mid
        end
        result(high)
      end

      private

      def result(open)
        start = start(open)
        Result.new(crest_v: wave(open, start).map(&:abs).max, open: open, start: start)
      end

      # Amps while open.
      def amps(angle, start)
        @peak / @z * (Math.sin(angle - @lag) - (Math.sin(start - @lag) * Math.exp((start - angle) * @r / @x)))
      end

      # Angle at which a half-wave begins, so that its current has come to nothing half a turn on.
      def start(open)
        left = ->(at) { amps(at + open, at) + (@peak / @x * (Math.cos(at + open) + Math.cos(at))) }
        low = 0.0
        high = Math::PI / 2
        return low unless left.call(low).positive? && left.call(high).negative?

        HALVINGS.times do
          mid = (low + high) / 2
          left.call(mid).positive? ? low = mid : high = mid
        end
        low
      end

      # Volts at the loads over the open part.
      def wave(open, start) = (0..SAMPLES).map { |i| @r * amps(start + (open * i / SAMPLES), start) }

      # Simpson's rule over the open part; nothing while closed.
      def rms(open)
        squares = wave(open, start(open)).map { |v| v * v }
        inner = squares[1..-2].each_with_index.sum { |v, i| v * (i.even? ? 4 : 2) }
        Math.sqrt((squares.first + inner + squares.last) * open / SAMPLES / 3 / Math::PI)
      end
    end
  end
end
