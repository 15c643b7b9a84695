# frozen_string_literal: true

module Miser
  module Headlight
    # What a lamp's cap fixes: where the dipped filament lies behind the reference plane.
    # UN Regulation 37, values from memory; nil where not remembered.
    module Caps
      # @!attribute plane_to_filament_m [Float, nil]
      Cap = Struct.new(:key, :plane_to_filament_m, :contacts, :source, keyword_init: true)

      R37 = 'UN Regulation 37 (from memory)'
      TABLE = [
        Cap.new(key: 'H4', plane_to_filament_m: 0.0285, contacts: 'three blades', source: R37), Cap.new(key: 'HS1', plane_to_filament_m: 0.0285, contacts: 'three blades', source: R37),
        Cap.new(key: 'H7', plane_to_filament_m: 0.025, contacts: 'two blades', source: R37), Cap.new(key: 'H11', plane_to_filament_m: 0.025, contacts: 'sealed plug', source: R37),
        *%w[HB3 HB4].map { |k| Cap.new(key: k, plane_to_filament_m: nil, contacts: 'sealed plug', source: R37) },
        *%w[H1 H3 S2].map { |k| Cap.new(key: k, plane_to_filament_m: nil, contacts: 'single lead or blades', source: R37) }
      ].freeze
      BY_KEY = TABLE.to_h { |c| [c.key, c] }.freeze

      # Whole units by their size: nominal diameters, common practice.
      SIZES = { '7in' => ['7 in round', 0.178], '5.75in' => ['5¾ in round', 0.146], '4.5in' => ['4½ in round', 0.114], '90mm' => ['90 mm projector', 0.09] }.freeze

      # @return [Float, nil] m
      def self.filament(key) = BY_KEY[key]&.plane_to_filament_m
    end
  end
end
