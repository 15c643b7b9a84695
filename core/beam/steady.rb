# frozen_string_literal: true

require_relative '../assumptions'

module Miser
  module Beam
    # A light meter carried from mark to mark: says when its reading holds still, so
    # that the hand need not press anything. It knows no clock: readings bring their time.
    class Steady
      # lx that a reading may stir in the dark: a meter's last digits.
      LEAST_LX = 0.05
      LEAST_READINGS = 4
      # lx under nothing that a meter's zero may stir to; farther down the meter wants zeroing.
      ZERO_LX = 1.0

      # There is no light below none: a dark wall reads a little under it.
      # @param lux [Float] as the meter shows it
      # @return [Float] lx
      def self.light(lux) = lux.between?(-ZERO_LX, 0.0) ? 0.0 : lux

      # @param settings [Assumptions]
      def initialize(settings = Assumptions.new)
        @move_s = settings[:steady_move_s]
        @hold_s = settings[:steady_hold_s]
        @stir = settings[:steady_stir]
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

        values.max - values.min <= [2 * @stir * mean, LEAST_LX].max
      end
    end
  end
end
