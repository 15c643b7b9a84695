# frozen_string_literal: true

module Miser
  module Charging
    # How fast light on an AC lighting coil pulses.
    module Flicker
      module_function

      # f = pole pairs · rpm / 60
      # @return [Float] Hz of the coil
      def coil_hz(pole_pairs, rpm) = pole_pairs * rpm / 60.0

      # Full-wave rectified light, and a filament's, pulses at twice the coil; half-wave at once.
      # @return [Float] Hz of the light
      def light_hz(pole_pairs, rpm, half_wave: false) = coil_hz(pole_pairs, rpm) * (half_wave ? 1 : 2)
    end
  end
end
