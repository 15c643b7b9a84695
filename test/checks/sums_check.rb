# frozen_string_literal: true

require 'open3'
require_relative '../test_helper'
require_relative '../../core/draw/fusion'

# Readings of several loads at once against R: what was believed is so many pseudo-readings more, and
# generalised least squares (weighted lm without an intercept, its scale fixed at one) is solved all at once.
# Source of the method: Aitken 1935; R's lm with weights.
class SumsCheck < Miser::Test
  MACHINES = 25
  SCRIPT = <<~R
    input <- file("stdin")
    lines <- readLines(input)
    close(input)
    for (line in lines) {
      v <- as.numeric(strsplit(line, ",")[[1]])
      n <- v[1]; m <- v[2]; v <- v[-(1:2)]
      x0 <- v[1:n]; s0 <- v[n + 1:n]; v <- v[-(1:(2 * n))]
      A <- matrix(v[1:(n * m)], nrow = m, byrow = TRUE); v <- v[-(1:(n * m))]
      y <- v[1:m]; r <- v[m + 1:m]
      X <- rbind(diag(n), A); Y <- c(x0, y); w <- 1 / c(s0, r)^2
      fit <- lm(Y ~ X - 1, weights = w)
      C <- solve(t(X) %*% (w * X))
      cat(format(c(coef(fit), as.vector(C)), digits = 15), sep = ",")
      cat("\\n")
    }
  R

  def test_against_generalised_least_squares_in_r
    random = Random.new(11)
    cases = Array.new(MACHINES) { machine(random) }
    out, status = Open3.capture2('Rscript', '--vanilla', '-e', SCRIPT, stdin_data: cases.map { |c| "#{c[:numbers].join(',')}\n" }.join)
    assert_predicate status, :success?
    cases.zip(out.lines).each do |c, line|
      solved = line.split(',').map(&:to_f)
      n = c[:priors].size
      fused = Miser::Draw::Fusion.new(c[:priors], c[:sums])
      c[:priors].keys.each_with_index do |key, i|
        assert_in_delta solved[i], fused.amps(key), 1e-7
        c[:priors].keys.each_with_index { |other, j| assert_in_delta solved[n + (i * n) + j], fused.covariance(key, other), 1e-8 }
      end
    end
  end

  private

  def machine(random)
    n = random.rand(2..9)
    m = random.rand(1..6)
    priors = (0...n).to_h { |i| [i, [random.rand(0.05..6.0), random.rand(0.02..1.5)]] }
    rows = Array.new(m) { Array.new(n) { random.rand < 0.6 ? random.rand(0.85..1.15) : 0.0 } }
    amps = rows.map { |row| row.each_with_index.sum { |a, i| a * priors[i].first } + random.rand(-0.4..0.4) }
    sigmas = Array.new(m) { random.rand(0.02..0.3) }
    sums = rows.each_with_index.map { |row, i| Miser::Draw::Fusion::Sum.new(shares: row.each_with_index.to_h { |a, k| [k, a] }, amps: amps[i], sigma: sigmas[i]) }
    { priors: priors, sums: sums, numbers: [n, m, *priors.values.map(&:first), *priors.values.map(&:last), *rows.flatten, *amps, *sigmas] }
  end
end
