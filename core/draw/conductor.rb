# frozen_string_literal: true

require_relative 'leads'

module Miser
  module Draw
    # Conductors: area by gauge, and the fuse a wire may carry.
    module Conductor
      # AWG => A, never fuse above it. Common practice.
      FUSE_CEILING = { 20 => 7.5, 18 => 10.0, 16 => 15.0, 14 => 20.0, 12 => 30.0 }.freeze
      # Sizes a shop has on its reels: AWG, and mm² as ISO 6722 has them (from memory).
      GAUGES = FUSE_CEILING.keys.freeze
      METRIC = [0.5, 0.75, 1.0, 1.5, 2.5, 4.0].freeze
      # Ω·mm²/m at 20 °C. Aluminium with a tenth of copper on it: ASTM B566 (from memory).
      MATERIALS = { 'copper' => ['copper', Leads::COPPER], 'clad' => ['copper-clad aluminium', 0.02743] }.freeze
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

      # @param length [Float] m @param area_mm2 [Float] @param material [String] of MATERIALS
      # @return [Float] Ω
      def ohms(length, area_mm2, material = 'copper') = MATERIALS.fetch(material).last * length / area_mm2

      # @param units [String] metric or us
      # @return [Array<Float>] mm² of the sizes a shop has, thin to thick
      def sizes(units) = units == 'us' ? GAUGES.map { |g| area(g) } : METRIC

      # A size as the shop calls it.
      # @return [String]
      def words(area_mm2, units)
        return format('%.4g mm²', area_mm2) unless units == 'us'

        exact = 36 - (39 * Math.log(Math.sqrt(area_mm2 * 4 / Math::PI) / 0.127, 92))
        near = (exact - exact.round).abs < 0.05 ? exact.round : exact.round(1)
        "#{near} AWG"
      end

      # The most it may be fused at, a thinner wire than the table in proportion to its area (assumption).
      # @return [Float] A
      def carries(area_mm2, material = 'copper')
        equal = area_mm2 * MATERIALS.fetch('copper').last / MATERIALS.fetch(material).last
        fuse_ceiling(equal) || (FUSE_CEILING[20] * equal / area(20))
      end

      # @param area_mm2 [Float]
      # @return [Float, nil] A; nil for a wire thinner than the table
      def fuse_ceiling(area_mm2) = FUSE_CEILING.select { |gauge, _| area(gauge) <= area_mm2 * 1.02 }.values.max
    end
  end
end
