# frozen_string_literal: true

require_relative '../test_helper'

class ChargingTest < Miser::Test
  include Miser::Charging

  COLD = Miser::Assumptions.new('hot_stator' => 1.0, 'hot_cut_in' => 1.0, 'hot_knee' => 1.0)

  def fit(form: Form::THREE_PHASE, cut_in: 1100.0, doubt: 0.1, settings: COLD, points: [], rating: nil)
    points = points.map do |rpm, amps, state|
      EarnFit::Point.new(rpm: rpm.to_f, volts: 14.0, amps: amps, cold: state != :hot, sigma: (0.02 * amps) + 0.01)
    end
    plate = rating && EarnFit::Point.new(rpm: rating[0], volts: 14.0, amps: rating[1], cold: true, sigma: 0.15 * rating[1])
    EarnFit.new(form: form, v_ref: 14.0, cut_in: EarnFit::Known.new(cut_in, doubt), settings: settings, points: points, rating: plate)
  end

  def curve(**rest) = fit(rating: [5000.0, 20.0], **rest).curve(basis: :rating)

  # Worked example, cold: 280 W at 5000 rpm and 14.0 V, cut-in 1100, knee 0.35.
  def test_a_rating_with_its_cut_in
    assert_in_delta 20.0, curve.amps(5000, 14.0), 1e-6
    assert_in_delta 20.96, curve.i_inf, 0.005
    assert_in_delta 1.30, curve.amps(1200, 14.0), 0.005
    assert_in_delta 14.17, curve.amps(2000, 14.0), 0.005
    assert_in_delta 0.0, curve.amps(1100, 14.0), 1e-9
    assert_operator curve.sigma(1100, 14.0), :>, 0.3, 'near cut-in nothing is certain'
    assert_in_delta 1100 * 14.5 / 15.5, curve.cut_in(13.0), 1e-6
    assert_raises(Miser::LateCutIn) { fit(rating: [1000.0, 20.0]).curve(basis: :rating) }
  end

  # A stator simulated apart from all this: 0.15 Ω and 0.606 mH a phase, six pole pairs, into 14.0 V.
  SIMULATED = { 1200 => 1.15, 1300 => 2.87, 1500 => 6.43, 2000 => 12.86, 3000 => 17.18, 5000 => 19.32 }.freeze

  def test_a_simulated_machine_is_met_by_its_points
    found = fit(cut_in: 1000.0, doubt: 0.2, points: SIMULATED.to_a).curve(basis: :points)
    SIMULATED.each { |rpm, amps| assert_in_delta amps, found.amps(rpm, 14.0), 0.01 * found.i_inf }
    two = fit(cut_in: 1000.0, doubt: 0.2, points: SIMULATED.to_a.values_at(2, 4)).curve(basis: :points)
    SIMULATED.each { |rpm, amps| assert_in_delta amps, two.amps(rpm, 14.0), 2 * two.sigma(rpm, 14.0) }
  end

  def test_break_even_is_where_the_curve_meets_the_spending
    [Form::THREE_PHASE, Form::ONE_PHASE, Form::COIL].each do |form|
      made = curve(form: form)
      [3.0, 8.19, 17.0].each { |a| assert_in_delta a, made.amps(made.break_even(a, 14.2), 14.2), 1e-9 }
      assert_nil made.break_even(35.0, 14.0)
      assert_in_delta 0.0, made.amps(2000, made.open_circuit(2000)), 1e-5
    end
  end

  def test_points_lying_on_a_curve_give_it_back
    truth = curve
    points = [1200, 1400, 2200, 3500, 5200].map { |n| [n, truth.amps(n, 14.0)] }
    found = fit(cut_in: 900.0, doubt: 0.2, points: points).curve(basis: :points)
    assert_within 0.02, truth.cut_in, found.cut_in
    points.each { |n, a| assert_in_delta a, found.amps(n, 14.0), 0.005 * truth.i_inf }
    assert_nil fit(cut_in: 900.0, doubt: 0.2, points: points).miss
  end

  # It is said at its field and among the flags, and nothing else falls over it.
  def test_a_point_that_is_named_is_named_where_it_was_entered
    job = plain_job
    amps = { 1300 => 2.87, 2000 => 12.86, 3000 => 9.0, 5000 => 19.32 }
    job['circuits'][0]['alternator'] = { 'points' => amps.map { |n, a| { 'id' => "p#{n}", 'rpm' => n, 'amps' => a, 'volts' => 14.0 } } }
    ticket = Miser::Ticket.new(job)
    problem = ticket.consistency.problems.find { |p| p.at.include?('/points/') }
    assert_equal '/circuits/main/alternator/points/p3000/amps', problem.at
    assert_match(/3000 rpm reads 9.0 A/, problem.message)
    assert(ticket.flags.any? { |f| f.key == 'curve' && f.text == problem.message })
  end

  # What is known adds up: each thing more takes doubt away.
  def test_a_rating_a_cut_in_and_a_point_help_each_other
    point = [[1600, curve.amps(1600, 14.0)]]
    doubt = ->(**known) { fit(**known).curve(basis: :points).sigma(1300, 14.0) }
    alone = doubt.call(cut_in: 1000.0, doubt: 0.2, points: point)
    rated = doubt.call(cut_in: 1000.0, doubt: 0.2, points: point, rating: [5000.0, 20.0])
    all = doubt.call(cut_in: 1100.0, doubt: 0.05, points: point, rating: [5000.0, 20.0])
    assert_operator rated, :<, alone
    assert_operator all, :<, rated
    assert_operator all, :<, doubt.call(cut_in: 1100.0, doubt: 0.05, rating: [5000.0, 20.0])
  end

  def test_a_point_that_contradicts_the_others_is_named
    truth = curve
    good = [1300, 1800, 2500, 4000, 6000].map { |n| [n, truth.amps(n, 14.0)] }
    missed = lambda do |at, by|
      points = good.map { |n, a| [n, n == at ? a * by : a] }
      fit(cut_in: 1050.0, doubt: 0.2, points: points).miss
    end
    shunted = missed.call(4000, 0.7)
    assert_equal 4000, shunted.point.rpm
    assert_match(/shunting.*or the engine turned at 19\d0 rpm/, Missed.words(shunted))
    over = missed.call(1800, 1.5)
    assert_equal 1800, over.point.rpm
    assert_match(/another wire/, Missed.words(over))
    wide = ->(points) { fit(cut_in: 1050.0, doubt: 0.2, points: points).curve(basis: :points).sigma(3000, 14.0) }
    assert_operator wide.call(good.map { |n, a| [n, n == 4000 ? a * 0.7 : a] }), :>, 1.5 * wide.call(good)
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
    assert_match(/One speed measured/, same_speed.remarks.join)
    assert_equal 'one_phase', circuit(plate.merge('winding' => 'one_phase')).curve.form.key
    ac = Miser::Budget::Circuit.new({ 'id' => 'l', 'kind' => 'ac', 'alternator' => plate }, { 'idle_rpm' => 1200.0 }, Miser::Assumptions.new)
    assert_equal 'coil', ac.curve.form.key
    assert(circuit({ 'points' => points }).curve.inputs.any? { |i| i.assumption == 'cut_in_of_idle' })
  end

  def test_what_is_not_known_stays_unknown_with_its_reason
    assert_match(/rated watts/, circuit({}).reason)
    assert_nil circuit({}).earns(2000).value
    assert_match(/below the rated speed/, circuit({ 'rated_w' => 280.0, 'rated_rpm' => 1000.0, 'cut_in_rpm' => 1100.0 }).reason)
    assert_match(/idle speed/, circuit({ 'points' => [{ 'rpm' => 1500.0, 'amps' => 10.0 }] }, {}).reason)
    assert circuit({ 'points' => [{ 'rpm' => 1500.0, 'amps' => 10.0 }, { 'rpm' => 3000.0, 'amps' => 17.0 }] }, {}).curve
  end

  # Flux lost takes output and moves the cut-in: near idle that is half of it, at speed a fourteenth.
  def test_a_hot_stator_gives_less_and_cold_points_are_brought_to_hot
    plate = circuit({ 'rated_w' => 280.0, 'rated_rpm' => 5000.0, 'cut_in_rpm' => 1100.0 })
    hot = Miser::Charging::Form::THREE_PHASE
    assert_within 1e-5, 20.9597 * 0.93 * hot.share(2000 / (1100 * 1.07), 0.35 * 1.1), plate.earns(2000).value
    assert_operator plate.earns(1300).value, :<, 0.65 * curve.amps(1300, 14.0)
    cold = [1300.0, 1700.0, 2500.0, 4000.0].map { |n| { 'rpm' => n, 'amps' => curve.amps(n, 14.0), 'volts' => 14.0, 'stator' => 'cold' } }
    measured = circuit({ 'points' => cold, 'cut_in_rpm' => 1100.0 })
    assert_within 0.01, plate.earns(2000).value, measured.earns(2000).value
    assert_match(/brought to hot/, measured.remarks.join)
    read = cold.map { |p| p.merge('stator' => 'hot') }
    assert_within 0.02, curve.amps(2000, 14.0), circuit({ 'points' => read, 'cut_in_rpm' => 1030.0 }).earns(2000).value
    assert_operator circuit({ 'points' => read }).curve.sigma(1300, 14.0), :<, circuit({ 'points' => cold }).curve.sigma(1300, 14.0)
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

  # Open-circuit volts by charge: common practice (12.8 full, 12.2 half, 11.8 flat; lithium 13.1 to 13.3, full 13.4).
  def test_a_battery
    battery = Battery.from({ 'capacity_ah' => 10.0, 'rest_v' => 12.5 }, Miser::Assumptions.new)
    assert_in_delta 0.75, battery.charge, 1e-9
    assert_in_delta 0.015, battery.ohms, 1e-9
    assert_in_delta 10.0, battery.amps(12.35), 1e-9
    assert_in_delta(-2.25, battery.amps(14.0), 1e-9)
    assert_in_delta(-3.0, battery.at(0.2).amps(14.6), 1e-9, 'a flat one takes the most it can')
    assert_in_delta 0.0, battery.at(1.0).amps(14.6), 1e-12, 'a full one takes nothing'
    assert_in_delta(-0.15 * 10 * 1.0 * 0.5, battery.at(0.95).amps(12.74 + 1.0), 1e-9, 'from nine tenths on it takes less and less')
    # Drawn at its ten-hour rate the usable share lasts that share of ten hours; Peukert costs the rest.
    assert_in_delta 3.5, battery.hours(1.0), 1e-9
    assert_in_delta 0.35 * 10 * (0.2**1.15), battery.hours(5.0), 1e-9
    assert_in_delta 3.5 / 0.02 / 24, battery.days(0.02), 1e-9, 'never more than it has'
    assert_nil battery.hours(0.0)
    assert_nil Battery.from({}, Miser::Assumptions.new)
    lithium = Battery.from({ 'kind' => 'lithium', 'capacity_ah' => 4.0, 'rest_v' => 13.3 }, Miser::Assumptions.new)
    assert_in_delta 0.9, lithium.charge, 1e-9
    assert_in_delta 13.4, lithium.at(1.0).rest_v, 1e-9
    assert_in_delta 0.02, lithium.ohms, 1e-9
    # It takes what its resistance lets in, (13.9 − 13.2) V over 50 mΩ, within its limit, 2 A an Ah; lead of that size takes 0.3 A an Ah.
    half = Battery.from({ 'kind' => 'lithium', 'capacity_ah' => 4.0, 'charge' => 0.55, 'resistance_ohm' => 0.2 }, Miser::Assumptions.new)
    assert_in_delta(-(13.9 - 13.2) / 0.2, half.amps(13.9), 1e-9)
    assert_in_delta(-8.0, half.amps(15.5), 1e-9)
    assert_in_delta(-8.0 * 0.5, half.at(0.975).amps(16.0), 1e-9, 'in its last twentieth it takes less and less')
    lead = Battery.from({ 'capacity_ah' => 4.0, 'charge' => 0.55, 'resistance_ohm' => 0.2 }, Miser::Assumptions.new)
    assert_operator lead.amps(13.9), :>, -1.3
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
