# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../core/beam/comparison'

class WallTest < Miser::Test
  Wall = Miser::Beam::Wall

  def wall(columns: 9, rows: 5, width: 4.0, up: 1.0, down: 1.0, distance: 3.0, skip: ->(_, _) { false }, **rest)
    blank = { 'distance_m' => distance, 'columns' => columns, 'rows' => rows, 'width_m' => width, 'up_m' => up, 'down_m' => down }
    frame = Wall.new(blank)
    cells = rows.times.flat_map { |j| columns.times.map { |i| { 'id' => "r#{j}c#{i}", 'lux' => yield(frame.xs[i], frame.ys[j]) } unless skip[j, i] } }.compact
    Wall.new(blank.merge('cells' => cells, **rest.transform_keys(&:to_s)))
  end

  # 48 lx at 10 ft is 446 cd: common practice.
  def test_candela_from_lux
    w = wall(distance: 3.048) { 48.0 }
    assert_in_delta 446, w.candela(48.0, 0, 0), 0.5
    # Inverse square, and cos³ off the axis of a flat wall: at 45° a factor of 2^1.5.
    assert_in_delta 4 * w.candela(12.0, 0, 0), w.candela(48.0, 0, 0), 1e-9
    assert_in_delta 446 * (2**1.5), w.candela(48.0, 3.048, 0), 2
  end

  def test_flux_of_a_uniform_wall
    assert_within 1e-12, 20.0 * 4.0 * 2.0, wall { 20.0 }.lumens
  end

  # A small Lambertian source before a rectangle: Φ = π·I0·F, F four times the view
  # factor of a quarter (published in every text on radiation).
  def test_flux_of_a_lambertian_source
    d = 2.0
    i0 = 100.0
    w = wall(columns: 81, rows: 61, width: 4.0, up: 1.5, down: 1.5, distance: d) { |x, y| i0 * ((d / Math.sqrt((d**2) + (x**2) + (y**2)))**4) / (d**2) }
    a = 2.0 / d
    b = 1.5 / d
    quarter = ((a / Math.sqrt(1 + (a**2)) * Math.atan(b / Math.sqrt(1 + (a**2)))) + (b / Math.sqrt(1 + (b**2)) * Math.atan(a / Math.sqrt(1 + (b**2))))) / (2 * Math::PI)
    assert_within 1e-3, Math::PI * i0 * 4 * quarter, w.lumens
  end

  def bell(width, height, peak: 100.0, at: [0.0, 0.0]) = ->(x, y) { peak * Math.exp((-((x - at[0])**2) / (2 * (width**2))) - (((y - at[1])**2) / (2 * (height**2)))) }

  # A normal bell: half width 2√(2 ln 2)·σ, tenth width 2√(2 ln 10)·σ, flux 2π·σx·σy·E0.
  def test_widths_centroid_and_flux_of_a_bell
    w = wall(columns: 81, rows: 61, width: 6.0, up: 2.0, down: 2.0, &bell(0.6, 0.25, at: [0.3, -0.2]))
    assert_in_delta 0.3, w.centroid[0], 0.01
    assert_in_delta(-0.2, w.centroid[1], 0.01)
    half = w.extent(0.5)
    assert_within 0.02, 2 * Math.sqrt(2 * Math.log(2)) * 0.6, half[0]
    assert_within 0.02, 2 * Math.sqrt(2 * Math.log(2)) * 0.25, half[1]
    assert_within 0.02, 2 * Math.sqrt(2 * Math.log(10)) * 0.6, w.extent(0.1)[0]
    assert_within 0.01, 2 * Math::PI * 0.6 * 0.25 * 100, w.lumens
    assert_in_delta 0.5, wall(columns: 81, rows: 61, &bell(0.6, 0.25)).share_above(0.0), 0.03
  end

  def test_partial_grids_work_and_say_how_well
    full = wall(columns: 15, rows: 9, &bell(0.8, 0.4))
    part = wall(columns: 15, rows: 9, skip: ->(j, i) { (i + j).odd? }, &bell(0.8, 0.4))
    assert_within 0.1, full.lumens, part.lumens
    assert_within 1e-9, 0.03 * full.lumens, full.lumens_sigma
    assert_operator part.lumens_sigma, :>, (part.lumens - full.lumens).abs
    assert_operator wall(phone: true, &bell(0.8, 0.4)).lumens_sigma, :>, 0.25 * full.lumens
    empty = Wall.new('distance_m' => 3, 'columns' => 9, 'rows' => 5, 'width_m' => 4, 'up_m' => 1, 'down_m' => 1)
    refute_predicate empty, :any?
    assert_nil empty.peak
    assert_match(/distance is not entered/, assert_raises(ArgumentError) { Wall.new({}) }.message)
  end

  # Two lamps read the same in the centre; one lit the whole door: common practice.
  def test_one_hot_spot_reading_lies
    narrow = wall(columns: 31, rows: 21, &bell(0.4, 0.2, at: [0, -0.25]))
    wide = wall(columns: 31, rows: 21, &bell(1.0, 0.45, at: [0, -0.25]))
    compared = Miser::Beam::Comparison.new(narrow, wide, 0.0)
    assert_in_delta 1.0, compared.peak, 0.03
    assert_operator compared.light, :>, 3
    assert_operator compared.glare, :>, 2 * compared.light
    assert_match(/\AThe same peak, \d\.\d times the light on the wall, but \d+\.\d times the glare\. .*a worse headlamp/, compared.sentence)
    low = wall(columns: 31, rows: 21, &bell(1.0, 0.2, at: [0, -0.6]))
    assert_match(/More light where it is wanted/, Miser::Beam::Comparison.new(narrow, low, 0.0).sentence)
  end
end
