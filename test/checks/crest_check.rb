# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/ngspice'
require_relative '../../core/charging/phase_cut'

# Crest volts under a regulator that cuts half-waves short, against a general circuit simulator with a thyristor each way:
# a switch that the angle closes, and a diode that its current's end opens.
class CrestCheck < Miser::Test
  PhaseCut = Miser::Charging::PhaseCut
  HERTZ = 100.0
  TURNS = 30

  def netlist(volts, reactance, load, solved)
    period = 1 / HERTZ
    fires = (solved.start + solved.open) / (2 * Math::PI) * period
    fires += period while fires.negative?
    width = period * (0.5 - (solved.open / (2 * Math::PI))) * 1.2
    <<~CIR
      a coil, its loads, a thyristor each way
      Vs 1 0 SIN(0 #{volts * Math.sqrt(2)} #{HERTZ})
      L1 1 2 #{reactance / (2 * Math::PI * HERTZ)}
      Rload 2 0 #{load}
      D1 2 3 nearly
      S1 3 0 g1 0 gate
      D2 0 4 nearly
      S2 4 2 g2 0 gate
      Vg1 g1 0 PULSE(0 5 #{fires} 1u 1u #{width} #{period})
      Vg2 g2 0 PULSE(0 5 #{fires + (period / 2)} 1u 1u #{width} #{period})
      .model nearly D(n=0.02 is=1e-9)
      .model gate SW(vt=2.5 ron=1m roff=1e6)
      .options reltol=1e-4
      .control
      tran 10u #{TURNS * period} #{(TURNS - 2) * period} 5u
      meas tran top MAX v(2)
      meas tran level RMS v(2)
      print top level
      .endc
      .end
    CIR
  end

  # Coils of 75 to 120 W at slow to fast, two lamps lit to one LED: within 3 %.
  def test_crest_and_rms_are_the_simulator_s
    [[20.8, 3.65, 6.0], [46.7, 8.21, 6.0], [72.7, 12.77, 6.0], [72.7, 12.77, 20.0], [60.0, 6.5, 4.0],
      [46.7, 8.21, 60.0]].each do |volts, x, load|
      solved = PhaseCut.new(volts: volts, reactance: x, load: load).at(13.1)
      seen = Miser::Ngspice.run(netlist(volts, x, load, solved))
      assert_within 0.03 * solved.crest_v, seen.fetch('top'), solved.crest_v, [volts, x, load]
      assert_within 0.3, seen.fetch('level'), 13.1, [volts, x, load]
    end
  end

  # A coil that does not reach the volts is not cut: a sine of E·R/√(R² + X²).
  def test_what_is_not_reached_is_a_sine
    solved = PhaseCut.new(volts: 20.8, reactance: 3.65, load: 2.0).at(13.1)
    assert_within 0.02, solved.crest_v, 20.8 * Math.sqrt(2) * 2.0 / Math.hypot(2.0, 3.65)
  end
end
