# frozen_string_literal: true

module Miser
  module Network
    # Preferred values of resistors: IEC 60063, and the wattages shops keep.
    module ESeries
      E12 = [1.0, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2].freeze
      E24 = [1.0, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2.0, 2.2, 2.4, 2.7, 3.0, 3.3, 3.6, 3.9, 4.3, 4.7, 5.1, 5.6, 6.2, 6.8, 7.5, 8.2, 9.1].freeze
      # Rated W => K/W in free air of a wire-wound resistor in an aluminium case (assumption).
      WATTAGES = { 5.0 => 25.0, 10.0 => 16.0, 25.0 => 9.0, 50.0 => 7.0, 100.0 => 5.0 }.freeze

      module_function

      # @param ohms [Float] > 0
      # @return [Float] the largest preferred value not above it
      def at_most(ohms, series = E12)
        decade = 10.0**Math.log10(ohms).floor
        value = series.reverse.find { |v| (v * decade) <= ohms * 1.0000001 }
        value ? (value * decade).round(6) : (series.last * decade / 10).round(6)
      end

      # @param watts [Float] it must stand
      # @return [Float, nil] rated W; nil where none is kept
      def wattage(watts) = WATTAGES.keys.find { |w| w >= watts }

      # @return [Float] °C of its surface
      def surface_c(watts, rated_w, ambient = 25.0) = ambient + (watts * WATTAGES.fetch(rated_w))
    end
  end
end
