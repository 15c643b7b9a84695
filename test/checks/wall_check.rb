# frozen_string_literal: true

require 'open3'
require_relative '../test_helper'
require_relative '../../core/beam/comparison'
require_relative '../../core/beam/contour'

# Lines of equal light and light on the wall against R, a general numerical library:
# its own contour lines, and QUADPACK's adaptive quadrature of the same surface.
class WallCheck < Miser::Test
  FRAME = { 'distance_m' => 5.0, 'columns' => 17, 'rows' => 11, 'width_m' => 3.2, 'up_m' => 0.5, 'down_m' => 0.9 }.freeze
  LEVELS = [2.0, 5.0, 11.3, 23.7].freeze
  LINE = -0.063

  def wall
    random = Random.new(11)
    Miser::Beam::Wall.filled(FRAME) do |x, y|
      (40 * Math.exp(-((x - 0.2)**2) - (6 * ((y + 0.2)**2)))) +
        (25 * Math.exp(-(4 * ((x + 0.9)**2)) - (9 * ((y + 0.5)**2)))) + (2 * random.rand)
    end
  end

  # @return [String] what R prints; z by column of x, y rising
  def in_r(wall, body)
    script = "input <- file('stdin'); d <- scan(input, quiet=TRUE); close(input); x <- d[1:#{wall.columns}]; y <- d[#{wall.columns} + 1:#{wall.rows}]; z <- t(matrix(d[-(1:#{wall.columns + wall.rows})], nrow=#{wall.rows}, byrow=TRUE)); #{body}"
    numbers = [wall.xs, wall.ys.reverse, wall.grid.reverse].flatten.map { |v| format('%.17g', v) }.join("\n")
    out, status = Open3.capture2('Rscript', '--vanilla', '-e', script, stdin_data: numbers)
    assert status.success?
    out
  end

  def on_grid(points, wall)
    points.select do |x, y|
      wall.xs.any? { |g| (g - x).abs < 1e-9 } ||
        wall.ys.any? { |g| (g - y).abs < 1e-9 }
    end.map { |p| p.map { |v| v.round(7) + 0.0 } }
  end

  def rim?(point, wall)
    [wall.xs.first,
      wall.xs.last].any? { |g| (g - point[0]).abs < 1e-7 } || [wall.ys.first, wall.ys.last].any? { |g| (g - point[1]).abs < 1e-7 }
  end

  # R turns its lines in the middle of cells as well; where they cross the grid they must be ours.
  def test_contours_cross_the_grid_where_r_has_them
    subject = wall
    out = in_r(subject,
      "for (l in contourLines(x, y, z, levels=c(#{LEVELS.join(',')}))) cat(sprintf('%.10g %.12g %.12g\\n', l$level, l$x, l$y), sep='')")
    theirs = out.lines.map { |l| l.split.map(&:to_f) }.group_by(&:first).transform_values do |rows|
      on_grid(rows.map { |r| r.drop(1) }, subject)
    end
    lines = Miser::Beam::Contour.new(subject.xs, subject.ys, subject.grid)
    LEVELS.each do |level|
      ours = on_grid(lines.rings(level).flatten(1), subject).reject { |p| rim?(p, subject) }.uniq.sort
      reference = theirs.fetch(level).reject { |p| rim?(p, subject) }.uniq.sort
      assert_operator reference.size, :>, 8
      assert_equal reference.size, ours.size, "#{level} lx"
      reference.zip(ours).each { |a, b| assert_in_delta a[0], b[0], 2e-6 and assert_in_delta a[1], b[1], 2e-6 }
    end
  end

  # Straight between marks, the surface is integrated adaptively in both directions.
  def test_light_on_the_wall_and_above_a_line_agree_with_quadpack
    subject = wall
    out = in_r(subject, <<~R)
      strip <- function(v) { row <- apply(z, 1, function(c) approx(y, c, v)$y); sum(sapply(1:(length(x)-1), function(i) integrate(approxfun(x, row), x[i], x[i+1])$value)) };
      part <- function(from) { cuts <- c(from, y[y > from]); sum(sapply(1:(length(cuts)-1), function(j) integrate(Vectorize(strip), cuts[j], cuts[j+1])$value)) };
      cat(sprintf('%.12g ', c(part(y[1]), part(#{LINE}))))
    R
    all, above = out.split.map(&:to_f)
    assert_within 1e-9, all, subject.lumens
    assert_within 1e-9, above / all, subject.share_above(LINE)
  end
end
