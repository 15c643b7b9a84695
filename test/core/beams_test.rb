# frozen_string_literal: true

require_relative '../test_helper'

# The beams of a job, as a document has them.
class BeamsOfAJobTest < Miser::Test
  include Miser::Beam

  def wall(id, side, distance: 5, beam: 'low', lux: 10, **rest)
    { 'id' => id, 'beam' => beam, 'side' => side, 'distance_m' => distance, 'columns' => 3, 'rows' => 3, 'width_m' => 2, 'up_m' => 0.5,
      'down_m' => 0.5,
      'cells' => Array.new(9) { |k| { 'id' => "r#{k / 3}c#{k % 3}", 'lux' => lux } } }.merge(rest.transform_keys(&:to_s))
  end

  def beams(*walls, shelf: ->(_) {}, **rest)
    Beams.new({ 'beam' => { 'cutoff_m' => 0.1, 'walls' => walls }.merge(rest.transform_keys(&:to_s)) }, shelf)
  end

  # The cut-off is a direction: from twice as far it lies twice as far down.
  def test_the_cut_off_lies_in_one_direction
    job = beams(wall('far', 'before', distance: 10), wall('near', 'after'))
    assert_equal([-0.2, -0.1], job.entries.map { |e| job.line_at(e.wall) })
    assert_in_delta job.figures('far').glare.working.inputs.first.value, -0.2
    assert_in_delta(-0.1, beams.line)
  end

  # Another beam's wall, or a later one, does not move it.
  def test_the_cut_off_is_measured_at_the_dipped_beams_wall
    job = beams(wall('low', 'after', distance: 5), wall('high', 'after', beam: 'high', distance: 20))
    assert_equal [5.0, -0.1], [job.line_distance, job.line]
    assert_equal(-0.4, job.line_at(job.entries[1].wall))
  end

  # Nobody measured it: it is taken where the school of aim wants it, and says so. One per cent of 5 m.
  def test_a_cut_off_nobody_measured_is_where_the_aim_wants_it
    job = Beams.new({ 'beam' => { 'walls' => [wall('a', 'after')] } }, ->(_) {})
    assert_predicate job, :line_assumed?
    assert_in_delta(-0.05, job.line, 1e-9)
    glare = job.figures('a').glare
    assert glare.assumed
    assert_match(/rule of aim/, glare.working.inputs.first.origin)
    refute beams(wall('a', 'after')).figures('a').glare.assumed
    inches = Beams.new({ 'beam' => { 'walls' => [wall('a', 'after')] }, 'aim' => { 'school' => 'inches' } }, ->(_) {})
    assert_in_delta(-5 * 2 / 300.0, inches.line, 1e-9)
  end

  # A high beam is meant to light what is up there: no share of it is glare.
  def test_a_high_beam_has_no_cut_off
    job = beams(wall('before', 'before', beam: 'high', lux: 10), wall('after', 'after', beam: 'high', lux: 25))
    assert_equal '2.5 times the peak, 2.5 times the light on the wall. More light where it is wanted.', job.comparison('high').sentence
    assert_nil job.figures('after').glare.value
    refute_predicate job.figures('after'), :glaring?
    assert_match(/times the glare/, beams(wall('a', 'before'), wall('b', 'after', lux: 25)).comparison('low').sentence)
  end

  def test_what_cannot_be_judged_says_why_and_holds_nothing_up
    job = beams(wall('dark', 'before', lux: 0), wall('empty', 'before', cells: []), wall('bare', 'before', distance: nil).compact,
      wall('good', 'after'))
    assert_equal ['No cell read any light.', 'No cell is read yet.', 'The distance is not entered.', nil], job.entries.map(&:reason)
    assert_nil job.comparison('low')
    assert_nil job.figures('dark')
    assert_equal 'good', job.entry('low', 'after').id
    assert_equal [0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0], job.levels
    assert_empty Beams.new({}, ->(_) {}).levels
  end

  # A lamp of the same candela all round, 100 cd: 4 lx straight ahead at 5 m.
  def test_a_file_is_laid_as_the_wall_that_was_read_unless_asked_otherwise
    even = Photometry.new(type: 'B', verticals: [-30.0, 30.0], horizontals: [-30.0, 30.0], candela: [[100.0, 100.0], [100.0, 100.0]])
    shelf = ->(id) { id == 'f' ? even : nil }
    job = beams(wall('a', 'after', distance: 4), shelf: shelf, predicted: { 'file' => 'f' })
    assert_in_delta 100 / 16.0, job.foretold.wall.peak[:lux], 1e-9
    asked = beams(wall('a', 'after', distance: 4), shelf: shelf,
      predicted: { 'file' => 'f', 'distance_m' => 5, 'height_m' => 0.7,
                   'down' => 0.0 }).foretold
    assert_in_delta 4.0, asked.wall.peak[:lux], 1e-9
    assert_equal [-0.7, 0.0], [asked.floor, asked.down]
    assert_nil asked.beside(0.0)
    assert_match(/at half of 4 lx at 5 m/, job.pattern('f'))
    assert_nil job.pattern('gone')
    assert_nil beams(predicted: { 'file' => 'gone' }, shelf: shelf).foretold
  end

  def test_many_readings_at_once_leave_the_rest
    document = { 'beam' => { 'walls' => [wall('a', 'before'), wall('b', 'after')] } }
    taken = Miser::Job::WallCells.take(document, 'b', { 'r0c0' => 7.5, 'r0c1' => nil, 'r9c9' => 1.0 })
    assert_equal document['beam']['walls'][0], taken['beam']['walls'][0]
    cells = taken['beam']['walls'][1]['cells'].to_h { |c| [c['id'], c['lux']] }
    assert_equal [7.5, 10, 1.0], cells.values_at('r0c0', 'r0c1', 'r9c9')
  end
end

# What a job's beam says where the machine is seen from afar, and what its marks do not say.
class WorseBeamTest < Miser::Test
  def wall(side, above:, below:, rows: 3)
    { 'id' => side, 'beam' => 'low', 'side' => side, 'distance_m' => 5, 'columns' => 3, 'rows' => rows, 'width_m' => 2, 'up_m' => 0.5,
      'down_m' => 0.5,
      'cells' => Array.new(3 * rows) { |k| { 'id' => "r#{k / 3}c#{k % 3}", 'lux' => k < 3 * (rows / 2) ? above : below } } }
  end

  def flags(*walls)
    Miser::Ticket.new(plain_job(loads: [lamp('a')], beam: { 'cutoff_m' => 0.1, 'walls' => walls })).flags.select { |f| f.key == 'worse_beam' }
  end

  def test_a_worse_headlamp_is_said_wherever_the_machine_is
    walls = [wall('before', above: 1, below: 20, rows: 11), wall('after', above: 30, below: 40, rows: 11)]
    worse = flags(*walls)
    assert_equal ['a worse headlamp'], worse.map(&:short)
    assert(worse.all?(&:serious?))
    assert_empty flags(wall('before', above: 1, below: 20), wall('after', above: 30, below: 40)), 'three rows can’t tell'
    job = plain_job(loads: [lamp('a')], beam: { 'cutoff_m' => 0.1, 'walls' => walls })
    assert_includes Miser::Verdicts::LeftOpen.new(Miser::Ticket.new(job)).points.map(&:key), 'flag/worse_beam'
    assert_empty flags(wall('before', above: 10, below: 20), wall('after', above: 1, below: 40))
    assert_empty flags(wall('before', above: 1, below: 20))
  end

  # Light that is over half the peak at the last mark goes on beyond it.
  def test_a_width_that_ends_where_the_marks_end_is_at_least_so_much
    flat = Miser::Beam::Beams.new({ 'beam' => { 'walls' => [wall('after', above: 1, below: 20)] } }, ->(_) {}).figures('after')
    assert_equal({ half_w: true, half_h: true, tenth_w: true, tenth_h: true }, flat.at_least)
    bell = wall('after', above: 0, below: 1)
    bell['cells'][4]['lux'] = 100
    narrow = Miser::Beam::Beams.new({ 'beam' => { 'walls' => [bell] } }, ->(_) {}).figures('after')
    assert_equal [false], narrow.at_least.values.uniq
    assert_match(/at least 2\.00 m|at least 2 m/, Miser::Beam::Wall.new(wall('after', above: 1, below: 20)).words(-0.05))
  end
end
