# frozen_string_literal: true

require_relative '../draw/lamp_base'

module Miser
  module Headlight
    # What a lamp's cap fixes: where the dipped filament lies behind the reference plane.
    # UN Regulation 37, values from memory; nil where not remembered.
    module Caps
      # @!attribute plane_to_filament_m [Float, nil] @!attribute contacts [String] as they are found
      Cap = Struct.new(:key, :plane_to_filament_m, :contacts, keyword_init: true)
      # A cap with its filaments, as a table shows it.
      # @!attribute filaments [Array<Draw::LampBase::Filament>] @!attribute sources [Array<String>] of the figures, of the trade number
      Row = Struct.new(:key, :use, :filaments, :plane_to_filament_m, :contacts, :trade, :sources, keyword_init: true)

      R37 = 'UN Regulation 37, not checked against its text'
      TRADE = 'trade number: common practice'
      TABLE = [
        Cap.new(key: 'H4', plane_to_filament_m: 0.0285, contacts: 'three blades'),
        Cap.new(key: 'HS1', plane_to_filament_m: 0.0285, contacts: 'three blades'),
        Cap.new(key: 'H7', plane_to_filament_m: 0.025, contacts: 'two blades'),
        Cap.new(key: 'H11', plane_to_filament_m: 0.025, contacts: 'sealed plug'),
        *%w[HB3 HB4].map { |k| Cap.new(key: k, plane_to_filament_m: 0.0315, contacts: 'sealed plug') },
        Cap.new(key: 'H27W/1', contacts: 'sealed plug'),
        Cap.new(key: 'H1', plane_to_filament_m: 0.025, contacts: 'one blade'),
        Cap.new(key: 'H3', plane_to_filament_m: 0.018, contacts: 'one lead'),
        Cap.new(key: 'S2', contacts: 'bayonet, three contacts (BA20d)')
      ].freeze
      BY_KEY = TABLE.to_h { |c| [c.key, c] }.freeze

      # Whole units by their size: nominal diameters, common practice.
      SIZES = { '7in' => ['7 in round', 0.178], '5.75in' => ['5¾ in round', 0.146], '4.5in' => ['4½ in round', 0.114],
                '90mm' => ['90 mm projector', 0.09] }.freeze
      SIZE_SOURCE = 'nominal, common practice'

      # @return [Float, nil] m
      def self.filament(key) = BY_KEY[key]&.plane_to_filament_m

      # Every base, headlamps first, with what its cap fixes.
      # @return [Array<Row>]
      def self.rows
        Draw::LampBase::TABLE.reject { |b| b.key == 'other' }.sort_by { |b| BY_KEY.key?(b.key) ? 0 : 1 }.map do |base|
          cap = BY_KEY[base.key]
          Row.new(key: base.key, use: base.use, filaments: base.filaments, plane_to_filament_m: cap&.plane_to_filament_m,
            contacts: cap&.contacts || "#{base.contacts} contact#{'s' if base.contacts != 1}", trade: base.trade,
            sources: [R37, base.trade && TRADE].compact)
        end
      end
    end
  end
end
