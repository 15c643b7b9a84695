# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../formats/meter_log'

class MeterLogTest < Miser::Test
  Log = Miser::Formats::MeterLog

  def test_columns_and_units_are_guessed_and_can_be_told
    log = Log.new("n;Elapsed time [ms];Current [mA]\n1;0;1880\n2;1000;1 800,5\n3;2000;oops\n")
    assert_equal({ 'time_column' => 1, 'time_unit' => 'ms', 'value_column' => 2, 'value_unit' => 'mA' }, log.mapping)
    assert_equal [[0.0, 1.88], [1.0, 1.8005]], log.samples
    assert_equal(['line 4'], log.errors.map(&:at))
    told = Log.new("a,b\n1.88,0\n1.8,60\n", { 'time_column' => 1, 'value_column' => 0 })
    assert_equal [[0.0, 1.88], [60.0, 1.8]], told.samples
  end

  def test_a_clock_over_midnight
    log = Log.new("when,amps\n23:59:30,1.9\n00:00:30,1.8\n00:01:30,1.75\n")
    assert_equal 'clock', log.mapping['time_unit']
    assert_equal [0.0, 60.0, 120.0], log.samples.map(&:first)
  end

  def test_what_is_no_log
    ['', "time,amps\n", "\"unclosed\n1,2",
      "\xFF\xFE1,2"].each { |text| assert_raises(Miser::Formats::CsvTable::Unreadable, text.inspect) { Log.new(text) } }
    assert_raises(Miser::Formats::CsvTable::Unreadable) { Log.new("1,2\n", { 'value_column' => 7 }) }
    assert_empty Log.new("a,b\nc,d\n").samples
    assert_equal 2, Log.new("time,amps\n0,-3\n1,900\n").errors.size, 'no lamp draws so'
  end

  def test_out_and_in_again
    reading = { 'samples' => [{ 'id' => 'a', 't_s' => 0, 'amps' => 1.88 }, { 'id' => 'b', 't_s' => 60.5, 'amps' => 1.8 }] }
    assert_equal [[0.0, 1.88], [60.5, 1.8]], Log.new(Log.write(reading)).samples
    assert_equal "time [s],amps [A]\r\n", Log.write(reading).lines.first
  end

  def test_a_long_log_is_thinned
    log = Log.new((0..9000).map { |i| "#{i},1.8" }.join("\n"))
    assert_operator log.samples.size, :<=, Log::MOST_SAMPLES
    assert_equal 9001, log.rows
  end
end
