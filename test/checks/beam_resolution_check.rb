# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../core/beam/wall_figures'

# Beams whose light is known at every point, read at the marks of a grid with a meter that is off
# and a hand that is not quite square: every figure that is stated against the truth.
class BeamResolutionCheck < Miser::Test
  Wall = Miser::Beam::Wall
  EACH = 10
  FINE = [61, 181].freeze

  # lux at x, y and where its cut-off lies, m: a sharp edge (some millimetres to two centimetres soft), the same rising to
  # one side as dipped beams do, and a soft bell.
  def beams
    { 'sharp' => ->(r) { edged(r, 0.0) }, 'sharp, rising to one side' => ->(r) { edged(r, 0.27) }, 'soft' => ->(r) { bell(r) } }
  end

  def edged(random, rise)
    edge, soft, wide, deep, stray = [-0.15..0.05, 0.004..0.02, 0.5..0.9, 0.15..0.35, 0.01..0.04].map { |range| random.rand(range) }
    light = lambda do |x, y|
      over = y - edge - (rise * [x, 0.0].max)
      below = over.negative? ? Math.exp(over / deep) : 1.0
      60 * Math.exp(-((x / wide)**2) / 2) * ((below / (1 + Math.exp((over / soft).clamp(-60,
        60)))) + (stray * Math.exp(-((over / 0.3)**2) / 2)))
    end
    [light, edge]
  end

  def bell(random)
    at, wide, high = [-0.3..-0.1, 0.5..0.9, 0.2..0.4].map { |range| random.rand(range) }
    [->(x, y) { 60 * Math.exp(-((x / wide)**2) / 2) * Math.exp(-(((y - at) / high)**2) / 2) }, at + high]
  end

  def frame(columns, rows, random)
    off = random.rand(-0.1..0.1)
    { 'distance_m' => 5.0, 'columns' => columns, 'rows' => rows, 'width_m' => 3.2, 'up_m' => 0.4 + off, 'down_m' => 0.8 - off }
  end

  # Where the light through the brightest mark falls to a share of what was read there, looked for in small steps.
  def reach(light, wall, share, gain)
    peak = wall.peak
    limit = peak[:lux] * share / gain
    [[1, 0, wall.xs.minmax], [0, 1, wall.ys.minmax]].map do |dx, dy, (low, high)|
      [-1, 1].sum do |way|
        steps = (0..8000).find { |k| light[peak[:x] + (dx * way * k / 2000.0), peak[:y] + (dy * way * k / 2000.0)] < limit }
        edge = (dx.zero? ? peak[:y] : peak[:x]) + (way * (steps || 8000) / 2000.0)
        (edge.clamp(low, high) - (dx.zero? ? peak[:y] : peak[:x])).abs
      end
    end
  end

  # @return [Hash{Symbol=>Boolean}] of each figure, whether the truth lies within twice its doubt
  def judged(light, line, frame, random)
    gain = 1 + (0.03 * gauss(random))
    wall = Wall.filled(frame) { |x, y| light[x, y] * gain * (1 + (0.01 * gauss(random))) }
    truth = Wall.filled(frame.merge('columns' => FINE[0], 'rows' => FINE[1])) { |x, y| light[x, y] }
    figures = Miser::Beam::WallFigures.new(wall, line)
    peak = wall.peak
    true_of = { candela: truth.candela(light[peak[:x], peak[:y]], peak[:x], peak[:y]), lumens: truth.lumens, glare: truth.share_above(line),
                centroid_x: truth.centroid[0], centroid_y: truth.centroid[1] }
    { half: 0.5, tenth: 0.1 }.each do |name, share|
      true_of.update(%i[w h].map do |s|
        :"#{name}_#{s}"
      end.zip(reach(light, wall, share, gain)).to_h)
    end
    within = true_of.to_h do |name, value|
      figure = figures.public_send(name)
      [name, (figure.value - value).abs <= (2 * figure.sigma) + 1e-3]
    end
    [within, figures.glaring? && true_of[:glare] < wall.settings[:glare_share], figures.glare.sigma]
  end

  def test_every_stated_figure_is_within_its_doubt
    random = Random.new(17)
    worst = Hash.new { |h, k| h[k] = [] }
    false_glare = 0
    beams.each do |name, beam|
      Wall::GRIDS.each do |columns, rows|
        runs = Array.new(EACH) { judged(*beam.call(random), frame(columns, rows, random), random) }
        shares = runs.first.first.keys.to_h { |figure| [figure, runs.count { |within, *| within[figure] } / EACH.to_f] }
        shares.each { |figure, share| worst[figure] << share }
        false_glare += runs.count { |r| r[1] }
        puts format('  %-26s %2d × %2d: glare ± %4.1f %%, within 2σ %s, false glare %d', name, columns, rows, runs.sum { |r| r[2] } / EACH * 200,
          shares.map { |f, s| format('%s %.0f', f, s * 100) }.join(' '), runs.count { |r| r[1] })
      end
    end
    worst.each { |figure, list| assert_operator list.sum / list.size, :>=, 0.93, figure }
    assert_equal 0, false_glare
  end
end
