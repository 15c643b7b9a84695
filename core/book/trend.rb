# frozen_string_literal: true

module Miser
  module Book
    # A line through figures read over time, by least squares, each weighted by its doubt where that is known; and whether it drifts.
    class Trend
      DAYS_A_YEAR = 365.25
      # Fewer tell no scatter.
      LEAST = 3
      # Times its own standard error that a drift is told from scatter: assumption, the two sigma of every verdict, for as few as these
      # more.
      SURE = 2.0
      FEW = { 3 => 12.7, 4 => 4.30, 5 => 3.18, 6 => 2.78, 7 => 2.57, 8 => 2.45, 9 => 2.36, 10 => 2.31 }.freeze
      # @!attribute days [Float] since any day @!attribute value [Float] @!attribute sigma [Float, nil]
      Point = Struct.new(:days, :value, :sigma, keyword_init: true)

      # @param points [Array<Point>]
      def initialize(points)
        @points = points
        @weights = points.all? { |p| p.sigma&.positive? } ? points.map { |p| 1 / (p.sigma**2) } : points.map { 1.0 }
      end

      # @return [Boolean] whether a line can be drawn
      def line? = @points.size >= LEAST && spread.positive?

      # @return [Float, nil] a year
      def slope = line? ? @slope ||= rate * DAYS_A_YEAR : nil

      # @return [Float, nil] its standard error by how the figures scatter round the line, a year
      def error
        return unless line?

        left = @points.zip(@weights).sum { |p, w| w * ((p.value - at(p.days))**2) }
        Math.sqrt(left / (@points.size - 2) / spread) * DAYS_A_YEAR
      end

      # @param days [Float] @return [Float] on the line
      def at(days) = middle(:value) + (rate * (days - middle(:days)))

      # @return [Boolean] whether it is more than scatter: Student's t at 95 %, from a published table
      def drifts? = line? && slope.abs > FEW.fetch(@points.size, SURE) * error

      # @param unit [String] @return [String] the slope and its error
      def words(unit)
        rate = format('%.2f', slope.abs)
        sign = rate.to_f.zero? ? '' : { true => '+', false => '−' }[slope.positive?]
        format('%<sign>s%<rate>s ± %<error>.2f %<unit>s a year', sign: sign, rate: rate, error: error, unit: unit)
      end

      # @return [String] whether it drifts, said once
      def says(unit) = "#{drifts? ? 'drifts' : 'no drift that stands out of the scatter'}: #{words(unit)}"

      private

      def total = @total ||= @weights.sum
      def middle(what) = (@middle ||= {})[what] ||= @points.zip(@weights).sum { |p, w| w * p[what] } / total
      def spread = @spread ||= @points.zip(@weights).sum { |p, w| w * ((p.days - middle(:days))**2) }
      def rate = @rate ||= @points.zip(@weights).sum { |p, w| w * (p.days - middle(:days)) * (p.value - middle(:value)) } / spread
    end
  end
end
