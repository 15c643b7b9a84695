# frozen_string_literal: true

module Miser
  module Draw
    # Conductors: area by gauge, and the fuse a wire may carry.
    module Conductor
      # AWG => A, never fuse above it. Common practice.
      FUSE_CEILING = { 20 => 7.5, 18 => 10.0, 16 => 15.0, 14 => 20.0, 12 => 30.0 }.freeze
      # Connectors met on lamp leads, A a contact carries. Common practice.
      CONNECTORS = {
        'blade_2_8' => ['2.8 mm blades', 6.0], 'bullet_3_9' => ['3.9 mm bullets', 10.0], 'blade_4_8' => ['4.8 mm blades', 10.0],
        'sealed_1_5' => ['sealed plug, 1.5 mm pins', 13.0], 'blade_6_3' => ['6.3 mm blades', 16.0],
        'sealed_2_8' => ['sealed plug, 2.8 mm pins', 25.0]
      }.freeze

      module_function

      # Diameter 0.127·92^((36−g)/39) mm: ASTM B258.
      # @param gauge [Numeric] AWG
      # @return [Float] mm²
      def area(gauge) = Math::PI / 4 * ((0.127 * (92**((36 - gauge) / 39.0)))**2)

      # Tenths of a gauge, from thick to thin: what a field shows is looked up here.
      # @return [Array<Array(Float, Float)>] gauge, mm²
      def table = (0..400).map { |tenth| [tenth / 10.0, area(tenth / 10.0).round(5)] }

      # @param area_mm2 [Float]
      # @return [Float, nil] A; nil for a wire thinner than the table
      def fuse_ceiling(area_mm2) = FUSE_CEILING.select { |gauge, _| area(gauge) <= area_mm2 * 1.02 }.values.max
    end
  end
end
