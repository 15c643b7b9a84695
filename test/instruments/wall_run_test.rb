# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/bench'
require_relative '../../instruments/wall_run'
require_relative '../../core/beam/wall'

# A wall read mark by mark on the stand-in, hands off.
class WallRunTest < Miser::Test
  include Miser::BenchSupport

  FRAME = { 'distance_m' => 5.0, 'columns' => 5, 'rows' => 3, 'width_m' => 2.0, 'up_m' => 0.2, 'down_m' => 0.4 }.freeze

  def start(from: nil, pace: 40.0, beam: '40 0.8 0.22 0.25', **rest)
    runs.start(Miser::Instruments::WallRun.new(id: 'w1', subject: { job: 'j', wall: 'w' }, light: light_address,
      marks: Miser::Beam::Wall.new(FRAME).marks(from: from),
      beam: beam, every: 0.02, pace: pace, **rest))
  end

  # Followed, as a window does: a run that nobody follows ends by itself.
  def finished(run) = run.tape.with_reader { eventually(30) { run.view[:state] == 'stopped' } }

  def marks_of(run) = run.tape.after(0, wait: 0).select { |e| e.kind == 'mark' }.map(&:data)

  def test_the_whole_wall_with_no_hand_on_it
    run = start
    finished(run)
    read = marks_of(run)
    assert_equal 15, read.size
    assert_equal %w[r0c0 r0c4 r1c4 r1c0 r2c0], [0, 4, 5, 9, 10].map { |i| read[i][:mark] }, 'there along one row and back along the next'
    beam = Miser::StandIns::BeamSpecimen.new(40, 0.8, 0.22, 0.25)
    wall = Miser::Beam::Wall.new(FRAME)
    read.each do |m|
      row, column = m[:mark].scan(/\d+/).map(&:to_i)
      assert_in_delta 0.985 * beam.lux(wall.xs[column], wall.ys[row]), m[:lux], [0.06, 0.01 * m[:lux]].max, m[:mark]
    end
    assert_nil run.view[:mark]
    assert run.view[:simulated]
  end

  # A meter's zero stirs to either side: what is written down of a dark wall is dark, never less.
  def test_a_dark_wall_is_dark
    run = start(beam: '0 0.8 0.22 0.25')
    finished(run)
    read = marks_of(run).map { |m| m[:lux] }
    assert_equal 15, read.size
    read.each { |lux| assert_includes 0.0..0.2, lux }
    shown = run.tape.after(0, wait: 0).select { |e| e.kind == 'lux' }.map { |e| e.data[:value] }
    assert_operator shown.min, :>=, 0.0
  end

  def test_a_hand_may_hurry_it_and_go_back
    run = start(from: 'r1c3', pace: 1.0)
    eventually { run.view[:last_lux] }
    assert_equal 'r1c3', run.view[:mark]
    run.take
    assert_equal 'r1c2', run.view[:mark]
    run.back
    assert_equal 'r1c3', run.view[:mark]
    run.again
    assert_equal 'r1c3', run.view[:mark]
    assert_equal 1, marks_of(run).size
  end

  def test_a_cable_pulled_keeps_the_marks_that_were_read
    run = start
    eventually { marks_of(run).size > 3 }
    bench.light_meter.instrument.answer('SIM:FAULT pulled')
    bench.light_meter.hang_up
    eventually { run.view[:state] == 'interrupted' }
    read = marks_of(run).size
    bench.light_meter.instrument.answer('SIM:FAULT none')
    run.go_on
    finished(run)
    assert_equal 15, marks_of(run).size
    assert_operator read, :<, 15
  end
end
