# frozen_string_literal: true

module Miser
  module Charging
    # Down to the least of a smooth sum of squares over two unknowns, or one: Newton's steps on
    # differences, shorter where they do not go down. General practice.
    class Descent
      # Most steps; a step that gains less ends it; differences shrink by this, to no less than that.
      STEPS = 60
      GAIN = 1e-10
      SHRINK = 2.5
      FINEST = 1e-6

      # @param flat [Boolean] whether the second unknown is held at 0
      # @yieldparam u, w [Float] @yieldreturn [#u, #w, #squares]
      def initialize(flat: false, &place)
        @flat = flat
        @place = place
      end

      # @param best [#u, #w, #squares] to begin with
      # @param du, dw [Float] differences to begin with
      # @return [#u, #w, #squares] the least found
      def from(best, du, dw)
        STEPS.times do
          along, across = step(best, du, dw)
          to = @place.call(best.u + along.clamp(-3 * du, 3 * du), best.w + across.clamp(-3 * dw, 3 * dw))
          gain = best.squares - to.squares
          best = to if gain.positive?
          return best if gain.between?(0, GAIN) || (gain.negative? && du < FINEST)

          du /= SHRINK
          dw /= SHRINK
        end
        best
      end

      # @return [Array(Float, Float, Float)] second derivatives: along, mixed, across
      def bends(best, du, dw) = slopes(best, du, dw).drop(2)

      private

      # First derivatives, then the second.
      def slopes(best, du, dw)
        here = best.squares
        right, left = [du, -du].map { |d| @place.call(best.u + d, best.w).squares }
        first = (right - left) / (2 * du)
        second = (right - (2 * here) + left) / (du * du)
        return [first, 0.0, second, 0.0, 0.0] if @flat

        up, down = [dw, -dw].map { |d| @place.call(best.u, best.w + d).squares }
        corners = [[du, dw], [-du, -dw], [du, -dw], [-du, dw]].map { |d, e| @place.call(best.u + d, best.w + e).squares }
        mixed = (corners[0] + corners[1] - corners[2] - corners[3]) / (4 * du * dw)
        [first, (up - down) / (2 * dw), second, mixed, (up - (2 * here) + down) / (dw * dw)]
      end

      def step(best, du, dw)
        gu, gw, huu, huw, hww = slopes(best, du, dw)
        if @flat
          return huu.positive? ? [-gu / huu, 0.0] : [-(gu <=> 0) * du, 0.0]
        end

        det = (huu * hww) - (huw * huw)
        return [-(gu <=> 0) * du, -(gw <=> 0) * dw] unless huu.positive? && det.positive?

        [((huw * gw) - (hww * gu)) / det, ((huw * gu) - (huu * gw)) / det]
      end
    end
  end
end
