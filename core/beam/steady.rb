# frozen_string_literal: true

module Miser
  module Beam
    # A light meter carried from mark to mark: says when its reading holds still, so
    # that the hand need not press anything. It knows no clock: readings bring their time.
    class Steady
      # s the meter is given to reach the next mark; s it must hold; share, and lx, it may stir (assumptions).
      MOVE_S = 1.5
      HOLD_S = 0.8
      STIR = 0.02
      LEAST_LX = 0.05
      LEAST_READINGS = 4

      # @param move_s, hold_s [Float] s
      def initialize(move_s: MOVE_S, hold_s: HOLD_S)
        @move_s = move_s
        @hold_s = hold_s
        again
      end

      # On to the next mark.
      def again
        @since = nil
        @held = []
      end

      # @param time [Float] s, rising @param lux [Float]
      # @return [Float, nil] lx, the mean of what was held; nil while it is not still
      def take(time, lux)
        @since ||= time
        return nil if time - @since < @move_s

        @held << [time, lux]
        # A slow meter's last few count, however long they took.
        @held.shift while @held.size > LEAST_READINGS && time - @held[1][0] > @hold_s
        still? ? mean : nil
      end

      private

      def values = @held.map(&:last)

      def mean = values.sum / values.size

      def still?
        return false if @held.size < LEAST_READINGS || @held.last[0] - @held.first[0] < @hold_s

        values.max - values.min <= [2 * STIR * mean, LEAST_LX].max
      end
    end
  end
end
