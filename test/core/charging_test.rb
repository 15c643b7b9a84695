# frozen_string_literal: true

require_relative '../test_helper'

class ChargingTest < Miser::Test
  include Miser::Charging

  def curve(**rest)
    EarnFit.from_rating(watts: 280, rpm: 5000, volts: 14.0, cut_in: 1100, watts_sigma: 0.1, cut_in_sigma: 0.1, **rest)
  end

  # Worked example: 280 W at 5000 rpm and 14.0 V, cut-in 1100.
  def test_a_rating_with_its_cut_in
    assert_in_delta 20.0, curve.amps(5000, 14.0), 1e-9
    assert_in_delta 20.50, curve.i_inf, 0.005
    assert_in_delta 8.19, curve.amps(1200, 14.0), 0.005
    assert_in_delta 17.12, curve.amps(2000, 14.0), 0.005
    assert_equal 0.0, curve.amps(1100, 14.0)
    assert_in_delta 1100 * 13.0 / 14.0, curve.cut_in(13.0), 1e-9
    assert_raises(Miser::LateCutIn) do
      EarnFit.from_rating(watts: 280, rpm: 1000, volts: 14.0, cut_in: 1100, watts_sigma: 0.1, cut_in_sigma: 0.1)
    end
  end

  def test_break_even_is_where_the_curve_meets_the_spending
    [3.0, 8.19, 17.0].each { |a| assert_in_delta a, curve.amps(curve.break_even(a, 14.2), 14.2), 1e-9 }
    assert_nil curve.break_even(25.0, 14.0)
    low, high = curve.band(1200, 14.0)
    assert_operator low, :<, 8.19
    assert_operator high, :>, 8.19
  end

  def test_points_lying_on_a_curve_give_it_back
    truth = curve
    points = [1400, 2200, 5200].map { |n| [n, 13.8, truth.amps(n, 13.8)] }
    fit = EarnFit.from_points(points, v_ref: 14.0, amps_sigma: ->(a) { 0.02 * a })
    assert_within 1e-9, truth.a, fit.a
    assert_within 1e-9, truth.b, fit.b
    assert_raises(Miser::OneSpeed) { EarnFit.from_points([[2000, 14.0, 9.0], [2000, 14.0, 9.4]], v_ref: 14.0, amps_sigma: ->(_) { 0.1 }) }
    falling = assert_raises(Miser::FallingOutput) do
      EarnFit.from_points([[1500, 14.0, 9.0], [4000, 14.0, 6.0]], v_ref: 14.0,
        amps_sigma: ->(_) { 0.1 })
    end
    assert_match(/do not rise/, falling.message)
  end

  def circuit(alternator, machine = { 'idle_rpm' => 1200.0 }, **rest)
    Miser::Budget::Circuit.new({ 'id' => 'main', 'kind' => 'dc', 'alternator' => alternator }.merge(rest.transform_keys(&:to_s)), machine,
      Miser::Assumptions.new)
  end

  def test_the_best_that_is_known_makes_the_curve
    plate = { 'rated_w' => 280.0, 'rated_rpm' => 5000.0 }
    points = [{ 'rpm' => 1500.0, 'amps' => 10.0 }, { 'rpm' => 4000.0, 'amps' => 17.0 }]
    assert_equal :points, circuit(plate.merge('points' => points)).curve.basis
    assert_equal :one_point, circuit(plate.merge('points' => points.first(1))).curve.basis
    assert_equal :rating_only, circuit(plate).curve.basis
    assert_equal :rating, circuit(plate.merge('cut_in_rpm' => 1000.0)).curve.basis
    assert_operator circuit(plate).curve.sigma(1500, 14.0), :>, circuit(plate.merge('points' => points)).curve.sigma(1500, 14.0)
    same_speed = circuit(plate.merge('points' => [{ 'rpm' => 1500.0, 'amps' => 10.0 }, { 'rpm' => 1500.0, 'amps' => 10.4 }]))
    assert_equal :one_point, same_speed.curve.basis
    assert_match(/all at one speed/, same_speed.remarks.join)
  end

  def test_what_is_not_known_stays_unknown_with_its_reason
    assert_match(/rated watts/, circuit({}).reason)
    assert_nil circuit({}).earns(2000).value
    assert_match(/below the rated speed/, circuit({ 'rated_w' => 280.0, 'rated_rpm' => 1000.0, 'cut_in_rpm' => 1100.0 }).reason)
    assert_match(/idle speed/, circuit({ 'points' => [{ 'rpm' => 1500.0, 'amps' => 10.0 }] }, {}).reason)
  end

  def test_a_hot_stator_gives_less_and_cold_points_are_brought_to_hot
    plate = circuit({ 'rated_w' => 280.0, 'rated_rpm' => 5000.0, 'cut_in_rpm' => 1100.0 })
    assert_within 1e-9, 0.9 * curve.amps(2000, 14.0), plate.earns(2000).value
    cold = [1500.0, 4000.0].map { |n| { 'rpm' => n, 'amps' => curve.amps(n, 14.0), 'volts' => 14.0, 'stator' => 'cold' } }
    assert_within 1e-6, plate.earns(2000).value, circuit({ 'points' => cold }).earns(2000).value
    hot = cold.map { |p| p.merge('stator' => 'hot') }
    assert_within 1e-6, curve.amps(2000, 14.0), circuit({ 'points' => hot }).earns(2000).value
  end

  def test_the_voltage_schools
    settings = ->(school) { Miser::Assumptions.new('voltage_school' => school) }
    make = lambda { |school, volts|
      Miser::Budget::Circuit.new({ 'id' => 'm', 'kind' => 'dc', 'regulator' => { 'volts' => volts } }, {}, settings.call(school))
    }
    assert_equal 14.3, make.call('measured', 14.3).volts
    assert_equal 14.0, make.call('measured', nil).volts
    assert make.call('measured', nil).volts_figure.assumed
    assert_equal 12.5, make.call('12.5', 14.3).volts
    assert_equal 14.3, make.call('12.5', 14.3).held, 'the school sets the arithmetic, not the machine'
  end

  # Open-circuit volts by charge: common practice (12.8 full, 12.2 half, 11.8 flat).
  def test_a_battery
    battery = Battery.from({ 'capacity_ah' => 10.0, 'rest_v' => 12.5 }, Miser::Assumptions.new)
    assert_in_delta 0.75, battery.charge, 1e-9
    assert_in_delta 0.015, battery.ohms, 1e-9
    assert_in_delta 10.0, battery.amps(12.35), 1e-9
    assert_in_delta(-0.75, battery.amps(14.0), 1e-9)
    # Drawn at its ten-hour rate the usable share lasts that share of ten hours; Peukert costs the rest.
    assert_in_delta 3.5, battery.hours(1.0), 1e-9
    assert_in_delta 0.35 * 10 * (0.2**1.15), battery.hours(5.0), 1e-9
    assert_in_delta 3.5 / 0.02 / 24, battery.days(0.02), 1e-9
    assert_nil battery.hours(0.0)
    assert_nil Battery.from({}, Miser::Assumptions.new)
  end

  def test_flicker
    assert_in_delta 150.0, Flicker.light_hz(3, 1500), 1e-9
    assert_in_delta 75.0, Flicker.light_hz(3, 1500, half_wave: true), 1e-9
  end

  def test_with_several_balances_the_highest_is_taken
    driver = Miser::Draw::Driver.new(volts: 13.5, amps: 3.0)
    solver = OperatingPoint.new(curve: curve, sum: Miser::Draw::Sum.new([[driver, 1.0]]), held: nil)
    high = solver.at(2000).volts
    assert_operator high, :>, 20
    spare = ->(v) { curve.amps(2000, v) - driver.current(v) }
    assert_in_delta 0, spare.call(high), 1e-6
    assert(10.step(1, -0.01).any? { |v| spare.call(v).negative? }, 'there is a lower balance too')
  end
end
