# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/machines'

# A machine leaves when everything wrong or undecided is mended, or answered for.
class LeftOpenTest < Miser::Test
  include Miser::Machines

  LeftOpen = Miser::Verdicts::LeftOpen

  # A coil that two small lamps can't hold down.
  def coil(**rest)
    loads = [lamp('low', base: 'S2', filament: 'low'), lamp('tail', role: 'tail', base: 'R5W')]
    plain_job(system: 'ac_lit', loads: loads, **rest).tap do |job|
      job['checks'] = { 'after' => { 'tried' => true } }
      job['circuits'][0].merge!('alternator' => { 'rated_w' => 75, 'rated_rpm' => 6000, 'cut_in_rpm' => 1300, 'pole_pairs' => 2 },
        'regulator' => { 'fitted' => false })
    end
  end

  def points(job) = LeftOpen.new(Miser::Ticket.new(job)).points.to_h { |p| [p.key, p.reason] }

  def hand_over(job)
    call = Miser::Stage::Call.new(ticket: Miser::Ticket.new(job), document: job, value: '', fresh_id: lambda {
      'x'
    }, now: '2026-01-01T00:00:00Z')
    Miser::Stage.any_act('hand_over').call(call)
  end

  def test_undecided_lamps_and_red_flags_wait_for_an_answer
    led = swap('low', law: 'driver', figures: stated(0.6), min_v: 4, max_v: 24, supply: 'either')
    job = coil(choices: [led])
    assert_equal %w[flag/ac_runaway lamp/tail], points(job).keys
    error = assert_raises(Miser::Stage::NotYet) { hand_over(job) }
    assert_match(/still open: .* passes .* V at/, error.message)
    answered = job.merge('left_open' => [{ 'id' => 'a', 'point' => 'flag/ac_runaway', 'reason' => ' lights off above walking pace ' },
      { 'id' => 'b', 'point' => 'lamp/tail', 'reason' => '  ' }])
    assert_equal({ 'flag/ac_runaway' => 'lights off above walking pace', 'lamp/tail' => nil }, points(answered))
    assert_raises(Miser::Stage::NotYet) { hand_over(answered) }
    answered['left_open'].last['reason'] = 'the owner brings it'
    assert_equal '2026-01-01T00:00:00Z', hand_over(answered).dig('handed_over', 'at')
    decided = answered.merge('choices' => [led, { 'id' => 'k', 'position_id' => 'tail', 'action' => 'keep' }])
    assert_equal %w[flag/ac_runaway], points(decided).keys
  end

  # A regulator fitted with the lamps cures it: neither asked of the technician nor told to the rider.
  def test_what_is_cured_is_not_asked
    job = coil(choices: [swap('low', law: 'driver', figures: stated(0.6), min_v: 4, max_v: 24, supply: 'either'),
      { 'id' => 'k', 'position_id' => 'tail', 'action' => 'keep' }])
    job['circuits'][0]['regulator_after'] = { 'fitted' => true, 'makes_dc' => true, 'volts' => 14.4 }
    assert_empty points(job)
    assert_includes Miser::Ticket.new(job).budget.flags.map { |f| [f.key, f.side] }, %w[ac_runaway before]
    refute(Miser::Verdicts::HandOver.new(Miser::Ticket.new(job)).must_know.any? { |line| line.include?('the coil passes') })
    assert hand_over(job)['handed_over']
  end

  # What the rider is told fits what was fitted: a bulb can work loose, a unit can't; any machine may meet snow.
  def test_what_the_rider_is_told_of_bulbs_and_snow
    told = lambda do |**part|
      job = plain_job(loads: [lamp('low', base: 'H4', filament: 'low')], choices: [swap('low', figures: stated(1.6), **part)])
      lines = Miser::Verdicts::HandOver.new(Miser::Ticket.new(job)).must_know
      [/work loose/, /snow and frost/].map { |words| lines.any?(words) }
    end
    assert_equal [true, true], told.call(base: 'H4', kind: 'bulb')
    assert_equal [false, true], told.call(kind: 'unit', size: '7in')
    assert_equal [false, false], told.call(kind: 'unit', size: '7in', heated_lens: true)
    bare = plain_job(loads: [lamp('low', base: 'H4', filament: 'low')])
    refute Miser::Verdicts::HandOver.new(Miser::Ticket.new(bare)).must_know.any?(/snow|loose/)
  end

  def test_signals_that_fail_are_one_point
    loads = %w[left right].map { |s| lamp(s, role: "signal_#{s}", base: 'P21W', count: 2) } + [lamp('tell', role: 'telltale', base: 'T2W')]
    led = { law: 'resistor', forward_v: 7.0, figures: stated(0.14, volts: 13.5) }
    job = plain_job(loads: loads, choices: [*%w[left right].map do |s|
      swap(s, **led)
    end, { 'id' => 'k', 'position_id' => 'tell', 'action' => 'keep' }],
      signals: { 'flasher' => 'outage', 'telltale' => 'shared' })
    assert_includes points(job).keys, 'signals'
    refute_includes points(job.merge('signals' => { 'flasher' => 'free_3', 'telltale' => 'pair' })).keys, 'signals'
  end
end
