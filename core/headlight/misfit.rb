# frozen_string_literal: true

module Miser
  module Headlight
    # A bulb with chips in a reflector ground for a filament: where its light goes when it does not sit as it should. A paraboloid
    # throws what comes from its focus out level; a chip off the axis tilts the beam by its height over the focal length, a chip before or
    # behind the focus spreads it (plane geometry of a parabola). Lengths in mm, angles as a rise over a run.
    class Misfit
      # mm: focal length and the part of a reflector that throws the spot. A common headlamp of 150 mm: assumption.
      FOCUS_MM = 25.0
      FROM_MM = 15.0
      TO_MM = 75.0
      # The beam as it should be, at half of its peak: rise over run, wide and high; lx at 10 m; aimed a little down. Assumption.
      WIDE = 0.24
      HIGH = 0.03
      PEAK_LX = 48.0
      AIM = -0.02
      # The line that an oncoming rider's eyes stay above: assumption.
      EYES = 0.0
      WALL_M = 10.0
      # Half-width at half of the peak, in standard deviations of a bell.
      HALF = 1.1774
      # What a rider's weight does to a machine whose springs are as they should be: rise over run.
      RIDER = 0.003

      # How it sits. @!attribute forward_mm [Float] chips before the filament's plane @!attribute up_mm [Float] over the axis
      # @!attribute turned_deg [Float] from its mark uppermost @!attribute tilt [Float] of the whole unit @!attribute sag [Float] more
      #   with a rider on @!attribute play_mm [Float] it can be moved by hand @!attribute clear [Float] share of the light let out
      Seat = Struct.new(:forward_mm, :up_mm, :turned_deg, :tilt, :sag, :play_mm, :clear, keyword_init: true) do
        def initialize(forward_mm: 0.0, up_mm: 0.0, turned_deg: 0.0, tilt: 0.0, sag: 0.0, play_mm: 0.0, clear: 1.0) = super
      end
      SOUND = Seat.new.freeze

      # @param seat [Seat] @param rider [Boolean]
      def initialize(seat, rider: false)
        @seat = seat
        @rider = rider
      end

      # @return [Float] rise over run of the spot: a chip over the axis throws it down
      def aim = AIM - (@seat.up_mm / FOCUS_MM) + @seat.tilt + (@rider ? RIDER + @seat.sag : 0.0)

      # @return [Float] cm of the spot over the lamp's height, at the wall
      def spot_cm = aim * WALL_M * 100

      # @return [Float] rise over run at half of the peak
      def wide = Math.hypot(quarter? ? HIGH : WIDE, 2 * HALF * spread)
      def high = Math.hypot(quarter? ? WIDE : HIGH, 2 * HALF * spread)

      # @return [Float] m across at the wall
      def wide_m = wide * WALL_M
      def high_m = high * WALL_M

      # The same light over more wall.
      # @return [Float] lx
      def peak_lx = PEAK_LX * @seat.clear * WIDE * HIGH / (wide * high)

      # @return [Float] share of its light that goes above the line
      def above = 0.5 * Math.erfc((EYES - aim) * 2 * HALF / high / Math.sqrt(2))

      # Root mean square of what rays from a chip off the focus are thrown aside: δ·sin φ / ρ for a ray from the focus to the mirror of
      # length ρ, φ from the axis.
      # @return [Float] rise over run
      def spread
        radii = (0..12).map { |i| FROM_MM + ((TO_MM - FROM_MM) * i / 12) }
        squares = radii.sum { |r| r * (aside(r)**2) }
        Math.sqrt(squares / radii.sum)
      end

      # Whether its chips look up and down instead of to the sides.
      def quarter? = (@seat.turned_deg.abs % 180).between?(45, 135)

      # @param r [Float] mm from the axis, where it meets the mirror @return [Float]
      def aside(r)
        way = FOCUS_MM + (r * r / (4 * FOCUS_MM))
        @seat.forward_mm.abs * (r / way) / way
      end
    end
  end
end
