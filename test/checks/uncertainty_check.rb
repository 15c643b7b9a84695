# frozen_string_literal: true

require_relative '../test_helper'

# The doubt in what is kept, against a Monte Carlo run of the same model written
# out afresh here: every input shaken by its own doubt.
class UncertaintyCheck < Miser::Test
  RUNS = 20_000

  def job
    plain_job(loads: [
      lamp('low', law: 'filament', base: 'H4', filament: 'low'),
      lamp('tail', role: 'tail', law: 'driver', figures: stated(0.8, volts: 12.5)),
      lamp('grips', role: 'grips', law: 'heater', figures: stated(3.0, volts: 13.5)),
      lamp('ecu', role: 'controller', law: 'regulated', figures: stated(1.5, origin: 'default'))
              ], readings: [{ 'id' => 'r1', 'load_id' => 'low', 'kind' => 'settled', 'amps' => 4.1, 'volts' => 12.3,
                              'volts_at' => 'lamp' }])
  end

  # One of the curves that what is known allows, as often as it is believed.
  def shake_curve(curve, random)
    at = random.rand
    node = curve.nodes.find { |n| (at -= n.weight) <= 0 } || curve.nodes.last
    [node.n0, node.c, node.amps + (Math.sqrt(node.variance) * gauss(random))]
  end

  def earned(curve, random, rpm, volts)
    n0, c, most = shake_curve(curve, random)
    lost = 1 - (0.02 * gauss(random))
    x = [(rpm * lost / (n0 * (volts + 1.5) / 15.5)) - 1, 0].max**1.57
    # The form itself: 1 % of the most, two and a half times that where nothing was measured.
    (most * lost * x / (x + c)) + (curve.i_inf * 0.025 * gauss(random))
  end

  def keeps(curve, random, rpm)
    volts = 14.0 + (0.3 * gauss(random))
    meter = (4.1 * 0.012) + 0.03
    low = (4.1 + (meter * gauss(random))) * ((volts / (12.3 + (0.05 * gauss(random))))**0.55)
    tail = 0.8 * (1 + (0.08 * gauss(random))) * 12.5 / volts
    grips = 3.0 * (1 + (0.08 * gauss(random))) * volts / 13.5
    ecu = 1.5 * (1 + (0.3 * gauss(random)))
    earned(curve, random, rpm, volts) - low - tail - grips - ecu
  end

  def test_sigma_of_what_is_kept
    b = budget(job)
    random = Random.new(11)
    { 'idle_night' => 0.1, 'slow_trail' => 0.03, 'all_on' => 0.03 }.each do |id, share|
      line = b.line('after', id, 'main')
      runs = Array.new(RUNS) { keeps(line.circuit.curve, random, line.rpm) }
      apart = Math.sqrt(runs.sum { |k| (k - line.keeps.value)**2 } / RUNS)
      # Just above cut-in the curve is steep and the spread lopsided: looser there.
      assert_within share, apart, line.keeps.sigma, id
    end
  end

  # A hundred thousand shaken machines would not tell more: 2σ covers what it says.
  def test_an_advertised_range_is_the_spread_of_a_level_distribution
    settings = Miser::Assumptions.new
    load = Miser::Draw::Load.new(id: 'x', name: 'Bar',
      document: { 'law' => 'driver', 'figures' => [{ 'id' => 'f', 'origin' => 'advertised', 'watts' => 120.0, 'volts' => 12.0 }] },
      readings: [], settings: settings, fallback_law: 'driver')
    random = Random.new(3)
    drawn = Array.new(RUNS) { 10.0 * random.rand(0.35..1.0) }
    mean = drawn.sum / RUNS
    assert_within 0.01, mean, load.anchor.amps
    assert_within 0.02, Math.sqrt(drawn.sum { |d| (d - mean)**2 } / RUNS), load.anchor.sigma
  end
end
