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
    assert_equal %w[flag/ac_runaway owes/lighting lamp/tail draw/unread order/unordered aim card], points(job).keys
    error = assert_raises(Miser::Stage::NotYet) { hand_over(job) }
    assert_match(/still open: .* passes .* V at/, error.message)
    agreed = points(job).keys.map { |key| { 'id' => "r-#{key.tr('/', '-')}", 'point' => key, 'reason' => ' as agreed ' } }
    answered = job.merge('left_open' => agreed.map { |row| row['point'] == 'lamp/tail' ? row.merge('reason' => '  ') : row })
    assert_equal ['as agreed', nil], points(answered).values_at('flag/ac_runaway', 'lamp/tail')
    error = assert_raises(Miser::Stage::NotYet) { hand_over(answered) }
    assert_match(/still open: Lamp tail: neither kept/, error.message)
    assert_equal '2026-01-01T00:00:00Z', hand_over(job.merge('left_open' => agreed)).dig('handed_over', 'at')
    decided = answered.merge('choices' => [led, { 'id' => 'k', 'position_id' => 'tail', 'action' => 'keep' }])
    refute_includes points(decided).keys, 'lamp/tail'
  end

  # A regulator fitted with the lamps cures it: neither asked of the technician nor told to the rider.
  def test_what_is_cured_is_not_asked
    job = coil(choices: [swap('low', law: 'driver', figures: stated(0.6), min_v: 4, max_v: 24, supply: 'either'),
      { 'id' => 'k', 'position_id' => 'tail', 'action' => 'keep' }])
    job['circuits'][0]['regulator_after'] = { 'fitted' => true, 'makes_dc' => true, 'volts' => 14.4 }
    assert_empty points(job).keys.grep(/flag|lamp/)
    assert_includes Miser::Ticket.new(job).budget.flags.map { |f| [f.key, f.side] }, %w[ac_runaway before]
    refute(Miser::Verdicts::HandOver.new(Miser::Ticket.new(job)).must_know.any? { |line| line.include?('the coil passes') })
  end

  # A machine with a battery that earns 16 A at cruise: everything is done, or one thing isn't.
  def whole(**changes)
    part = swap('low', base: 'H4', kind: 'bulb', name: 'Bulb', figures: stated(1.6), does: 'head_low')
    read = { 'id' => 'r', 'load_id' => 'low', 'choice_id' => 'c-low', 'kind' => 'settled', 'amps' => 1.6, 'volts' => 14.0 }
    job = plain_job(loads: [lamp('low', base: 'H4', filament: 'low')], choices: [part], readings: [read], aim: { 'set' => true },
      purchases: [{ 'id' => 'p', 'key' => 'own/Bulb/H4//', 'name' => 'Bulb', 'packs' => 9, 'pack' => 1, 'pieces' => 9,
                    'state' => 'received' }],
      checks: { 'after' => { 'tried' => true } }, left_open: [{ 'id' => 'o', 'point' => 'card', 'reason' => 'done without' }])
    job.merge(changes.transform_keys(&:to_s))
  end

  # One thing undone or unknown, one point; nothing undone, none.
  def test_each_thing_undone_or_unknown_is_a_point
    open = ->(**changes) { LeftOpen.new(Miser::Ticket.new(whole(**changes))).unanswered.to_h { |p| [p.key, p.text] } }
    assert_empty open.call
    assert_equal ['aim'], open.call(aim: { 'distance_m' => 7.5 }).keys
    assert_equal ['draw/unread'], open.call(readings: []).keys
    assert_match(/Bulb/, open.call(purchases: []).fetch('order/unordered'))
    coming = whole['purchases'].map { |row| row.merge('state' => 'ordered', 'supplier' => 'Skerry') }
    assert_equal({ 'order/waits' => 'Waits for Skerry: Bulb.' }, open.call(purchases: coming))
    assert_match(/not begun: none of its steps/, open.call(left_open: []).fetch('card'))
    assert_equal %w[function function/closed], open.call(checks: {}).keys
    mistyped = whole['readings'].map { |row| row.merge('amps' => 46.0).except('choice_id') }
    assert_match(/Lamp low, as read: 4\.6 A meant\?/, open.call(readings: whole['readings'] + mistyped.map do |r|
      r.merge('id' => 'odd')
    end).fetch('reading/odd'))
    ticket = Miser::Ticket.new(whole(readings: whole['readings'] + mistyped.map { |r| r.merge('id' => 'odd') }))
    assert_includes ticket.overall.notes, 'This rests on a reading that looks mistyped: Lamp low.'
    # Sums that were read of the old lamp say nothing of the part in its place.
    sum = ->(what) { [{ 'id' => 's', 'on' => [what], 'amps' => 1.7, 'volts' => 13.0 }] }
    assert_equal ['draw/unread'], open.call(readings: [], sums: sum['low']).keys
    assert_empty open.call(readings: [], sums: sum['low.c-low'])
    unread = swap('low', base: 'H4', kind: 'bulb', name: 'Bulb', does: 'head_low')
    assert_match(/Draw not known.*low/, open.call(choices: [unread], readings: []).fetch('draw/unknown'))
  end

  # A lamp seen open and not after closing is asked for, and the card's last look holds until it is.
  def test_closed_again_is_tried_again
    ticket = ->(sides) { Miser::Ticket.new(whole(checks: {}, left_open: [], function: sides)) }
    cells = ticket.call({}).stage('function').check.cells('open').map { |c| { 'id' => c.key, 'saw' => 'ok', 'expected' => 'on' } }
    held = lambda do |sides|
      card = ticket.call(sides).stage('fit').card
      card.held(card.steps.find { |s| s.key == 'end/again' })
    end
    assert_match(/No lamp was tried again after it was closed/, held.call('open' => cells))
    assert_match(/\A1 of \d+ not tried after it was closed: Lamp low/, held.call('open' => cells, 'closed' => cells.drop(1)))
    assert_nil held.call('open' => cells, 'closed' => cells)
    dark = [cells.first.merge('saw' => 'lit'), *cells.drop(1)]
    assert_match(/lit, and should not be/, held.call('open' => cells, 'closed' => dark))
    assert_empty LeftOpen.new(ticket.call('open' => cells, 'closed' => cells)).points.map(&:key).grep(/function/)
  end

  # 18 A of grips on a system that earns 16.3 A at cruise and 1.6 A at idle (P/V·(1 − n0/n) scaled to the rating).
  def test_what_runs_down_is_a_point_and_told_to_the_rider
    grips = lamp('grips', role: 'grips', name: 'Grips', law: 'heater', figures: stated(18.0), wanted: true, taken: true)
            .merge('group' => 'accessory')
    job = whole(loads: [*whole['loads'], grips])
    text = LeftOpen.new(Miser::Ticket.new(job)).points.find { |p| p.key.start_with?('owes/') }.text
    assert_match(/draw \d+\.\d A, the charging gives \d+\.\d A\. Battery runs down, in about .*(hours|minutes)/, text)
    assert_includes Miser::Verdicts::HandOver.new(Miser::Ticket.new(job)).must_know, text
    refute(Miser::Verdicts::HandOver.new(Miser::Ticket.new(whole)).must_know.any?(/Battery|aimed:/))
    assert(Miser::Verdicts::HandOver.new(Miser::Ticket.new(whole(aim: {}))).must_know.any?(/was not aimed/))
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
