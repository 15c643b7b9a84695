# frozen_string_literal: true

module Miser
  module Book
    # So many of so many: how often something came loose. Its bounds are Wilson's (Journal of the American Statistical Association 22,
    # 1927).
    # @!attribute k [Integer] that did @!attribute of [Integer] in all
    Share = Struct.new(:k, :of)

    # What so few tell.
    class Share
      # Normal deviate of 95 %, both sides: from a published table.
      DEVIATE = 1.959964

      # @return [Array(Float, Float), nil] lowest and highest that goes with it; nil where none was looked at
      def bounds
        return unless of.positive?

        square = DEVIATE**2
        middle = (k + (square / 2)) / (of + square)
        half = DEVIATE / (of + square) * Math.sqrt((k * (of - k) / of.to_f) + (square / 4))
        [[middle - half, 0.0].max, [middle + half, 1.0].min]
      end
    end
  end
end
