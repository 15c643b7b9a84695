# frozen_string_literal: true

require_relative '../../core/draw/laws'

module Miser
  module StandIns
    # The lamp on the simulated bench: what it draws at any volts and any time
    # after switching on, and the light it gives.
    class Specimen
      LAWS = Draw::Law::REGISTRY.keys.freeze
      # A filament is hot in some tens of milliseconds; until then it draws about
      # ten times: common practice.
      INRUSH = 10.0
      INRUSH_S = 0.03

      # @param law [String] draw law
      # @param volts [Float] @param amps [Float] settled, at those volts
      # @param drift [Float] share by which it draws more when cold
      # @param tau_s [Float] s of its warming
      # @param slow_drift [Float] @param slow_tau_s [Float] the same of its heat sink
      # @param lux [Float] lx at the light meter, settled
      # @raise [ArgumentError]
      def initialize(law:, volts:, amps:, drift: 0.0, tau_s: 60.0, lux: 0.0, min_v: 0.0, forward_v: 0.0, slow_drift: 0.0,
                     slow_tau_s: 120.0)
        raise ArgumentError, 'tau must be above 0' unless tau_s.positive? && slow_tau_s.positive?

        options = law == 'resistor' ? { forward_v: forward_v } : { min_v: min_v }
        @law = Draw::Law.named(law).new(volts: volts, amps: amps, **options)
        @steps = [[drift, tau_s], [slow_drift, slow_tau_s]]
        @lux = lux
      end

      # @param at [Float] V at its terminals
      # @param since [Float] s since it was switched on
      # @return [Float] A
      def amps(at, since)
        @law.current(at) * warming(since) * inrush(since)
      end

      # @return [Float] lx; an LED loses light as it warms, about as it loses amps
      def lux(at, since)
        share = @law.light(at, of: @law.volts)
        @lux * (share || 0.0) * warming(since)
      end

      private

      def warming(since) = 1 + @steps.sum { |drift, tau| drift * Math.exp(-since / tau) }

      def inrush(since) = @law.is_a?(Draw::Filament) ? 1 + ((INRUSH - 1) * Math.exp(-since / INRUSH_S)) : 1.0
    end
  end
end
