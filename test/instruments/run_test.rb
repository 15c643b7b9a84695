# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/bench'

# Guided readings on the stand-ins, faults among them.
class RunTest < Miser::Test
  include Miser::BenchSupport

  def test_cold_series_and_settled_by_itself
    run = start_run(light: light_address)
    eventually(20) { run.view[:watch] == 'settled' }
    view = run.view
    # The stand-in's scale is 0.4 % off, as the meter's data sheet allows.
    assert_in_delta 1.6 * 1.004 * 12.5 / view[:volts], view[:settled], 0.02
    assert_operator view[:cold], :>, view[:settled] * 1.04
    assert view[:simulated]
    assert_equal(view[:series].map { |s| s[:t_s] }.sort, view[:series].map { |s| s[:t_s] })
    assert_operator view[:series].size, :<=, Miser::Draw::Watch::KEPT
    assert_operator run.counts[:light], :>, 5
  end

  def test_a_cable_pulled_in_the_middle_keeps_what_was_taken
    run = start_run
    eventually { run.view[:series].size > 6 }
    bench.meter.instrument.answer('SIM:FAULT pulled')
    bench.meter.hang_up
    eventually { run.view[:state] == 'interrupted' }
    kept = run.view[:series].size
    assert_operator kept, :>, 6
    assert_equal 'pulled', run.view[:trouble][:kind]
    bench.meter.instrument.answer('SIM:FAULT none')
    run.go_on
    eventually { run.view[:series].size > kept }
    assert_nil run.view[:trouble]
  end

  def test_one_wrong_answer_is_passed_over_and_three_are_not
    run = start_run
    eventually { run.counts[:meter] > 3 }
    bench.meter.instrument.answer('SIM:FAULT garbage')
    eventually { run.view[:state] == 'interrupted' }
    assert_equal 'garbage', run.view[:trouble][:kind]
  end

  def test_a_lamp_gone_dark_is_noticed
    run = start_run
    eventually { run.view[:series].size > 4 }
    bench.meter.instrument.answer('SIM:OFF')
    eventually { run.view[:watch] == 'lost' }
    assert_match(/fuse blown/, run.view[:words])
    refute_empty run.view[:series]
  end

  def test_one_reading_at_an_instrument
    start_run
    assert_raises(Miser::Instruments::Runs::Busy) { start_run(id: 'r2') }
    runs.find('r1').stop
    assert_equal 'connecting', start_run(id: 'r2').tape.after(0).first.data[:state]
  end

  # Property: however readers come and go, each sees every event once, in order.
  def test_a_tape_loses_nothing_and_stays_bounded
    tape = Miser::Instruments::Tape.new(most: 500)
    readers = Array.new(4) do |i|
      Thread.new do
        seen = []
        until seen.last == 2000 || (seen.size.positive? && tape.closed? && tape.after(seen.last, wait: 0.01).empty?)
          tape.after(seen.last || 0, wait: 0.05).each { |e| seen << e.number }
          sleep 0.001 * i
        end
        seen
      end
    end
    2000.times { |i| tape.write('x', { i: i }) && (sleep 0.001 if (i % 50).zero?) }
    tape.close
    readers.each { |r| assert_equal (1..2000).to_a, r.value }
    assert_equal 500, tape.size
    assert_equal({ missed: 1500 }, tape.after(0).first.data, 'one that comes too late is told')
  end

  def test_a_run_nobody_follows_ends
    run = start_run
    run.tape.define_singleton_method(:unread_s) { 100.0 }
    eventually { run.view[:state] == 'stopped' }
  end
end
