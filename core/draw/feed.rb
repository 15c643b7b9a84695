# frozen_string_literal: true

require_relative 'laws'

module Miser
  module Draw
    # The wire to a lamp and back: what it loses on the way. A filament glows by the volts it
    # has, a driver draws more the fewer it has.
    class Feed
      STEPS = 30

      attr_reader :ohms, :sigma, :origin

      # @param ohms [Float] there and back @param sigma [Float] Ω
      # @param volts [Float] at the battery, where what it carries is figured exactly
      # @param origin [String]
      def initialize(ohms:, sigma:, volts:, origin:)
        @ohms = ohms
        @sigma = sigma
        @volts = volts
        @origin = origin
      end

      # As measured with the lamp lit and the engine running.
      # @param volts [Float] at the battery @param volts_sigma [Float]
      # @param lamp_v [Float] at the lamp @param law [Law] of the lamp that was lit
      # @param reading_sigma [Float] V, of volts read
      # @return [Feed] nothing lost where there were as many at the lamp
      def self.measured(volts:, volts_sigma:, lamp_v:, law:, reading_sigma:)
        amps = law.current(lamp_v)
        return new(ohms: 0.0, sigma: 0.0, volts: volts, origin: 'measured') unless amps.positive?

        new(ohms: [(volts - lamp_v) / amps, 0.0].max, sigma: Math.hypot(volts_sigma, reading_sigma) / amps, volts: volts,
          origin: 'volts at the lamp, engine running')
      end

      # @param at [Float] V at the battery @param amps [Float] through one lamp
      # @return [Float] V at the lamp
      def lamp_volts(at, amps) = [at - (ohms * amps), 0.0].max

      # The law as it looks from the battery: exact at the feed's own volts, of the same form elsewhere.
      # @param law [Law] of the lamp itself
      # @return [Law]
      def carried(law)
        return law if ohms.zero? || law.amps.zero? || law.current(volts).zero?

        # A wire that leaves it under what it starts at: it hangs there.
        law.anchored(volts, [law.current([settle(law), law.min_v].max), 0.0].max)
      end

      # @param law [Law] @return [Float] A that a lamp's draw moves by, the ohms one standard uncertainty up
      def doubt(law)
        there = settle(law)
        amps = law.current(there)
        there.positive? ? ((amps**2) * law.sensitivity(there) / there * sigma).abs : 0.0
      end

      # A wire that loses more is worth cleaning, V: common practice.
      MUCH_V = 0.8

      # @param fed [Law] of the lamp as it looks from the battery
      # @return [Float] V lost on the way
      def loss(fed) = ohms * fed.current(volts)

      # @param fed [Law]
      # @return [String]
      def words(fed)
        lost = loss(fed)
        format('Of %.1f V at the battery the wire loses %.2f V, there and back (%.2f Ω, %s): %.1f V at the lamp.%s', volts, lost, ohms, origin,
          volts - lost, lost > MUCH_V ? ' That is much: clean switch, plugs and earth.' : '')
      end

      private

      attr_reader :volts

      # Volts at the lamp: with a driver the higher of two answers. A wire that can't carry what a driver wants leaves it half.
      def settle(law) = newton(law) || (law.sensitivity(volts).negative? ? volts / 2 : halved(law))

      # From the battery's volts down.
      # @return [Float, nil] nil where it does not close in
      def newton(law)
        there = volts
        STEPS.times do
          amps = law.current(there)
          step = (there + (ohms * amps) - volts) / (1 + (ohms * amps * law.sensitivity(there) / there))
          return there if step.abs < 1e-12 * volts

          there -= step
          return unless there.finite? && there > volts * 0.01
        end
        nil
      end

      def halved(law)
        low = 0.0
        high = volts
        60.times do
          mid = (low + high) / 2
          mid + (ohms * law.current(mid)) > volts ? high = mid : low = mid
        end
        low
      end
    end
  end
end
