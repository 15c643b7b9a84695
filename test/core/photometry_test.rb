# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../core/beam/photometry'
require_relative '../../core/beam/wall_figures'

# One lamp, tabulated whichever way the goniometer turned, is one lamp.
class PhotometryTest < Miser::Test
  include Miser::Beam

  RAD = Math::PI / 180
  # Wider than the beam below, finely marked.
  WALL = { 'distance_m' => 4.0, 'columns' => 41, 'rows' => 21, 'width_m' => 4.0, 'up_m' => 1.2, 'down_m' => 1.6 }.freeze

  # A lopsided beam in candela, by direction as a unit vector: x to the right, y up, z ahead.
  def beam(x, y, z)
    across = Math.atan2(x, z) / RAD
    up = Math.asin(y) / RAD
    (9000 * Math.exp(-(((across - 2) / 8)**2) - (((up + 2) / 3)**2))) + (1500 * Math.exp(-(((across + 6) / 12)**2) - (((up + 4) / 5)**2)))
  end

  def table(type, verticals, horizontals)
    candela = horizontals.map { |h| verticals.map { |v| beam(*direction(type, h * RAD, v * RAD)) } }
    Photometry.new(type: type, verticals: verticals, horizontals: horizontals, candela: candela)
  end

  # Unit vectors by IES goniometer types, from memory of LM-75: A turns about a vertical axis, B about a horizontal one, C about the beam.
  def direction(type, across, up)
    case type
    when 'A' then [Math.cos(up) * Math.sin(across), Math.sin(up), Math.cos(up) * Math.cos(across)]
    when 'B' then [Math.sin(across), Math.cos(across) * Math.sin(up), Math.cos(across) * Math.cos(up)]
    else [Math.sin(up) * Math.cos(across), Math.sin(up) * Math.sin(across), Math.cos(up)]
    end
  end

  def steps(from, to, by) = (from..to).step(by).map(&:to_f)

  def tables
    @tables ||= { 'A' => table('A', steps(-30, 25, 0.5), steps(-40, 40, 0.5)), 'B' => table('B', steps(-30, 25, 0.5), steps(-40, 40, 0.5)),
                  'C' => table('C', steps(0, 45, 0.5), steps(0, 360, 2.5)) }
  end

  def test_three_ways_to_turn_one_lamp_lay_one_wall
    walls = tables.transform_values { |t| t.wall(WALL) }
    most = walls['A'].peak[:lux]
    walls['A'].ys.each_index do |j|
      walls['A'].xs.each_index do |i|
        wanted = walls['A'].grid[j][i]
        %w[B C].each { |type| assert_in_delta wanted, walls[type].grid[j][i], 0.006 * most, "#{type} at row #{j}, column #{i}" }
      end
    end
  end

  # Off the axis straight from the definition: candela that way, over the square of the way, by the cosine at the wall.
  def test_lux_straight_from_the_definition
    [[0.0, 0.0], [0.7, -0.4], [-1.3, 0.6], [1.6, -1.4]].each do |x, y|
      way = Math.sqrt((x**2) + (y**2) + 16.0)
      wanted = beam(x / way, y / way, 4.0 / way) / (way**2) * (4.0 / way)
      tables.each { |type, t| assert_in_delta wanted, t.lux(x, y, 4.0), 0.015 * wanted.abs.clamp(1.0, nil), type }
    end
  end

  # What the table holds falls on a wall that catches all of it: two integrals over different variables.
  def test_the_light_of_the_table_is_the_light_on_a_wall_that_catches_it_all
    wide = WALL.merge('columns' => 161, 'rows' => 81, 'width_m' => 6.6, 'up_m' => 1.8, 'down_m' => 2.2)
    on_wall = Wall.new(wide).then { |w| integral(w, tables['A']) }
    tables.each_value { |t| assert_within 4e-3, on_wall, t.flux }
  end

  def integral(wall, photometry)
    sums = wall.ys.each_with_index.sum do |y, j|
      wall.xs.each_with_index.sum do |x, i|
        photometry.lux(x, y,
          wall.distance) * [j.zero?, j == wall.rows - 1, i.zero?,
            i == wall.columns - 1].count(true).then { |edges| 0.5**edges }
      end
    end
    sums * (wall.xs[1] - wall.xs[0]) * (wall.ys[0] - wall.ys[1])
  end

  # Aimed down by a share of the distance, the pattern lies so much lower.
  def test_aimed_down_it_lies_lower
    steady = tables['B'].wall(WALL)
    down = tables['B'].wall(WALL, down: 0.02)
    assert_in_delta steady.centroid[1] - 0.08, down.centroid[1], 0.006
    assert_in_delta steady.centroid[0], down.centroid[0], 0.006
  end
end
