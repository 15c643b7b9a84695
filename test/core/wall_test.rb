# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../core/beam/comparison'
require_relative '../../core/beam/contour'
require_relative '../../core/beam/picture_pair'
require_relative '../../core/beam/steady'
require_relative '../../core/beam/wall_figures'

class WallTest < Miser::Test
  Wall = Miser::Beam::Wall

  def wall(columns: 9, rows: 5, width: 4.0, up: 1.0, down: 1.0, distance: 3.0, skip: ->(_, _) { false }, set: {}, **rest)
    blank = { 'distance_m' => distance, 'columns' => columns, 'rows' => rows, 'width_m' => width, 'up_m' => up, 'down_m' => down }
    frame = Wall.new(blank)
    cells = rows.times.flat_map do |j|
      columns.times.map do |i|
        next if skip[j, i]

        { 'id' => "r#{j}c#{i}", 'lux' => yield(frame.xs[i], frame.ys[j]) }
      end
    end.compact
    Wall.new(blank.merge('cells' => cells, **rest.transform_keys(&:to_s)), settings: Miser::Assumptions.new(set.transform_keys(&:to_s)))
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
    w = wall(columns: 81, rows: 61, width: 4.0, up: 1.5, down: 1.5,
      distance: d) { |x, y| i0 * ((d / Math.sqrt((d**2) + (x**2) + (y**2)))**4) / (d**2) }
    a = 2.0 / d
    b = 1.5 / d
    quarter = ((a / Math.sqrt(1 + (a**2)) * Math.atan(b / Math.sqrt(1 + (a**2)))) +
      (b / Math.sqrt(1 + (b**2)) * Math.atan(a / Math.sqrt(1 + (b**2))))) / (2 * Math::PI)
    assert_within 1e-3, Math::PI * i0 * 4 * quarter, w.lumens
  end

  def bell(width, height, peak: 100.0, at: [0.0, 0.0])
    ->(x, y) { peak * Math.exp((-((x - at[0])**2) / (2 * (width**2))) - (((y - at[1])**2) / (2 * (height**2)))) }
  end

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
    assert_within 1e-9, Math.hypot(0.03 * full.lumens, full.unresolved), full.lumens_sigma
    assert_operator part.lumens_sigma, :>, (part.lumens - full.lumens).abs
    assert_operator wall(phone: true, &bell(0.8, 0.4)).lumens_sigma, :>, 0.25 * full.lumens
    empty = Wall.new({ 'distance_m' => 3, 'columns' => 9, 'rows' => 5, 'width_m' => 4, 'up_m' => 1, 'down_m' => 1 })
    refute_predicate empty, :any?
    assert_nil empty.peak
    assert_match(/distance is not entered/, assert_raises(Miser::UnreadyWall) { Wall.new({}) }.message)
  end

  # Few marks: the ratio carries its doubt, and no verdict is given that it does not bear.
  def test_a_comparison_of_few_marks_says_how_well_it_knows
    few = ->(j, i) { i.odd? || j.odd? }
    old = wall(columns: 15, rows: 9, skip: few, &bell(0.8, 0.3, at: [0, -0.4]))
    new = wall(columns: 15, rows: 9, skip: few, &bell(0.9, 0.32, at: [0, -0.4]))
    compared = Miser::Beam::Comparison.new(old, new, 0.0)
    assert_operator compared.doubt, :>, 0.2
    assert_match(/ ± 0\.\d times the light on the wall, .*Too few marks are read to say more/, compared.sentence)
    bright = wall(columns: 15, rows: 9, skip: few) { |x, y| 40 * bell(0.9, 0.32, at: [0, -0.4])[x, y] }
    assert_match(/More light where/, Miser::Beam::Comparison.new(old, bright, 0.0).sentence)
    error = assert_raises(Miser::WallsApart) { Miser::Beam::Comparison.new(old, wall(phone: true, &bell(0.8, 0.3)), 0.0) }
    assert_match(/telephone/, error.message)
  end

  def test_every_figure_has_its_working
    figures = Miser::Beam::WallFigures.new(wall(skip: ->(j, i) { (i + j).odd? }, &bell(0.8, 0.4)), 0.1)
    Miser::Beam::WallFigures::NAMES.each do |name|
      figure = figures.public_send(name)
      assert_predicate figure, :known?
      assert(figure.working.inputs.all? { |i| i.value && i.origin }, name)
      refute_empty figure.working.source
    end
    assert_equal(%w[lux_meter_sigma lux_unread], figures.lumens.working.inputs.filter_map(&:assumption))
    assert_within 1e-9, Math.hypot(0.03, 0.01) * figures.candela.value, figures.candela.sigma
  end

  # Metamorphic: what is done to the wall is done to its figures, and to nothing else.
  def test_a_wall_turned_brightened_or_moved_turns_its_figures_alike
    light = bell(0.8, 0.3, at: [0.4, -0.2])
    of = lambda do |**rest, &lux|
      wall(columns: 21, rows: 13, **rest,
        &lux).then do |w|
        Miser::Beam::WallFigures.new(w,
          -0.1).then { |f| Miser::Beam::WallFigures::NAMES.to_h { |n| [n, f.public_send(n).value] } }
      end
    end
    plain = of.call(&light)
    mirrored = of.call { |x, y| light[-x, y] }
    brighter = of.call { |x, y| 3 * light[x, y] }
    # Twice as far, twice as large, a quarter as bright: the same lamp.
    farther = wall(columns: 21, rows: 13, width: 8.0, up: 2.0, down: 2.0,
      distance: 6.0) { |x, y| light[x / 2, y / 2] / 4 }.then { |w| Miser::Beam::WallFigures.new(w, -0.2) }
    plain.each do |name, value|
      assert_in_delta name == :centroid_x ? -value : value, mirrored[name], 1e-9 * value.abs.clamp(1.0, nil), "#{name} mirrored"
      assert_in_delta %i[candela lumens].include?(name) ? 3 * value : value, brighter[name], 1e-9 * value.abs.clamp(1.0, nil),
        "#{name} brightened"
      lengths = %i[candela lumens glare].include?(name) ? 1 : 2
      assert_in_delta lengths * value, farther.public_send(name).value, 1e-9 * value.abs.clamp(1.0, nil), "#{name} from twice as far"
    end
  end

  # Whatever is taken for granted is a setting, and turns what is said.
  def test_the_settings_of_the_beam_bite
    few = ->(j, i) { (i + j).odd? }
    narrow = bell(0.8, 0.3, at: [0, -0.2])
    wide = bell(0.88, 0.3, at: [0, -0.2])
    on = ->(set, light = narrow, **rest) { wall(columns: 15, rows: 31, set: set, **rest, &light) }
    assert_within 1e-9, 2 * on[{}, skip: few].unread_sigma, on[{ lux_unread: 1.0 }, skip: few].unread_sigma
    assert_equal [0.08, 0.5], [on[{ lux_meter_sigma: 0.08 }].meter_sigma, on[{ lux_phone_sigma: 0.5 }, phone: true].meter_sigma]
    assert_equal([true, false], [{}, { glare_share: 0.6 }].map { |set| Miser::Beam::WallFigures.new(on[set], -0.2).glaring? })
    said = ->(set) { Miser::Beam::Comparison.new(on[set], on[set, wide], 0.0).sentence }
    assert_match(/1\.1 times the light on the wall/, said[{ beam_alike: 0.02 }])
    assert_match(/the same light on the wall/, said[{ beam_alike: 0.2 }])
  end

  # A file's doubt is its own, and goes into what it is held against.
  def test_a_foretold_wall_carries_the_doubt_of_its_file
    file = Miser::Beam::Photometry.new(type: 'B', verticals: [-30.0, 30.0], horizontals: [-30.0, 30.0],
      candela: [[100.0, 100.0], [100.0, 100.0]])
    foretold = file.wall(Wall::USUAL, settings: Miser::Assumptions.new('photometry_sigma' => 0.2))
    assert_predicate foretold, :foretold?
    figure = Miser::Beam::WallFigures.new(foretold, 0.0).lumens
    assert_within 1e-3, 0.2 * figure.value, figure.sigma
    assert_includes figure.working.inputs.filter_map(&:assumption), 'photometry_sigma'
    read = Wall.filled(Wall::USUAL) { |x, y| foretold.at(x, y) }
    assert_match(/1\.0 ± 0\.2 times the peak, 1\.0 ± 0\.2 times the light/, Miser::Beam::Comparison.new(foretold, read, 0.0).beside)
  end

  # A line between two marks cuts the strip where it is: of a uniform wall a third lies above a third.
  def test_the_share_above_a_line_between_the_marks
    even = wall(rows: 5, up: 1.0, down: 1.0) { 7.0 }
    [[-1.0, 1.0], [1.0, 0.0], [0.0, 0.5], [0.1, 0.45], [-0.33, 0.665], [3.0, 0.0],
      [-3.0, 1.0]].each { |line, share| assert_in_delta share, even.share_above(line), 1e-12 }
  end

  # Read from twice as far, the same beam is a quarter as bright and twice as wide; cell by cell the walls differ by nothing.
  def test_walls_read_from_two_distances_are_one_beam
    beam = lambda { |x, y, d|
      400.0 * Math.exp(-(((x / d)**2) / 0.02) - (((y / d)**2) / 0.004)) / (d**2) * ((d / Math.sqrt((d**2) + (x**2) +
          (y**2)))**3)
    }
    near = wall(columns: 41, rows: 21, width: 2.4, up: 0.5, down: 0.9, distance: 3.0) { |x, y| beam[x, y, 3.0] }
    far = wall(columns: 41, rows: 21, width: 4.0, up: 1.0, down: 1.0, distance: 6.0) { |x, y| beam[x, y, 6.0] }
    compared = Miser::Beam::Comparison.new(near, far, 0.0)
    assert_in_delta 1.0, compared.peak, 0.02, 'peaks are compared in candela'
    assert_in_delta 1.0, compared.light, 0.02
    assert_operator compared.shared.difference.flatten.map(&:abs).max, :<, 0.03 * far.peak[:lux]
    aside = wall(up: 0.0, down: 1.0, &bell(0.4, 0.2))
    above = Wall.new({ 'distance_m' => 4, 'columns' => 9, 'rows' => 5, 'width_m' => 4, 'up_m' => 0, 'down_m' => 0.1,
                       'cells' => [{ 'id' => 'r0c0', 'lux' => 3 }, { 'id' => 'odd', 'lux' => 9 }] })
    assert_equal 1, above.read_count, 'a cell that is no mark of the wall does not count'
    assert_operator Miser::Beam::SharedWall.new(aside, above).second.frame[5], :<=, 0.1
  end

  # A cut-off between two rows may lie anywhere between them: of a uniform light under it half a gap's lies above, and
  # its doubt so wide that nothing is called glare which the marks made.
  def test_a_sharp_cut_off_between_two_rows
    sharp = ->(rows) { wall(columns: 15, rows: rows, up: 0.4, down: 0.8) { |_, y| y < -0.1 ? 60.0 : 1.0 } }
    figures = ->(rows, line = -0.1) { Miser::Beam::WallFigures.new(sharp[rows], line) }
    coarse = figures[9]
    truth = 0.5 / (0.5 + (60 * 0.7))
    assert_operator coarse.glare.value, :>, 1.5 * truth
    assert_in_delta truth, coarse.glare.value, 2 * coarse.glare.sigma
    refute_predicate coarse, :glaring?
    assert_operator figures[41].glare.sigma, :<, coarse.glare.sigma / 2
    assert_match(/One more row of marks, at the cut-off, would bring the share above it from ± \d+ to ± \d+ %/, coarse.more_rows)
    assert_nil figures[41, 0.2].more_rows
    # By hand: a step of 59 lx over 4 m in a gap of 0.15 m, at its middle.
    gap = 0.15
    step = 59 * 4.0 * gap / Math.sqrt(12)
    assert_in_delta step, sharp[9].unresolved, 0.4 * step, 'and what its neighbours may bend by'
    even = wall(columns: 15, rows: 9, up: 0.4, down: 0.8) { |_, y| 30 + (20 * y) }
    assert_in_delta 0.0, even.share_above_sigma(0.03), 0.02, 'an even slope has no step'
  end

  # Read just over the cut-off, one more row tells nearly all of it; entered and not read, it is not there.
  def test_one_more_row_at_the_cut_off
    light = ->(y) { y < -0.1 ? 60.0 : 1.0 }
    plain = wall(columns: 9, rows: 9, up: 0.4, down: 0.8) { |_, y| light[y] }
    document = { 'distance_m' => 3.0, 'columns' => 9, 'rows' => 9, 'width_m' => 4.0, 'up_m' => 0.4, 'down_m' => 0.8, 'extra_row_m' => 0.095,
                 'cells' => 9.times.flat_map { |j| 9.times.map { |i| { 'id' => "r#{j}c#{i}", 'lux' => light[0.4 - (0.15 * j)] } } } }
    assert_equal plain.lumens, Wall.new(document).lumens
    assert_equal 90, Wall.new(document).marks.size, 'the hand reads it last'
    assert_in_delta(-0.095, Wall.new(document).marks.last.y)
    read = Wall.new(document.merge('cells' => document['cells'] + Array.new(9) { |i| { 'id' => "r9c#{i}", 'lux' => light[-0.095] } }))
    assert_equal [0, 1, 2, 3, 9, 4, 5, 6, 7, 8], read.row_numbers
    truth = 4.0 * (0.5 + (60 * 0.7))
    assert_in_delta truth, read.lumens, 2 * read.unresolved
    assert_operator read.unresolved, :<, plain.unresolved
    figures = [plain, read].map { |w| Miser::Beam::WallFigures.new(w, -0.1).glare }
    assert_operator figures.last.sigma, :<, figures.first.sigma / 3
    figures.each { |f| assert_in_delta 0.5 / 42.5, f.value, 2 * f.sigma }
    assert_equal [1.0, 60.0], [read.at(0, -0.05), read.at(0, -0.3)]
    assert_within 1e-9, 30.5, read.at(0, -0.1475)
    assert_in_delta 1.0, Miser::Beam::Comparison.new(plain, read, -0.1).light, 0.05, 'the other wall has no such row'
  end

  # A cone's lines are circles: radius from the level, and a hole is a ring of its own.
  def test_contours_of_a_cone_and_of_a_crater
    places = Array.new(41) { |i| (i - 20) / 10.0 }
    cone = places.map { |y| places.map { |x| 10 - (5 * Math.hypot(x, y)) } }
    rings = Miser::Beam::Contour.new(places, places, cone).rings(4.0)
    assert_equal 1, rings.size
    rings[0].each { |x, y| assert_in_delta 1.2, Math.hypot(x, y), 0.01 }
    crater = places.map { |y| places.map { |x| 10 - (5 * (Math.hypot(x, y) - 1).abs) } }
    assert_equal 2, Miser::Beam::Contour.new(places, places, crater).rings(8.0).size
    assert_empty Miser::Beam::Contour.new(places, places, cone).rings(10.5)
    whole = Miser::Beam::Contour.new([0.0, 1.0], [1.0, 0.0], [[5.0, 5.0], [5.0, 5.0]]).rings(1.0)
    assert_equal [[0.0, 0.0], [0.0, 1.0], [1.0, 0.0], [1.0, 1.0]], whole.flatten(1).sort.uniq,
      'a wall bright throughout is bounded by its rim'
    assert_equal [0.5, 1.0, 2.0, 5.0, 10.0, 20.0], Miser::Beam::Contour.levels(48.0)
    assert_empty Miser::Beam::Contour.levels(0.0)
  end

  # Property: whatever the light, every ring closes, and lies between a brighter and a darker cell.
  def test_every_ring_closes
    random = Random.new(4)
    20.times do
      xs = Array.new(7, &:to_f)
      ys = Array.new(5) { |j| -j.to_f }
      grid = ys.map { xs.map { random.rand(0..6).to_f } }
      [0.0, 1.0, 2.5, 3.0, 6.0].each do |level|
        area = Miser::Beam::Contour.new(xs, ys,
          grid).rings(level).sum { |ring| ring.zip(ring.rotate).sum { |(x1, y1), (x2, y2)| ((x1 * y2) - (x2 * y1)) / 2 } }
        assert_operator area.abs, :<=, 24.0 + 1e-9
        assert_operator area, :<=, 1e-9, 'inside lies on one hand all the way'
        assert_in_delta 24.0, area.abs, 1e-9 if grid.flatten.min >= level
      end
    end
  end

  # One stop is a doubling of light: ISO, time and the square of the aperture count alike.
  def test_stops_between_two_photographs
    locked = { 'iso' => 400, 'shutter_s' => 1 / 60.0, 'aperture' => 2.8 }
    pair = ->(**after) { Miser::Beam::PicturePair.new(locked, locked.merge(after.transform_keys(&:to_s)).compact) }
    assert_in_delta 0.0, pair[].stops, 1e-12
    assert_in_delta 1.0, pair[iso: 800].stops, 1e-12
    assert_in_delta(-2.0, pair[aperture: 5.6].stops, 1e-12)
    assert_in_delta 0.0, pair[iso: 200, shutter_s: 1 / 30.0].stops, 1e-12
    assert_predicate pair[shutter_s: (2**0.3) / 60.0 * 0.9999], :comparable?
    refused = pair[shutter_s: (2**0.31) / 60.0]
    refute_predicate refused, :comparable?
    assert_match(%r{0\.3 stops more \(ISO 400, 1/60 s, f/2\.8, then ISO 400, 1/48 s}, refused.words)
    silent = pair[aperture: nil]
    refute_predicate silent, :comparable?
    assert_nil silent.stops
    assert_match(/the picture after does not say its aperture/, silent.words)
    assert_match(/flash/, pair[flash: true].notes.first)
    burnt = lambda { |share, **own|
      Miser::Beam::PicturePair.new(locked, locked.merge('burnt' => share),
        settings: Miser::Assumptions.new(own.transform_keys(&:to_s))).notes
    }
    assert_match(/\A5 % of the picture after is burnt out/, burnt[0.05].first)
    assert_empty burnt[0.02]
    assert_empty burnt[0.05, photo_burnt: 0.1]
    wide_apart = Miser::Beam::PicturePair.new(locked, locked.merge('iso' => 800), settings: Miser::Assumptions.new('photo_stops' => 1.0))
    assert_predicate wide_apart, :comparable?
    assert_match(/not shown at one size/,
      Miser::Beam::PicturePair.new(locked.merge('focal_mm' => 4.2), locked.merge('focal_mm' => 8.4)).notes.first)
  end

  def test_a_meter_held_still_and_one_still_moving
    steady = Miser::Beam::Steady.new(Miser::Assumptions.new('steady_move_s' => 1.0, 'steady_hold_s' => 0.8))
    taken = (0..40).filter_map { |i| steady.take(i * 0.1, i < 20 ? 5.0 + i : 30.0 + (0.1 * (i % 2))) }
    assert_in_delta 30.05, taken.first, 0.05
    moving = Miser::Beam::Steady.new(Miser::Assumptions.new('steady_move_s' => 0.0))
    assert_empty((0..60).filter_map { |i| moving.take(i * 0.1, 5.0 * (1.02**i)) })
    dark = Miser::Beam::Steady.new(Miser::Assumptions.new('steady_move_s' => 0.0))
    assert((0..20).any? { |i| dark.take(i * 0.1, 0.01 * (i % 3)) }, 'a dark wall is still, whatever its last digit does')
    assert_equal([0.0, 0.0, 0.0, 12.5, -3.0], [-0.1, -1.0, 0.0, 12.5, -3.0].map { |lux| Miser::Beam::Steady.light(lux) },
      'farther under nothing the meter wants zeroing: that is shown, not hidden')
  end

  # Two lamps read the same in the centre; one lit the whole door: common practice.
  def test_one_hot_spot_reading_lies
    narrow = wall(columns: 31, rows: 21, &bell(0.4, 0.2, at: [0, -0.25]))
    wide = wall(columns: 31, rows: 21, &bell(1.0, 0.45, at: [0, -0.25]))
    compared = Miser::Beam::Comparison.new(narrow, wide, 0.0)
    assert_in_delta 1.0, compared.peak, 0.03
    assert_operator compared.light, :>, 3
    assert_operator compared.glare, :>, 2 * compared.light
    assert_match(/\AThe same peak, \d\.\d (± \d\.\d )?times the light on the wall, but \d+\.\d (± \d+\.\d )?times the glare\./,
      compared.sentence)
    assert_match(/a worse headlamp/, compared.sentence)
    low = wall(columns: 31, rows: 21, &bell(1.0, 0.2, at: [0, -0.6]))
    assert_match(/More light where it is wanted/, Miser::Beam::Comparison.new(narrow, low, 0.0).sentence)
  end
end
