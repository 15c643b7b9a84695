# frozen_string_literal: true

module Miser
  # A length in words, in the shop's units.
  module Length
    INCH = 0.0254
    FOOT = 0.3048

    # As a caliper has it: tenths of a millimetre, thousandths of an inch.
    # @param metres [Float] @param units [String] metric or us
    # @return [String]
    def self.small(metres, units) = units == 'us' ? format('%.3f in', metres / INCH) : format('%.1f mm', metres * 1000)

    # As a tape has it: whole millimetres under a metre, tenths of an inch under ten feet.
    # @param metres [Float] @param units [String] metric or us
    # @return [String]
    def self.tape(metres, units)
      return metres.abs < 1 ? format('%d mm', (metres * 1000).round) : format('%.2f m', metres) unless units == 'us'

      metres.abs < 3 ? format('%.1f in', metres / INCH) : format('%.1f ft', metres / FOOT)
    end

    # A distance.
    # @param metres [Float] @param units [String] metric or us
    # @return [String]
    def self.far(metres, units) = units == 'us' ? format('%g ft', (metres / FOOT).round(1)) : format('%g m', metres.round(2))
  end
end
