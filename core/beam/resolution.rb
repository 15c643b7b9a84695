# frozen_string_literal: true

module Miser
  module Beam
    # What marks along a line can tell of the light between them. Where a step of light lies
    # between two marks, trapezoids put it in the middle, and it may be anywhere between; where
    # the light bends evenly they are nearly right. How much of a rise is a step is told by its
    # neighbours: a slope goes on beyond the next mark, a step does not.
    class Resolution
      # A step anywhere between two marks: one standard deviation of where it is, as a share of the way.
      ANYWHERE = 1 / Math.sqrt(12)
      # What the trapezoid rule misses of an even bend: a twelfth of the second difference.
      BEND = 1.0 / 12

      # @param places [Array<Float>] m, in order
      # @param values [Array<Float>] light at them
      def initialize(places, values)
        @places = places
        @values = values
        @rises = values.each_cons(2).map { |a, b| b - a }
      end

      # @return [Float] m between two marks
      def gap(strip) = (@places[strip + 1] - @places[strip]).abs

      # @return [Float] of light, what of the rise between two marks is a step
      def jump(strip)
        rise = @rises[strip]
        slopes = [strip - 1, strip + 1].map { |i| i.between?(0, @rises.size - 1) ? @rises[i] / gap(i) * gap(strip) : 0.0 }
        # One that goes on to one side only may be a step on the mark between; one that turns is a peak.
        slope = slopes.map { |s| (s * rise).positive? ? s.abs : 0.0 }.min
        [rise.abs - slope, 0.0].max
      end

      # @return [Float] light times m, one standard uncertainty of what lies between two marks
      def sigma(strip) = gap(strip) * Math.hypot(jump(strip) * ANYWHERE, bend(strip) * BEND)

      # A crest between marks makes both sides of the brightest too little, so these two add straight.
      # @return [Float] the same of all
      def whole
        top = @values.each_index.max_by { |i| @values[i] }
        beside, rest = (0...@rises.size).partition { |i| [top - 1, top].include?(i) }
        Math.sqrt((beside.sum { |i| sigma(i) }**2) + rest.sum { |i| sigma(i)**2 })
      end

      # Where a line between two marks crosses a level: how far that may be off.
      # @param share [Float] of the way at which it is taken to cross; a step may be anywhere
      # @return [Float] m
      def edge(strip, share)
        rise = @rises[strip].abs
        return 0.0 unless rise.positive?

        anywhere = Math.hypot(ANYWHERE, share - 0.5)
        gap(strip) * [Math.hypot([jump(strip) / rise, 1.0].min * anywhere, bend(strip) / rise / 8), anywhere].min
      end

      # What bends on to one side only is a step beside it.
      # @return [Float] of light, the lesser second difference at its ends
      def bend(strip)
        beside = [strip - 1, strip + 1].grep(0...@rises.size)
        beside.map { |i| ((@rises[i] / gap(i) * gap(strip)) - @rises[strip]).abs }.min || 0.0
      end
    end
  end
end
