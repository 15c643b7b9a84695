# frozen_string_literal: true

require_relative '../errors'
require_relative 'earn_curve'

module Miser
  module Charging
    # Finds the earn curve from what is known of a charging system, best first:
    # measured points, a rating with its cut-in, a rating alone.
    module EarnFit
      module_function

      # Straight line of I² over x = (V/(V_ref·n))², weighted least squares.
      # @param points [Array<Array(Float, Float, Float)>] rpm, volts, amps
      # @param v_ref [Float] V at which n0 is stated
      # @param amps_sigma [Proc] A -> standard uncertainty of a reading, A
      # @return [EarnCurve]
      # @raise [OneSpeed, FallingOutput]
      def from_points(points, v_ref:, amps_sigma:, **options)
        speeds = points.map { |n, v, _| (v / (v_ref * n.to_f))**2 }
        raise OneSpeed if distinct(speeds) < 2

        rows = points.zip(speeds).map do |(_, _, amps), x|
          [x, amps**2, 1.0 / ((2 * [amps, 0.05].max * [amps_sigma.call(amps), 1e-6].max)**2)]
        end
        a, slope, covariance = line(rows)
        raise FallingOutput unless a.positive? && slope.negative?

        EarnCurve.new(a: a, b: -slope, v_ref: v_ref, covariance: [covariance[0], -covariance[1], covariance[2]], basis: :points, **options)
      end

      # I_r = W_r / V;  I_inf = I_r / sqrt(1 − (n0/n_r)²).
      # @param watts [Float] rated W at rpm and volts
      # @param cut_in [Float] rpm
      # @param watts_sigma [Float] relative
      # @param cut_in_sigma [Float] relative
      # @return [EarnCurve]
      # @raise [LateCutIn]
      def from_rating(watts:, rpm:, volts:, cut_in:, watts_sigma:, cut_in_sigma:, basis: :rating, **options)
        raise LateCutIn.new(cut_in: cut_in, rpm: rpm) unless cut_in < rpm

        cut_in = cut_in.to_f
        at = lambda do |w, n0|
          share = [1 - ((n0 / rpm)**2), 0.02].max
          a = ((w.to_f / volts)**2) / share
          [a, a * (n0**2)]
        end
        a, b = at.call(watts, cut_in)
        by_watts = difference(at, [watts * (1 - watts_sigma), cut_in], [watts * (1 + watts_sigma), cut_in])
        by_cut_in = difference(at, [watts, cut_in * (1 - cut_in_sigma)], [watts, cut_in * (1 + cut_in_sigma)])
        covariance = [(by_watts[0]**2) + (by_cut_in[0]**2), (by_watts[0] * by_watts[1]) + (by_cut_in[0] * by_cut_in[1]),
          (by_watts[1]**2) + (by_cut_in[1]**2)]
        EarnCurve.new(a: a, b: b, v_ref: volts, covariance: covariance, basis: basis, **options)
      end

      def difference(function, low, high)
        function.call(*high).zip(function.call(*low)).map { |h, l| (h - l) / 2 }
      end

      # @return [Integer] how many speeds really differ, to 1 per cent
      def distinct(values)
        values.sort.slice_when { |x, y| y - x > 0.01 * y }.count
      end

      # Weighted line y = a + s·x. The covariance is the scatter's where the
      # points scatter more than the meter explains, else the meter's.
      # @param rows [Array<Array(Float, Float, Float)>] x, y, weight
      # @return [Array(Float, Float, Array(Float, Float, Float))] a, s, [var a, cov, var s]
      def line(rows)
        w = rows.sum { |r| r[2] }
        mean_x = rows.sum { |x, _, k| k * x } / w
        mean_y = rows.sum { |_, y, k| k * y } / w
        sxx = rows.sum { |x, _, k| k * ((x - mean_x)**2) }
        slope = rows.sum { |x, y, k| k * (x - mean_x) * (y - mean_y) } / sxx
        a = mean_y - (slope * mean_x)
        scatter = rows.size > 2 ? rows.sum { |x, y, k| k * ((y - a - (slope * x))**2) } / (rows.size - 2) : 1.0
        factor = [scatter, 1.0].max
        [a, slope, [factor * ((1 / w) + ((mean_x**2) / sxx)), -factor * mean_x / sxx, factor / sxx]]
      end
    end
  end
end
