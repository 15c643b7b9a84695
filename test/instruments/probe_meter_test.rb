# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../instruments/stand_ins'

# A hand meter on points of a machine that is solved.
class ProbeMeterTest < Miser::Test
  def meter(**values) = Miser::StandIns::ProbeMeter.new(->(what, red, black) { red && black && values[what.to_sym] })

  def test_it_reads_what_lies_between_its_leads
    probe = meter(volts: 12.43, amps: -3.2)
    assert_nil probe.answer('MEAS:VOLT:DC?'), 'its leads are nowhere'
    assert_match(/-104/, probe.answer('SYST:ERR?'))
    probe.answer('SIM:LEADS bat 0')
    assert_in_delta 12.43, Float(probe.answer('MEAS:VOLT:DC?')), 0.06
    probe.answer('CONF:CURR:DC 40')
    assert_in_delta(-3.2, Float(probe.answer('READ?')), 0.05)
    assert_nil probe.answer('MEAS:VOLT:AC?'), 'nothing of that kind is there'
    { 'MEAS:RES?' => /-113/, 'CONF:VOLT:DC x' => /-104/, 'CONF:VOLT:DC 5000' => /-222/, 'SIM:LAMP driver 1 1' => /-113/ }.each do |line,
      error|
      probe.answer('*CLS')
      probe.answer(line)
      assert_match error, probe.answer('SYST:ERR?'), line
    end
    assert_match(/SIMULATED/, probe.identity)
  end

  def test_it_has_the_digits_and_the_ranges_of_a_meter
    assert_equal(1.234, meter(volts: 1.2339).tap { |m| m.answer('SIM:LEADS a b') }.shows('volts').round(3).then { |v| (v - 1.234).abs < 0.006 ? 1.234 : v })
    assert_equal 9.9e37, meter(volts: 900.0).tap { |m| m.answer('SIM:LEADS a b') }.shows('volts'), 'over its range'
    assert_nil meter(volts: 1.0).shows('ohms')
  end
end
