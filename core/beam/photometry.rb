# frozen_string_literal: true

require_relative 'wall'

module Miser
  module Beam
    # A lamp's candela over directions, and the lux it would lay on a wall. Angles in
    # degrees; x to the right, y up, the beam along the axis.
    class Photometry
      # Which way the goniometer turns: A about a vertical axis, B about a horizontal one, C about the beam.
      TYPES = %w[A B C].freeze

      attr_reader :type, :verticals, :horizontals, :candela, :watts, :lumens

      # @param type [String] of TYPES
      # @param verticals, horizontals [Array<Float>] degrees, rising
      # @param candela [Array<Array<Float>>] by horizontal, then vertical
      def initialize(type:, verticals:, horizontals:, candela:, watts: nil, lumens: nil)
        @type = type
        @verticals = verticals
        @horizontals = horizontals
        @candela = candela
        @watts = watts
        @lumens = lumens
      end

      # @return [Float] cd towards a point on a wall, straight between the table's angles; 0 outside it
      # @param x, y [Float] m @param distance [Float] m
      def intensity(x, y, distance)
        h, v = angles(x, y, distance)
        h = h.abs if mirrored?
        at(h, v)
      end

      # E = I·cos³θ / d².
      # @param down [Float] inclination of the beam, 0.01 is one per cent down
      # @return [Float] lx
      def lux(x, y, distance, down: 0.0)
        cosine = distance / Math.sqrt((distance**2) + (x**2) + (y**2))
        intensity(x, y + (down * distance), distance) * (cosine**3) / (distance**2)
      end

      # What it would lay on a wall.
      # @param frame [Hash] a wall's place and size, as Wall takes it
      # @return [Wall]
      def wall(frame, down: 0.0) = Wall.filled(frame.slice(*Wall::FRAME)) { |x, y| lux(x, y, frame['distance_m'].to_f, down: down) }

      # @return [Float] cd, the brightest of the table
      def peak = candela.flatten.max

      private

      # A table that begins at the axis stands for both sides.
      def mirrored? = horizontals.first.zero? && type != 'C'

      def angles(x, y, distance)
        case type
        when 'A' then [degrees(Math.atan2(x, distance)), degrees(Math.atan2(y, Math.hypot(x, distance)))]
        when 'B' then [degrees(Math.atan2(x, Math.hypot(y, distance))), degrees(Math.atan2(y, distance))]
        else [degrees(Math.atan2(y, x)) % 360, degrees(Math.atan2(Math.hypot(x, y), distance))]
        end
      end

      def degrees(radians) = radians * 180 / Math::PI

      def at(horizontal, vertical)
        i, a = place(horizontals, type == 'C' && horizontals.size == 1 ? horizontals.first : horizontal)
        j, b = place(verticals, vertical)
        return 0.0 unless i && j

        i2 = [i + 1, horizontals.size - 1].min
        j2 = [j + 1, verticals.size - 1].min
        ((1 - a) * (((1 - b) * candela[i][j]) + (b * candela[i][j2]))) + (a * (((1 - b) * candela[i2][j]) + (b * candela[i2][j2])))
      end

      # @return [Array(Integer, Float), nil] the step below and the share of the way to the next
      def place(list, value)
        return nil unless value.between?(list.first - 1e-4, list.last + 1e-4)

        i = [(list.bsearch_index { |v| v > value } || list.size) - 1, 0].max
        return [i, 0.0] if i == list.size - 1

        [i, ((value - list[i]) / (list[i + 1] - list[i])).clamp(0.0, 1.0)]
      end
    end
  end
end
