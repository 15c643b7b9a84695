# frozen_string_literal: true

module Miser
  module StandIns
    # A dipped beam on the wall before the simulated light meter: a bell of light under
    # the axis, falling faster above its middle, as dipped beams do.
    class BeamSpecimen
      # Above its middle it is so many times narrower.
      CUT = 2.5

      # @param peak [Float] lx @param width, height [Float] m, one standard deviation @param under [Float] m its middle lies under the axis
      # @raise [ArgumentError]
      def initialize(peak, width, height, under)
        raise ArgumentError, 'a beam has a width and a height' unless width.positive? && height.positive? && !peak.negative?

        @peak = peak
        @width = width
        @height = height
        @under = under
      end

      # @param x, y [Float] m from the axis
      # @return [Float] lx
      def lux(x, y)
        up = y + @under
        tall = up.positive? ? @height / CUT : @height
        @peak * Math.exp(-((x / @width)**2) / 2) * Math.exp(-((up / tall)**2) / 2)
      end
    end
  end
end
