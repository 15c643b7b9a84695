# frozen_string_literal: true

require 'open3'
require_relative '../test_helper'

# The earn curve's fit against R's lm, on noisy points.
class EarnFitCheck < Miser::Test
  def gauss(random) = Math.sqrt(-2 * Math.log(1 - random.rand)) * Math.cos(2 * Math::PI * random.rand)

  def noisy_points(random, count, noise)
    Array.new(count) do
      rpm = random.rand(1300..7000).to_f
      volts = random.rand(13.2..14.4)
      amps = Math.sqrt([420.0 - (420.0 * ((1100.0 * volts / 14.0 / rpm)**2)), 0.1].max)
      [rpm, volts, [amps + (noise * gauss(random)), 0.2].max]
    end
  end

  def r_lm(points)
    rows = points.map { |n, v, i| [((v / (14.0 * n))**2), i**2, 1 / ((2 * i * ((0.02 * i) + 0.01))**2)].join(',') }
    script = "d <- read.csv(file('stdin'), header=FALSE); m <- lm(V2 ~ V1, data=d, weights=V3); s <- summary(m)$sigma^2; v <- vcov(m) * max(s, 1) / s; cat(sprintf('%.12g', c(coef(m), v[1,1], v[1,2], v[2,2])))"
    out, status = Open3.capture2('Rscript', '--vanilla', '-e', script, stdin_data: "#{rows.join("\n")}\n")
    assert status.success?
    out.split.map(&:to_f)
  end

  def test_coefficients_and_covariance_agree_with_lm
    random = Random.new(7)
    [[4, 1.2], [6, 0.9], [12, 1.5]].each do |count, noise|
      points = noisy_points(random, count, noise)
      fit = Miser::Charging::EarnFit.from_points(points, v_ref: 14.0, amps_sigma: ->(a) { (0.02 * a) + 0.01 })
      intercept, slope, var_a, cov, var_s = r_lm(points)
      assert_within 1e-7, intercept, fit.a
      assert_within 1e-7, slope, -fit.b
      # lm scales by the scatter; where that is less than the meter explains, the meter's stands.
      assert_within 1e-6, var_a, fit.covariance[0]
      assert_within 1e-6, cov, -fit.covariance[1]
      assert_within 1e-6, var_s, fit.covariance[2]
    end
  end
end
