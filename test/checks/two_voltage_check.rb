# frozen_string_literal: true

require_relative '../test_helper'

# Two-voltage tests and carried draws over lamps nobody made, their currents written out afresh here.
class TwoVoltageCheck < Miser::Test
  LAWS = {
    'driver' => ->(i, v0, v) { i * v0 / v }, 'regulated' => ->(i, _, _) { i }, 'filament' => ->(i, v0, v) { i * ((v / v0)**0.55) },
    'heater' => ->(i, v0, v) { i * v / v0 }
  }.freeze
  RUNS = 4000
  SIZES = { 'under 0.2 A' => 0.2, '0.2 to 1 A' => 1.0, 'over 1 A' => 99.0 }.freeze

  # Copies stray from their law; strings have forward volts of their own.
  def lamp(key, random)
    return (forward = random.rand(5.0..9.5)) && ->(i, v0, v) { [i * (v - forward) / (v0 - forward), 0].max } if key == 'resistor'

    stray = 0.05 * gauss(random)
    ->(i, v0, v) { LAWS.fetch(key).call(i, v0, v) * ((v / v0)**stray) }
  end

  # A bench meter: a gain of its own for both readings, and a last digit of 10 mA.
  def read(amps, gain, random) = [((amps * gain) + (0.005 * gauss(random))).round(2), 0.01].max

  def tested(key, random)
    amps = 0.05 * (100**random.rand)
    low = random.rand(11.8..12.6)
    high = low + random.rand(0.8..2.2)
    draws = lamp(key, random)
    gain = 1 + (0.012 * gauss(random))
    read_at = ->(v) { [v + (0.02 * gauss(random)), read(draws.call(amps, low, v), gain, random)] }
    [Miser::Draw::TwoVoltageTest.new(read_at.call(low), read_at.call(high)), amps]
  end

  def test_a_law_that_is_named_is_seldom_wrong
    random = Random.new(21)
    rows = Hash.new { |h, k| h[k] = [0, 0, 0] }
    RUNS.times do
      key = [*LAWS.keys, 'resistor'].sample(random: random)
      test, amps = tested(key, random)
      row = rows[SIZES.find { |_, most| amps < most }.first]
      row[0] += 1
      row[1] += 1 if test.named?
      row[2] += 1 if test.named? && test.law != key
    end
    rows.each { |size, (all, named, wrong)| puts format('two-voltage tests, %s: %d, named %d, wrong %d', size, all, named, wrong) }
    named, wrong = rows.values.map { |r| r.drop(1) }.transpose.map(&:sum)
    assert_operator wrong, :<=, 0.05 * named
    assert_operator rows['over 1 A'][1], :>, 0.6 * rows['over 1 A'][0], 'a meter that never tells is no use'
    assert_operator rows['under 0.2 A'][1], :<, 0.3 * rows['under 0.2 A'][0]
  end

  # LEDs read once on the bench and carried to running volts, of whatever law: 2σ holds.
  def test_a_draw_of_unknown_law_is_within_its_doubt
    random = Random.new(8)
    settings = Miser::Assumptions.new
    inside = Array.new(RUNS) do
      key = %w[driver driver driver regulated regulated resistor].sample(random: random)
      amps = 0.1 * (30**random.rand)
      volts = random.rand(11.9..12.9)
      draws = lamp(key, random)
      shown = read(amps, 1 + (0.012 * gauss(random)), random)
      reading = Miser::Draw::Reading.new({ 'id' => 'r', 'kind' => 'settled', 'amps' => shown, 'volts' => volts }, {}, settings)
      load = Miser::Draw::Load.new(id: 'x', name: 'LED', document: {}, readings: [reading], settings: settings, fallback_law: 'driver')
      (load.amps(14.0) - draws.call(amps, volts, 14.0)).abs <= 2 * load.sigma(14.0)
    end
    assert_operator inside.count(true), :>=, 0.93 * RUNS
  end
end
