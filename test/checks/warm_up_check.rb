# frozen_string_literal: true

require 'open3'
require_relative '../test_helper'

# The settled estimate of a noisy warm-up against R's nls, an independent fit of
# the same exponential.
class WarmUpCheck < Miser::Test
  def series(random)
    settled = random.rand(0.4..4.0)
    tau = random.rand(20.0..90.0)
    step = random.rand(2.0..6.0)
    count = ((random.rand(2.0..4.0) * tau) / step).round.clamp(12, 100)
    samples = Array.new(count) { |i| [i * step, settled * (1 + (0.09 * Math.exp(-i * step / tau)) + (0.0012 * gauss(random)))] }
    [samples, { c: settled, b: settled * 0.09, tau: tau }]
  end

  def r_nls(samples, start)
    script = "d <- read.csv(file('stdin'), header=FALSE); m <- nls(V2 ~ c + b * exp(-V1 / tau), data=d, start=list(c=#{start[:c]}, b=#{start[:b]}, tau=#{start[:tau]})); cat(sprintf('%.12g', c(coef(m), sqrt(vcov(m)[1,1]))))"
    out, status = Open3.capture2('Rscript', '--vanilla', '-e', script, stdin_data: samples.map { |s| s.join(',') }.join("\n"))
    assert status.success?
    out.split.map(&:to_f)
  end

  def test_settled_draw_and_its_uncertainty_agree_with_nls
    random = Random.new(31)
    6.times do
      samples, truth = series(random)
      c, b, tau, sigma = r_nls(samples, truth)
      fit = Miser::Draw::TailFit.new(samples)
      assert_within 2e-4, c, fit.c
      assert_within 5e-3, b, fit.b
      assert_within 1e-2, tau, fit.tau
      assert_within 2e-2, sigma, fit.sigma
      assert_operator (fit.c - truth[:c]).abs, :<, 5 * fit.sigma
      assert_within 1e-9, fit.c, Miser::Draw::WarmUp.new(samples).settled
    end
  end
end
