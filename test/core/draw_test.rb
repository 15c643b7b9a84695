# frozen_string_literal: true

require_relative '../test_helper'

class DrawTest < Miser::Test
  include Miser::Draw

  # Worked figures of the trade, common practice.
  def test_a_bench_reading_carried_to_running_volts
    assert_in_delta 3.40, Filament.new(volts: 12.5, amps: 3.19).current(14.0), 0.005
    assert_in_delta 1.61, Driver.new(volts: 12.5, amps: 1.80).current(14.0), 0.005
    assert_in_delta 39.875, Filament.new(volts: 12.5, amps: 3.19).watts(12.5), 1e-9
    assert_in_delta 52.125, Filament.new(volts: 12.5, amps: 4.17).watts(12.5), 1e-9
    assert_in_delta 17.4, 39.875 - Driver.new(volts: 12.5, amps: 1.80).watts(12.5), 0.03
    assert_in_delta 29.6, 52.125 - Driver.new(volts: 12.5, amps: 1.80).watts(12.5), 0.03
  end

  def test_each_law_below_and_above_its_threshold
    string = Resistor.new(volts: 12.8, amps: 0.12, forward_v: 7.0)
    assert_equal 0.0, string.current(6.9)
    assert_in_delta 0.06, string.current(9.9), 1e-9
    assert_equal 0.0, Driver.new(volts: 13.5, amps: 1.0, min_v: 9).current(8.9)
    assert_in_delta 1.0, Regulated.new(volts: 13.5, amps: 1.0, min_v: 9).current(16), 1e-9
    assert_in_delta 2.0, Heater.new(volts: 12, amps: 1).current(24), 1e-9
    assert_nil Heater.new(volts: 12, amps: 1).light(12, of: 13)
    assert_raises(Miser::UnknownName) { Law.named('magic') }
    assert_raises(ArgumentError) { Filament.new(volts: 0, amps: 1) }
  end

  # Property: folding many loads into one sum changes nothing.
  def test_a_sum_is_the_sum_of_its_loads
    random = Random.new(5)
    20.times do
      loads = random_job(random)['loads'].map do |l|
        [Load.new(id: 'x', name: 'x', document: l, readings: [], settings: Miser::Assumptions.new, fallback_law: 'driver').law, random.rand]
      end
      sum = Sum.new(loads)
      [4.0, 7.3, 12.0, 14.4].each { |v| assert_in_delta loads.sum { |law, w| w * law.current(v) }, sum.amps(v), 1e-9 }
    end
  end

  def test_two_voltages_name_the_law
    { 'filament' => 0.55, 'driver' => -1.0, 'regulated' => 0.0, 'heater' => 1.0 }.each do |law, alpha|
      test = TwoVoltageTest.new([12.2, 2.0], [14.1, 2.0 * ((14.1 / 12.2)**alpha)])
      assert_equal law, test.law
      assert_in_delta alpha, test.exponent, 1e-9
      assert_operator test.confidence, :>, 0.9
    end
    string = TwoVoltageTest.new([12.0, 0.1], [14.0, 0.14], amps_sigma: 0.001)
    assert_equal 'resistor', string.law
    assert_in_delta 7.0, string.forward_v, 1e-9
    refute TwoVoltageTest.new([12.0, 1.0], [13.0, 1.022]).named?, 'between two laws it must not be sure'
    small = TwoVoltageTest.new([12.2, 0.1], [13.2, 0.11])
    refute small.named?, 'a tenth of an amp on a 10 A range tells nothing'
    assert_match(/Cannot be told apart with this meter: .* or /, small.sentence(0.1, 14.0, nil))
    assert_raises(Miser::VoltagesTooClose) { TwoVoltageTest.new([12.0, 1.0], [12.1, 1.0]) }
    assert_raises(Miser::NothingDrawn) { TwoVoltageTest.new([12.0, 0], [14, 1.0]) }
  end

  # 2.00 A at 12.3 V: 1.76 A at 14.0 V if it is a driver, 2.00 if it holds its current, 2.7 if it is a string with a resistor.
  def test_a_law_nobody_knows_is_doubt
    settings = Miser::Assumptions.new
    reading = lambda { |more = {}, bench = {}|
      Reading.new({ 'id' => 'r', 'kind' => 'settled', 'amps' => 2.0, 'volts' => 12.3 }.merge(more), bench, settings)
    }
    led = lambda { |taken, document = {}|
      Load.new(id: 'x', name: 'LED', document: document, readings: [taken], settings: settings, fallback_law: 'driver')
    }
    guessed = led.call(reading.call)
    assert_in_delta 1.757, guessed.amps(14.0), 0.001
    apart = (0.3 * ((2.0 - 1.757)**2)) + (0.2 * ((2.691 - 1.757)**2))
    assert_in_delta Math.sqrt(apart), guessed.law_sigma(14.0), 0.002
    assert_operator guessed.sigma(12.3), :<, 0.06, 'where it was read there is none'
    assert_equal 0.0, led.call(reading.call, 'law' => 'driver').law_sigma(14.0)
    tested = led.call(reading.call({ 'second' => { 'volts' => 14.1, 'amps' => 1.74 } }))
    assert_equal 'driver', tested.law_key
    assert_operator tested.sigma(14.0), :<, 0.1
    # Leads drop at both voltages: read at the battery, both are carried to the lamp.
    thin = reading.call({ 'volts_at' => 'battery', 'second' => { 'volts' => 14.1, 'amps' => 1.74 } }, { 'series_ohm' => 0.5 })
    assert_in_delta Math.log(1.74 / 2.0) / Math.log((14.1 - 0.87) / (12.3 - 1.0)), thin.law_test.exponent, 1e-9
  end

  # 0.1 Ω to a lamp: by hand, 14.0 V = V + 0.1·I. A filament of 4.6 A at 13.5 V and a driver of 24 W.
  def test_the_wire_to_a_lamp
    feed = Feed.new(ohms: 0.1, sigma: 0.05, volts: 14.0, origin: 'assumed')
    filament = Filament.new(volts: 13.5, amps: 4.6)
    there = 14.0 - (0.1 * feed.carried(filament).current(14.0))
    assert_within 1e-9, filament.current(there), feed.carried(filament).current(14.0)
    driver = Driver.new(volts: 12.0, amps: 2.0)
    amps = feed.carried(driver).current(14.0)
    assert_within 1e-9, 24.0, (14.0 - (0.1 * amps)) * amps
    assert_operator amps, :>, driver.current(14.0), 'fewer volts, more amps'
    more = Feed.new(ohms: 0.15, sigma: 0.05, volts: 14.0, origin: 'assumed')
    assert_in_delta driver.current(14.0).then { (more.carried(driver).current(14.0) - amps).abs }, feed.doubt(driver), 2e-3
    string = Resistor.new(volts: 13.0, amps: 0.5, forward_v: 9.0)
    assert_within 1e-9, (14.0 - 9) / (8.0 + 0.1), feed.carried(string).current(14.0)
    assert_in_delta (11.0 - 9) / 8.1, feed.carried(string).current(11.0), 1e-9
    # A wire that can't carry it: no answer but half the volts; and one under what it starts at.
    assert_in_delta 24 / 7.0, Feed.new(ohms: 50.0, sigma: 0.0, volts: 14.0, origin: 'x').carried(driver).current(14.0), 1e-9
    assert_operator Feed.new(ohms: 50.0, sigma: 0.0, volts: 14.0, origin: 'x').carried(filament).current(14.0), :<, 0.3
    # Read at the lamp: (14.0 − 13.2) / I there.
    read = Feed.measured(volts: 14.0, volts_sigma: 0.0, lamp_v: 13.2, law: filament, reading_sigma: 0.05)
    assert_within 1e-9, 0.8 / filament.current(13.2), read.ohms
    assert_within 1e-9, filament.current(13.2), read.carried(filament).current(14.0)
    assert_in_delta 0.0, Feed.measured(volts: 14.0, volts_sigma: 0.0, lamp_v: 14.2, law: filament, reading_sigma: 0.05).ohms
  end

  def test_warm_up
    series = WarmUp.new([[0, 1.88], [60, 1.80], [120, 1.76]])
    assert_in_delta 1.72, series.settled, 1e-9
    assert_equal :keep_going, series.advice
    assert_match(/ends at 1.72 ± /, series.reason)
    fallen = [[0, 1.86], [60, 1.77], [120, 1.73], [180, 1.712], [240, 1.704]]
    assert_equal :keep_going, WarmUp.new(fallen).advice, 'five readings rule no slow tail out'
    assert_equal :settled, WarmUp.new(fallen + Array.new(10) { |i| [300 + (i * 60), 1.702] }).advice
    assert_nil WarmUp.new([[0, 1.9], [60, 1.8]]).settled
    uneven = WarmUp.new([[0, 1.9], [10, 1.8], [120, 1.7]])
    assert_operator uneven.settled_sigma, :>, WarmUp.new([[0, 1.9], [60, 1.8], [120, 1.7], [600, 1.7], [900, 1.7]]).settled_sigma
    assert_nil WarmUp.new([[0, 1.7], [1, 1.75], [2, 1.85]]).settled, 'too early to say'
    level = WarmUp.new(Array.new(12) { |i| [i * 0.5, 4.2 + (0.01 * (i % 2))] }, drifts: false)
    assert_equal [:settled, 4.205], [level.advice, level.settled.round(6)]
    assert_equal :keep_going, WarmUp.new(Array.new(12) { |i| [i * 0.5, 4.2 + (0.01 * (i % 2))] }).advice, 'an LED level for 6 s'
  end

  def reading(settings = Miser::Assumptions.new, bench = {}, **fields)
    Reading.new({ 'id' => 'r', 'load_id' => 'x', 'kind' => 'settled' }.merge(fields.transform_keys(&:to_s)), bench, settings)
  end

  def test_burden_of_meter_and_leads
    at_battery = reading(amps: 4.0, volts: 12.5, volts_at: 'battery')
    assert_in_delta 12.3, at_battery.volts, 1e-9
    assert at_battery.volts_figure.assumed
    measured = reading(Miser::Assumptions.new, { 'series_ohm' => 0.1 }, amps: 4.0, volts: 12.5, volts_at: 'battery')
    assert_in_delta 12.1, measured.volts, 1e-9
    refute measured.volts_figure.assumed
    assert_match(/more than the battery has/, reading(amps: 250.0, volts: 12.0, volts_at: 'battery').problem)
  end

  def test_a_figure_keeps_its_origin_and_the_best_one_counts
    settings = Miser::Assumptions.new
    document = { 'law' => 'driver',
                 'figures' => [{ 'id' => 'a', 'origin' => 'advertised', 'watts' => 60.0, 'volts' => 12.0 },
                   { 'id' => 'm', 'origin' => 'maker', 'amps' => 2.0, 'volts' => 13.5 }] }
    make = ->(readings) { Load.new(id: 'x', name: 'x', document: document, readings: readings, settings: settings, fallback_law: 'driver') }
    assert_equal 'maker', make.call([]).anchor.origin.key
    assert_in_delta 0.16, make.call([]).anchor.sigma, 1e-9
    cold = reading(kind: 'cold', amps: 1.9, volts: 13.0)
    warm = reading(amps: 1.7, volts: 13.0)
    assert_equal 'measured_cold', make.call([cold]).anchor.origin.key
    assert_in_delta 1.7, make.call([warm, cold]).anchor.amps, 1e-9
    assert_in_delta (1.7 * 0.012) + 0.03, make.call([warm]).anchor.sigma, 1e-9
    refute make.call([reading(amps: nil, volts: 13.0)]).measured?
  end

  # A base names its filament's watts; an LED made for it draws its own.
  def test_an_led_part_never_borrows_the_filaments_watts
    part = Load.new(id: 'x', name: 'LED', document: { 'law' => 'driver', 'base' => 'H4', 'figures' => [] }, readings: [],
      settings: Miser::Assumptions.new,
      fallback_law: 'driver')
    refute part.known?
    assert_match(/unknown/, part.figure(14.0).reason)
    assert_nil part.figure(14.0).value
  end

  def test_plausibility
    judge = ->(amps, volts, **rest) { Plausibility.new(amps: amps, volts: volts, rated_w: 55.0, **rest) }
    assert_equal :expected, judge.call(4.5, 12.3).verdict
    low = judge.call(3.19, 12.5)
    assert_equal :outside, low.verdict
    assert_match(/volts/, low.remarks.join)
    assert_match(/milliamps: 4500 mA is 4.50 A/, judge.call(4500.0, 12.3).remarks.first)
    assert_match(/watts: 55 W/, judge.call(55.0, 12.3).remarks.first)
    assert_equal :slip, judge.call(0.0045, 12.3).verdict
    assert_equal :slip, Plausibility.new(amps: 1880.0, volts: 12.5).verdict, 'no rating is needed to doubt 1880 A'
  end

  # Readings mistyped by chance: the slip is the first guess, and a sound reading raises none. What a lamp takes: I ∝ V^0.55 from its
  # rating at 12 V (common practice), two lamps of one kind apart by 4 %.
  def test_slips_by_chance_are_the_first_guess
    random = Random.new(Minitest.seed)
    slips = { 'point_right' => ->(a, v) { [a * 10, v] }, 'point_left' => ->(a, v) { [a / 10, v] }, 'exchanged' => ->(a, v) { [v, a] },
              'milliamps' => ->(a, v) { [a * 1000, v] }, 'watts' => ->(a, v) { [a * v, v] } }
    right = alarms = 0
    325.times do |i|
      watts = [5.0, 10.0, 21.0, 35.0, 55.0, 60.0].sample(random: random)
      volts = random.rand(11.8..14.2).round(2)
      amps = (watts / 12 * ((volts / 12)**0.55) * random.rand(0.96..1.04)).round(3)
      key, slip = slips.to_a[i % slips.size]
      read = slip.call(amps, volts)
      judged = Plausibility.new(amps: read[0], volts: read[1], rated_w: watts)
      right += 1 if judged.verdict == :slip && judged.suspects.first.first.key == key
      alarms += 1 unless Plausibility.new(amps: amps, volts: volts, rated_w: watts).verdict == :expected
    end
    assert_operator right, :>=, 0.9 * 325
    assert_operator alarms, :<=, 0.01 * 325
    assert_match(/\A0\.82 A meant\?/, Plausibility.new(amps: 8.2, volts: 12.2, rated_w: 10.0).remarks.first)
    assert_match(/\A1\.4 A meant\?/, Plausibility.new(amps: 14.0, volts: 12.3, rated_w: 16.5).remarks.first)
  end

  def test_the_jack_is_named_before_the_lead_is_touched
    load = lambda { |amps|
      Load.new(id: 'x', name: 'x', document: { 'law' => 'heater', 'figures' => stated(amps) }, readings: [],
        settings: Miser::Assumptions.new, fallback_law: 'heater')
    }
    assert_match(/10 A jack\.\z/, Jack.words(load.call(4.5)))
    assert_match(/clamp/, Jack.words(load.call(9.0)))
  end

  # A pump is not shaded, and a lamp's plan is not a pump's.
  def test_steps_and_cautions_by_kind_of_load
    plan = lambda do |role, amps = 2.0|
      Jack.plan(Load.new(id: 'x', name: 'x', document: { 'figures' => stated(amps) }, readings: [],
        settings: Miser::Assumptions.new, fallback_law: 'heater', role: Miser::Job::Roles.named(role)))
    end
    Miser::Job::Roles::TABLE.each do |role|
      [plan[role.key], plan[role.key, 9.0]].each do |p|
        assert_equal role.group == 'lamp', p.steps.join(' ').match?(/\blamp/i), role.key
        assert_equal role.group == 'lamp', p.cautions.include?('lamp_hot'), role.key
        assert_empty p.cautions - Miser::Verdicts::Cautions::TABLE.keys
      end
    end
    assert_match(/read while it runs/, plan['fuel_pump'].steps.last)
    assert_equal %w[fuel], plan['fuel_pump'].cautions
  end

  # What is expected comes of the rating; what was read only says that ten amps are too few.
  def test_what_is_expected_never_echoes_what_was_read
    plan = lambda do |amps|
      job = plain_job(loads: [lamp('a', base: 'H4', filament: 'low')],
        readings: [{ 'id' => 'r', 'load_id' => 'a', 'kind' => 'settled', 'amps' => amps, 'volts' => 12.5 }])
      Jack.plan(budget(job).thing('a'), unread: budget(job).unread('a'))
    end
    usual = Filament.new(volts: 12.0, amps: 55 / 12.0).current(12.5)
    assert_within 1e-9, usual, plan[3.0].amps
    assert_match(/Expect about 4\.7 A/, plan[3.0].words)
    assert_nil plan[8.0].range_a, 'a clamp: it was read at eight'
    assert_match(/Expect about 4\.7 A/, plan[8.0].words)
  end

  # Nothing is said of the filament: the tail is the dim one, the brake the bright one.
  def test_the_filament_follows_the_function
    watts = ->(role, **rest) { budget(plain_job(loads: [lamp('a', role: role, base: 'P21/5W', **rest)])).thing('a').rated_w }
    assert_equal [5, 21, 21, 5], [watts['tail'], watts['brake'], watts['signal_left'], watts['brake', filament: 'dim']]
    heads = %w[head_low head_high].map { |role| budget(plain_job(loads: [lamp('a', role: role, base: 'H4')])).thing('a').rated_w }
    assert_equal [55, 60], heads
    assert_equal 55, budget(plain_job(loads: [lamp('a', role: 'tail', base: 'H7')])).thing('a').rated_w
  end
end
