# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../formats/lm63'

# Files written by hand from the standard's description.
class Lm63Test < Miser::Test
  Lm63 = Miser::Formats::Lm63

  GOOD = <<~IES
    IESNA:LM-63-2002
    [TEST] by hand
    [LUMINAIRE] made up
    TILT=NONE
    1 1000 2 3 3 2 2
    0 0 0
    1 1 20
    -10 0 10
    -20 0 20
    10 50 10
    20 100 20
    10 50 10
  IES

  def test_a_table_by_hand
    file = Lm63.read(GOOD)
    assert_equal 'B', file.type
    assert_in_delta 200, file.peak, 1e-9
    assert_in_delta 200, file.intensity(0, 0, 5.0), 1e-9
    assert_in_delta 120, file.intensity(0, 5.0 * Math.tan(5 * Math::PI / 180), 5.0), 1e-6, 'half way between 200 and 40'
    assert_in_delta 150, file.intensity(5.0 * Math.tan(10 * Math::PI / 180), 0, 5.0), 1e-6
    assert_in_delta 0, file.intensity(100, 0, 5.0), 1e-9, 'outside the table'
    assert_in_delta 200 / 25.0, file.lux(0, 0, 5.0), 1e-9
    assert_in_delta file.lux(0, 0, 5.0), file.lux(0, -0.05, 5.0, down: 0.01), 2e-3, 'aimed one per cent down the peak lies lower'
  end

  def test_both_years_any_line_breaks_and_the_other_types
    assert_in_delta 200, Lm63.read(GOOD.sub('2002', '1995')).peak, 1e-9
    assert_in_delta 200, Lm63.read(GOOD.sub('TILT=NONE', "TILT=INCLUDE\n1\n3\n0 45 90\n1 .9 .8")).peak, 1e-9,
      'the lamp’s tilt table is passed over'
    head, body = GOOD.split("TILT=NONE\n")
    assert_in_delta 200, Lm63.read("#{head}TILT=NONE\r\n#{body.split.join("\r\n")}").peak, 1e-9
    round = GOOD.sub('3 3 2 2', '3 1 1 2').sub("-10 0 10\n-20 0 20\n10 50 10\n20 100 20\n10 50 10", "0 10 20\n0\n100 50 0")
    file = Lm63.read(round)
    assert_equal 'C', file.type
    [[0.5, 0.0], [0.0, 0.5],
      [-0.3, 0.4]].each { |x, y| assert_in_delta file.intensity(0.5, 0.0, 5.0), file.intensity(x, y, 5.0), 1e-6, 'the same all round' }
    half = GOOD.sub('3 3 2 2', '3 2 3 2').sub("-20 0 20\n10 50 10\n20 100 20\n10 50 10", "0 20\n20 100 20\n10 50 10")
    assert_in_delta Lm63.read(half).intensity(0.4, 0, 5.0), Lm63.read(half).intensity(-0.4, 0, 5.0), 1e-9, 'one half stands for both'
  end

  # The standard's symmetries: a table of a part of the directions stands for the rest. Each is held against its own full table.
  def test_part_of_a_table_stands_for_the_rest_by_symmetry
    table = lambda do |angles, &candela|
      rows = angles.map { |c| [0, 20, 40].map { |v| candela[c, v] }.join(' ') }.join("\n")
      Lm63.read(GOOD.split('1 1000').first + "1 1000 1 3 #{angles.size} 1 2\n0 0 0\n1 1 20\n0 20 40\n#{angles.join(' ')}\n#{rows}\n")
    end
    quarter = ->(c, v) { 100 - v + (0.3 * [c % 180, 180 - (c % 180)].min) }
    halves = ->(c, v) { 100 - v + (0.2 * [c, 360 - c].min) }
    across = ->(c, v) { 100 - v + (0.2 * (c.between?(90, 270) ? c : (180 - c) % 360)) }
    all = (0..360).step(30).to_a
    { (0..90).step(30).to_a => quarter, (0..180).step(30).to_a => halves, (90..270).step(30).to_a => across }.each do |part, law|
      folded, whole = [part, all].map { |angles| table.call(angles, &law) }
      assert_equal 'C', folded.type
      [[0.4, 0.3], [-0.4, 0.3], [-0.4, -0.3], [0.4, -0.3], [0.0, 0.5], [-0.5, 0.0]].each do |x, y|
        assert_operator folded.intensity(x, y, 1.5), :>, 40, "#{part.minmax} at #{x}, #{y}"
        assert_in_delta whole.intensity(x, y, 1.5), folded.intensity(x, y, 1.5), 1e-9, "#{part.minmax} at #{x}, #{y}"
      end
      assert_within 1e-9, whole.flux, folded.flux
    end
  end

  # Closed forms: even light I all round is 4πI, a Lambertian source I₀·cosθ over its half is πI₀, whichever way the goniometer turned.
  def test_the_light_in_a_table_against_the_closed_form
    whole = lambda { |type, verticals, horizontals, &law|
      Miser::Beam::Photometry.new(type: type, verticals: verticals, horizontals: horizontals,
        candela: horizontals.map { |h| verticals.map { |v| law[h, v] } })
    }
    degrees = ->(from, to, step) { (from..to).step(step).map(&:to_f) }
    rad = Math::PI / 180
    assert_within 1e-9, 4 * Math::PI * 10, whole.call('C', degrees[0, 180, 15], [0.0]) { 10.0 }.flux
    assert_within 1e-9, 4 * Math::PI * 10, whole.call('C', degrees[0, 180, 15], degrees[0, 90, 45]) { 10.0 }.flux
    assert_within 1e-9, 2 * Math::PI * 10, whole.call('A', degrees[-90, 90, 15], degrees[-90, 90, 15]) { 10.0 }.flux
    assert_within 1e-9, 2 * Math::PI * 10, whole.call('B', degrees[-90, 90, 15], degrees[0, 90, 15]) { 10.0 }.flux
    assert_within 1e-4, Math::PI * 10, whole.call('C', degrees[0, 90, 1], [0.0]) { |_, v| 10 * Math.cos(v * rad) }.flux
    %w[A B].each do |type|
      assert_within 1e-4, Math::PI * 10,
        whole.call(type, degrees[-90, 90, 1], degrees[-90, 90, 1]) { |h, v| 10 * Math.cos(h * rad) * Math.cos(v * rad) }.flux
    end
  end

  def test_malformed_files_name_the_line
    { '' => /line 1/, GOOD.sub('IESNA', 'NOPE') => /line 1/,
      GOOD.sub('TILT=NONE', 'TILT=lamp.tlt') => /line 4: only TILT=NONE and TILT=INCLUDE/,
      GOOD.sub('TILT=NONE', "TILT=INCLUDE\n1\n3\n0 90 45\n1 1 1") => /line 7: tilt angles must rise/,
      GOOD.sub("TILT=NONE\n", '') => /no TILT/, GOOD.sub('20 100 20', '20 x 20') => /line 11: “x” is no number/,
      GOOD.sub("10 50 10\n", '').sub("10 50 10\n", '') => /ends where candela/,
      GOOD.sub('-10 0 10', '-10 10 0') => /line 8: vertical angles must rise/, GOOD.sub('3 3 2 2', '3 3 7 2') => /line 5: photometric type/,
      GOOD.sub('3 3 2 2', '2.5 3 2 2') => /line 5: the number of verticals/, GOOD.sub('3 3 2 2', '99999 3 2 2') => /line 5/,
      GOOD.sub('3 3 2 2', '1000 1000 2 2') => /line 5: 1000000 angles are more/,
      GOOD.sub('20 100 20', '20 -100 20') => /line 11: candela must not be negative/, "\xFF\xFE" => /line 1/ }
      .each { |text, words| assert_match words, assert_raises(Lm63::Malformed, text[0, 60]) { Lm63.read(text) }.message }
  end

  # Property: a wall measured, written out and read again lays the same light on it.
  def test_a_wall_out_and_in_again
    frame = { 'distance_m' => 5, 'columns' => 21, 'rows' => 13, 'width_m' => 3.0, 'up_m' => 0.4, 'down_m' => 0.8 }
    blank = Miser::Beam::Wall.new(frame)
    cells = blank.ys.each_index.flat_map do |j|
      blank.xs.each_index.map do |i|
        { 'id' => "r#{j}c#{i}", 'lux' => 40 * Math.exp(-(blank.xs[i]**2) - (8 * ((blank.ys[j] + 0.2)**2))) }
      end
    end
    wall = Miser::Beam::Wall.new(frame.merge('cells' => cells))
    text = Lm63.write(wall, name: "Lamp; <x>\n")
    assert_equal 1, text.scan('[LUMINAIRE] Lamp_ _x__').size
    file = Lm63.read(text)
    assert_nil file.watts, 'a wall knows no watts: not stated is not nothing'
    wall.ys.each_index { |j| wall.xs.each_index { |i| assert_in_delta wall.grid[j][i], file.lux(wall.xs[i], wall.ys[j], 5.0), 0.15 } }
    again = file.wall(frame)
    assert_within 2e-3, wall.lumens, again.lumens
    assert_within 1e-3, wall.peak[:candela], again.peak[:candela]
  end
end
