# frozen_string_literal: true

require_relative 'laws'

module Miser
  module Draw
    # What not knowing a load's law costs when its draw is carried to other volts: each law that it
    # may follow draws something else there.
    class LawDoubt
      # Forward volts of a string nobody tested, as a share of the volts it was read at: assumption.
      FORWARD = 0.6

      # @param volts [Float] @param amps [Float] where it was read
      # @param weights [Hash{String=>Float}] laws that it may follow, and how likely
      def initialize(volts, amps, weights)
        @laws = weights.select { |_, share| share.positive? }.map { |key, share| [law(key, volts, amps), share] }
      end

      # @param at [Float] V
      # @param taken [Float] A that is reckoned with there
      # @return [Float] A, root mean square apart from that
      def sigma(at, taken) = Math.sqrt(@laws.sum { |law, share| share * ((law.current(at) - taken)**2) })

      private

      def law(key, volts, amps)
        more = key == 'resistor' ? { forward_v: FORWARD * volts } : {}
        Law.named(key).new(volts: volts, amps: amps, **more)
      end
    end
  end
end
