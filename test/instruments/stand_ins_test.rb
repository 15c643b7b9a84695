# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/bench'
require_relative '../../instruments/stand_ins/likeness'

# The physics of the simulated bench.
class StandInsTest < Miser::Test
  include Miser::StandIns

  # A bench whose clock is turned by hand.
  def rig(**lamp)
    @now = 0.0
    Rig.new(clock: -> { @now }).tap { |r| r.put(Specimen.new(law: 'driver', volts: 12.5, amps: 1.6, **lamp)) }
  end

  def at(rig, seconds)
    @now = seconds
    rig.moment
  end

  def test_an_led_falls_as_it_warms_and_a_filament_rushes_in
    led = rig(drift: 0.08, tau_s: 50.0)
    cold = at(led, 0.0).amps
    warm = at(led, 400.0).amps
    assert_in_delta 1.08, cold / warm, 0.005
    assert_in_delta 0.08 * Math.exp(-1), (at(led, 50.0).amps / warm) - 1, 0.003
    both = rig(drift: 0.03, tau_s: 5.0, slow_drift: 0.06, slow_tau_s: 120.0)
    assert_in_delta 1.09, at(both, 0.0).amps / at(both, 3000.0).amps, 0.006
    assert_in_delta 1 + (0.06 * Math.exp(-0.5)), at(both, 60.0).amps / at(both, 3000.0).amps, 0.004, 'the die is warm, the sink is not'
    filament = rig(law: 'filament', amps: 1.75)
    assert_operator at(filament, 0.0).amps, :>, 3 * at(filament, 1.0).amps
  end

  # Ohm's law round the loop: what is missing at the lamp is what leads and battery took.
  def test_volts_at_the_lamp
    loop = rig(law: 'heater', amps: 4.0)
    moment = at(loop, 1.0)
    open_v, ohms = Rig::SOURCES['rest']
    assert_in_delta open_v - (moment.amps * (ohms + Rig::LEADS_OHM + Rig::JACKS['ten'].last)), moment.lamp_v, 1e-6
    loop.source = 'running'
    assert_operator at(loop, 2.0).lamp_v, :>, moment.lamp_v + 1
  end

  def test_the_milliamp_jack_blows_and_the_ten_amp_jack_does_not
    small = rig
    small.jack = 'milli'
    at(small, 0.0)
    at(small, 0.5)
    assert small.blown?
    assert_equal 0.0, at(small, 1.0).amps
    refute rig.tap { |r| at(r, 60.0) }.blown?
    filament = rig(law: 'filament', amps: 4.6)
    [0.0, 0.01, 0.03, 0.1, 1.0].each { |t| at(filament, t) }
    refute filament.blown?, 'the inrush is over before a fuse has melted'
  end

  def test_its_time_can_run_faster
    fast = rig(drift: 0.08, tau_s: 50.0)
    fast.pace = 40.0
    slow = rig(drift: 0.08, tau_s: 50.0)
    assert_in_delta at(slow, 40.0).amps, at(fast, 1.0).amps, 1e-9
  end

  def test_nothing_on_the_bench_draws_nothing
    empty = rig
    empty.take_off
    assert_equal [0.0, 0.0, 0.0], empty.moment.to_a
  end

  # Property: any lamp of the demo lies within a tenth of its known figures, law and all.
  def test_a_likeness_of_each_load_of_the_demo
    DEMO.each do |path|
      b = budget(JSON.parse(File.read(path)))
      b.entries('after').each do |entry|
        law, volts, amps, = Likeness.of(entry.load).split
        assert_equal entry.load.law_key, law
        known = entry.load.anchor
        assert_within 0.11, known.amps, amps.to_f, entry.name
        assert_within 1e-3, known.volts, volts.to_f
      end
    end
  end

  # The likeness of a beam: its flux is the share of the lamp's lumens that it says, below its middle and above.
  def test_a_beam_on_the_simulated_wall
    peak, width, height, under = Likeness.beam(1000.0, 5.0).split.map(&:to_f)
    light = LightMeter.new(subject = rig)
    assert_nil light.answer("SIM:BEAM #{[peak, width, height, under].join(' ')}")
    lux = ->(x, y) { light.answer("SIM:MARK #{x} #{y}") || light.answer('READ?').to_f }
    assert_within 0.03, peak * 0.985, lux[0, -under]
    assert_within 0.03, peak * 0.985 * Math.exp(-0.5), lux[width, -under]
    assert_operator lux[0, -under + height], :<, 0.1 * lux[0, -under - height]
    step = 0.05
    flux = (-60..60).sum { |i| (-60..60).sum { |j| BeamSpecimen.new(peak, width, height, under).lux(i * step, j * step) } } * step * step
    assert_within 0.01, Likeness::ON_WALL * 1000, flux
    subject.put(specimen = Specimen.new(law: 'driver', volts: 12.5, amps: 1.0, lux: 300.0))
    assert_within 0.05, specimen.lux(12.5, 0), light.answer('READ?').to_f, 'a lamp on the bench again'
    ['SIM:BEAM 1 0 1 1', 'SIM:BEAM -1 1 1 1', 'SIM:BEAM x',
      'SIM:MARK 1'].each { |line| light.answer(line) || assert_match(/\A-1/, light.answer('SYST:ERR?'), line) }
  end

  def test_words_it_does_not_know_are_queued_and_the_queue_is_bounded
    meter = Meter.new(rig)
    50.times { meter.answer('WHAT:EVER?') }
    errors = Array.new(25) { meter.answer('SYST:ERR?') }
    assert_equal(20, errors.count { |e| e.start_with?('-113') })
    assert_match(/\A0/, errors.last)
    ['SIM:LAMP', 'SIM:LAMP driver x y', 'SIM:PACE fast', 'SIM:JACK none', 'CONF:CURR:DC abc', 'SIM:LAMP driver 12 -4'].each do |line|
      assert_nil meter.answer(line), line
      assert_match(/\A-1/, meter.answer('SYST:ERR?'), line)
    end
  end
end
