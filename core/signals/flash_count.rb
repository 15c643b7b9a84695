# frozen_string_literal: true

module Miser
  module Signals
    # A rate from taps in time with the flashes: a straight line of time over count,
    # its slope the period. Missed and doubled taps are told by their gaps.
    class FlashCount
      FEWEST = 4
      # Good enough: one standard uncertainty under this many flashes a minute.
      WANTED = 1.0

      attr_reader :rate, :sigma, :on_share, :missed, :words

      # @param taps [Array<Float>] s, rising
      # @param releases [Array<Float>] s, where the key was held while lit; may be empty
      def initialize(taps, releases = [])
        @taps = taps.sort.uniq
        @words = 'Tap in time with the flashes.'
        judge(releases.sort) if @taps.size >= FEWEST
      end

      # @return [Integer] taps worth adding
      def more
        return FEWEST - @taps.size if @taps.size < FEWEST
        return 0 if sigma <= WANTED

        # The slope's doubt falls with the count to the power of 3/2.
        [(@taps.size * ((sigma / WANTED)**(2 / 3.0))).ceil - @taps.size, 1].max
      end

      private

      def judge(releases)
        count_up
        fit
        held(releases) unless releases.empty?
        @words = sigma <= WANTED ? 'Good: more taps are not worth it.' : "About #{more} more taps."
      end

      # Gaps of twice the usual are a tap missed; halves are left to the scatter.
      def count_up
        gaps = @taps.each_cons(2).map { |a, b| b - a }
        usual = gaps.sort[gaps.size / 2]
        steps = gaps.map { |g| [(g / usual).round, 1].max }
        @missed = steps.sum - steps.size
        @count = [0, *steps.each_with_object([]) { |s, list| list << (list.last.to_i + s) }]
      end

      def fit
        n = @taps.size
        mean_x = @count.sum / n.to_f
        mean_t = @taps.sum / n
        sxx = @count.sum { |x| (x - mean_x)**2 }
        period = @count.each_index.sum { |i| (@count[i] - mean_x) * (@taps[i] - mean_t) } / sxx
        left = @count.each_index.sum { |i| (@taps[i] - mean_t - (period * (@count[i] - mean_x)))**2 }
        period_sigma = Math.sqrt(left / (n - 2) / sxx)
        @rate = 60 / period
        @sigma = 60 * period_sigma / (period**2)
      end

      # Held while lit: the share of each period that the key was down.
      def held(releases)
        pairs = @taps.filter_map { |t| (up = releases.find { |r| r > t }) && (up - t) }
        period = 60 / rate
        good = pairs.select { |p| p < period }
        @on_share = good.sum / good.size / period if good.any?
      end
    end
  end
end
