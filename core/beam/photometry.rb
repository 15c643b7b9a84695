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
        at(folded(h), v)
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
      def wall(frame, down: 0.0, settings: Assumptions.new)
        Wall.filled(frame.slice(*Wall::FRAME), settings: settings,
          sigma: settings[:photometry_sigma]) do |x, y|
          lux(x, y, frame['distance_m'].to_f, down: down)
        end
      end

      # @return [Float] cd, the brightest of the table
      def peak = candela.flatten.max

      # Light in the whole table, what its symmetry stands for included: ∬I dΩ, straight between its angles.
      # @return [Float] lm
      def flux
        rings = polar.each_index.map { |k| ring(k) }
        polar.each_cons(2).with_index.sum { |(from, to), k| band(radians(from), radians(to), rings[k], rings[k + 1]) } * copies
      end

      private

      # A table that covers a part of the directions stands for the rest by its symmetry. Types A
      # and B: one that begins at the axis stands for both sides. Type C: up to 0, the same all
      # round; to 90, four quarters alike; to 180, two halves; from 90 to 270, likewise, about the other plane.
      def folded(horizontal)
        return horizontals.first.zero? ? horizontal.abs : horizontal unless type == 'C'
        return horizontals.first if horizontals.size == 1

        case [horizontals.first, horizontals.last]
        in [0.0, 90.0] then (horizontal % 180).then { |h| [h, 180 - h].min }
        in [0.0, 180.0] then [horizontal, 360 - horizontal].min
        in [90.0, 270.0] then horizontal.between?(90, 270) ? horizontal : (180 - horizontal) % 360
        else horizontal
        end
      end

      # Parts of the sphere that the table stands for.
      def copies
        return horizontals.first.zero? ? 2 : 1 unless type == 'C'

        { [0.0, 90.0] => 4, [0.0, 180.0] => 2, [90.0, 270.0] => 2 }.fetch([horizontals.first, horizontals.last], 1)
      end

      # The angles counted from the pole, degrees: the pole is the beam's axis in C, straight up in A, to the side in B.
      def polar = { 'A' => verticals, 'B' => horizontals }.fetch(type) { return verticals }.map { |angle| 90.0 + angle }

      # @return [Float] cd·rad round the pole at one angle from it
      def ring(index)
        return 2 * Math::PI * candela.first[index] if type == 'C' && horizontals.size == 1

        around, values = type == 'B' ? [verticals, candela[index]] : [horizontals, candela.map { |row| row[index] }]
        around.zip(values).each_cons(2).sum { |(from, a), (to, b)| radians(to - from) * (a + b) / 2 }
      end

      # ∫ I·sinθ dθ with I straight from a to b.
      def band(from, to, at_from, at_to)
        share = ((Math.sin(to) - Math.sin(from)) / (to - from)) - Math.cos(to)
        (at_from * (Math.cos(from) - Math.cos(to) - share)) + (at_to * share)
      end

      def angles(x, y, distance)
        case type
        when 'A' then [degrees(Math.atan2(x, distance)), degrees(Math.atan2(y, Math.hypot(x, distance)))]
        when 'B' then [degrees(Math.atan2(x, Math.hypot(y, distance))), degrees(Math.atan2(y, distance))]
        else [degrees(Math.atan2(y, x)) % 360, degrees(Math.atan2(Math.hypot(x, y), distance))]
        end
      end

      def degrees(radians) = radians * 180 / Math::PI

      def radians(degrees) = degrees * Math::PI / 180

      def at(horizontal, vertical)
        i, a = place(horizontals, horizontal)
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
