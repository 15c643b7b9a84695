# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/ngspice'

# System volts against ngspice, a general circuit simulator, within 0.5 %.
class OperatingPointCheck < Miser::Test
  EXPONENTS = { 'filament' => 0.55, 'driver' => -1.0, 'regulated' => 0.0, 'heater' => 1.0 }.freeze
  TOLERANCE = 0.005

  # The netlist's figures are taken from the job document, not from Miser's laws.
  def netlist_loads(job, scenario)
    count = job['positions'].to_h { |p| [p['id'], p['count']] }
    job['loads'].filter_map do |l|
      duty = scenario['duties'][l['role']].to_f
      next if duty.zero?

      figure = l['figures'].first
      law = { amps: figure['amps'], volts: figure['volts'] }
      l['law'] == 'resistor' ? law[:forward] = l['forward_v'] : law.merge!(exponent: EXPONENTS.fetch(l['law']), min: l['min_v'])
      [law, duty * count.fetch(l['position_id'])]
    end
  end

  # Lead: 12.2 V half full, 12.8 full; the last tenth takes less and less.
  def battery(document)
    return unless document

    filled = 0.5 + (0.5 * (document['rest_v'] - 12.2) / 0.6)
    takes = document['capacity_ah'] * [(1 - filled) / 0.1, 1.0].min
    { rest: document['rest_v'], ohms: document['resistance_ohm'], acceptance: 0.15 * takes, most: 0.3 * takes }
  end

  def coil(watts, cut_in)
    Miser::Charging::EarnFit.new(form: Miser::Charging::Form::COIL, v_ref: 13.5, cut_in: Miser::Charging::EarnFit::Known.new(cut_in, 0.1),
      settings: Miser::Assumptions.new('hot_stator' => 1.0, 'hot_cut_in' => 1.0),
      rating: Miser::Charging::EarnFit::Point.new(rpm: 6000.0, volts: 13.5, amps: watts / 13.5, cold: true, sigma: 1.0))
                            .curve(basis: :rating)
  end

  def test_random_machines_settle_where_ngspice_has_them
    random = Random.new(2026)
    regimes = Hash.new(0)
    compared = 0
    40.times do |i|
      job = random_job(random)
      b = budget(job)
      ledger = b.ledgers('after').values.first
      scenario = job['scenarios'].first
      circuit = job['circuits'].first
      [0.55, 1.0, 1.6, 4.0].each do |factor|
        rpm = job['machine']['idle_rpm'] * factor
        point = ledger.point(b.scenario('idle_night'), rpm)
        regimes[point.regime] += 1
        # Cutting in and out, ngspice has no resting point either; with nothing lit it has none in four seconds.
        next if point.regime == :starved || point.volts < 1 || ledger.sum(b.scenario('idle_night')).amps(point.volts).zero?

        held = circuit['regulator']['fitted'] ? circuit['regulator']['volts'] : nil
        part = Miser::Ngspice.machine('a', ledger.circuit.curve, rpm, netlist_loads(job, scenario), battery: battery(circuit['battery']),
          held: held)
        # ngspice is let fall from the same ceiling a running machine sags from.
        start = held || (circuit['battery'] ? 14 : ledger.circuit.curve.open_circuit(rpm))
        seen = Miser::Ngspice.settle([part], 'busa' => start).fetch('busa')
        assert_within TOLERANCE, seen, point.volts, "machine #{i} at #{rpm} rpm, #{point.regime}"
        compared += 1
      end
    end
    assert_operator compared, :>=, 60
    %i[held sagging coil
      battery].each { |regime| assert_operator regimes[regime], :>=, 3, "too few machines came out #{regime}: #{regimes}" }
  end

  # The curve itself against a coil as physics has it: an AC source behind an
  # inductance into a resistance. E² = V² + (ωLI)².
  def test_a_coil_behind_its_inductance_gives_the_same_volts
    [1500, 3000, 6000].each do |rpm|
      curve = coil(110, 1300.0)
      lamp = Miser::Draw::Filament.new(volts: 12, amps: 5)
      volts = Miser::Charging::OperatingPoint.new(curve: curve, sum: Miser::Draw::Sum.new([[lamp, 1.0]])).at(rpm).volts
      hertz = 6 * rpm / 60.0
      inductance = curve.open_circuit(rpm) / (curve.i_inf * 2 * Math::PI * hertz)
      netlist = "coil\nVe e 0 AC #{curve.open_circuit(rpm)}\nL1 e lamp #{inductance}\nR1 lamp 0 #{volts / lamp.current(volts)}\n.control\nac lin 1 #{hertz} #{hertz}\nprint vm(lamp)\nquit\n.endc\n.end\n"
      assert_within 0.001, Miser::Ngspice.run(netlist).fetch('vm(lamp)'), volts, "at #{rpm} rpm"
    end
  end

  def test_run_away_of_an_unregulated_coil
    curve = coil(90, 1250.0)
    led = Miser::Draw::Driver.new(volts: 13.5, amps: 1.7, min_v: 8)
    tail = Miser::Draw::Filament.new(volts: 12, amps: 0.42)
    point = Miser::Charging::OperatingPoint.new(curve: curve, sum: Miser::Draw::Sum.new([[led, 1.0], [tail, 1.0]])).at(8000)
    parts = [Miser::Ngspice.machine('r', curve, 8000,
      [[{ amps: 1.7, volts: 13.5, exponent: -1, min: 8 }, 1.0],
        [{ amps: 0.42, volts: 12, exponent: 0.55 }, 1.0]])]
    assert_operator point.volts, :>, 60
    assert_within TOLERANCE, Miser::Ngspice.settle(parts, 'busr' => curve.open_circuit(8000)).fetch('busr'), point.volts
  end
end
