# frozen_string_literal: true

require_relative '../test_helper'

# Lamps that do several things, and parts that take them over: what a technician holds, before its amps.
class LampsTest < Miser::Test
  Edit = Miser::Job::Edit
  Fitting = Miser::Job::Fitting

  # What each function of a part shines in, where a test does not say.
  COLOUR = { 'tail' => 'red', 'brake' => 'red', 'signal' => 'amber' }.freeze
  H4 = { 'head_low' => {}, 'head_high' => {} }.freeze

  def function(does, amps = nil, **more)
    figures = amps ? { 'figures' => stated(amps) } : {}
    { 'id' => "f-#{does}", 'does' => does, 'law' => 'regulated', 'colour' => COLOUR.fetch(does, 'white'), **figures,
      **more.transform_keys(&:to_s) }
  end

  def part(*functions, **more) = { 'name' => 'LED', 'functions' => functions, **more.transform_keys(&:to_s) }

  def choice(lamp, part, id: 'c', action: 'swap') = { 'id' => id, 'position_id' => lamp, 'action' => action, 'part' => part }

  def machine(*lamps, choices: [], **more)
    plain_job(positions: lamps.map(&:first), loads: lamps.flat_map(&:last), choices: choices, **more)
  end

  def spent(job, scenario, side = 'after') = budget(job).line(side, scenario, 'main').spends.value

  def test_one_choice_sets_every_function_of_its_lamp
    job = machine(two_in_one('h', base: 'H4', does: H4),
      choices: [choice('h', part(function('head_low', 1.4), function('head_high', 2.2)))])
    assert_within 1e-9, 1.4, spent(job, 'idle_night')
    assert_within 1e-9, 2.2, spent(job, 'cruise_night')
    assert_equal 1, Miser::Ticket.new(job).needs.size
  end

  # A projector's third lens joins the low pair: high is low and extra; on a two-filament bulb high replaces low.
  def test_a_lens_added_on_high_beam_is_low_and_extra
    lens = part(function('head_low', 2.1, stays_on: true), function('head_high', 1.15))
    job = machine(two_in_one('h', base: 'H4', does: H4), choices: [choice('h', lens)])
    assert_within 1e-9, 2.1, spent(job, 'idle_night')
    assert_within 1e-9, 3.25, spent(job, 'cruise_night')
    assert_within 1e-9, 60 / 12.0 * ((14.0 / 12)**0.55), spent(job, 'cruise_night', 'before'), 'the old bulb replaces'
  end

  # Three headlamps: two low that stay on, one high, of a fog-lamp kind with single filaments.
  def test_three_headlamps
    job = machine(two_in_one('l', base: 'H27W/1', count: 2, does: { 'head_low' => { 'stays_on' => true } }),
      two_in_one('m', base: 'H27W/1', does: { 'head_high' => {} }))
    one = 27 / 12.0 * ((14.0 / 12)**0.55)
    assert_within 1e-9, 2 * one, spent(job, 'idle_night', 'before')
    assert_within 1e-9, 3 * one, spent(job, 'cruise_night', 'before')
  end

  # A ring light was never there: it comes with the part, wants a feed, and goes with it.
  def test_a_ring_light_comes_with_its_unit
    unit = part(function('head_low', 1.5), function('head_high', 2.0), function('position', 0.3))
    bare = machine(two_in_one('h', base: 'H4', does: H4))
    job = Edit.apply(bare, [{ 'op' => 'add', 'at' => '/choices', 'value' => choice('h', unit) }])
    ring = job['loads'].last
    assert_equal %w[position h c], ring.values_at('role', 'position_id', 'brought_by')
    assert_within 1e-9, 1.8, spent(job, 'idle_night')
    assert_within 1e-9, spent(bare, 'idle_night', 'before'), spent(job, 'idle_night', 'before')
    kept = Edit.apply(job, [{ 'op' => 'add', 'at' => '/choices', 'value' => { 'id' => 'k', 'position_id' => 'h', 'action' => 'keep' } }])
    assert_within 1e-9, spent(bare, 'idle_night', 'before'), spent(kept, 'idle_night'), 'a part only tried lights nothing'
    gone = Edit.apply(job, [{ 'op' => 'remove', 'at' => '/choices/c' }])
    assert_equal bare['loads'], gone['loads']
  end

  # Running, brake and flash in one rear lamp that was a signal: two functions come with it; the running light
  # gives way while it flashes, which is twice the time it is lit.
  def test_running_brake_and_flash_in_one_rear_lamp
    trio = part(function('signal', 0.2), function('brake', 0.24), function('position', 0.06, gives_way: true))
    job = machine(two_in_one('rl', base: 'P21W', end: 'rear', side: 'left', does: { 'signal_left' => {} }))
    job = Edit.apply(job, [{ 'op' => 'add', 'at' => '/choices', 'value' => choice('rl', trio) }])
    assert_equal(%w[signal_left brake position], job['loads'].map { |l| l['role'] })
    assert_within 1e-9, (0.5 * 0.2) + 0.24, spent(job, 'idle_night'), 'flashing all the time, it never runs'
    assert_within 1e-9, (0.03 * 0.2) + (0.15 * 0.24) + (0.94 * 0.06), spent(job, 'slow_trail')
  end

  def test_a_dimmed_function_draws_its_share_of_full_strength
    both = part(function('signal', 0.36), function('position', nil, share: 0.6))
    job = machine(two_in_one('f', base: 'P21/5W', does: { 'signal_left' => {}, 'position' => {} }), choices: [choice('f', both)])
    assert_within 1e-9, 0.216, budget(job).figure('load/after/f-position').value
    measured = job.merge('readings' => [{ 'id' => 'r', 'load_id' => 'f-position', 'choice_id' => 'c', 'kind' => 'settled', 'amps' => 0.25,
                                          'volts' => 14.0, 'volts_at' => 'lamp' }])
    assert_within 1e-9, 0.25, budget(measured).figure('load/after/f-position').value, 'each function is read by itself'
  end

  # A 3-in-1 tail: tail, brake and both signals in one place.
  def test_a_three_in_one_tail_flashes_on_both_sides
    does = { 'tail' => {}, 'brake' => {}, 'signal_left' => {}, 'signal_right' => {} }
    three = part(function('tail', 0.08), function('brake', 0.34), function('signal', 0.22))
    job = machine(two_in_one('t', end: 'rear', does: does), choices: [choice('t', three)])
    assert_equal([0.22, 0.22], %w[left right].map { |s| budget(job).figure("load/after/t-signal_#{s}").value })
    fronts = %w[left right].map { |s| two_in_one("f#{s}", base: 'P21W', end: 'front', does: { "signal_#{s}" => {} }) }
    job = machine(two_in_one('t', base: 'P21W', end: 'rear', does: does), *fronts, choices: [choice('t', three)],
      signals: { 'flasher' => 'outage', 'telltale' => 'none' })
    lamps = Miser::Signals::Survey.new(budget(job)).harness('after').lamps
    assert_equal([%w[rear left regulated], %w[front left filament], %w[rear right regulated], %w[front right filament]],
      lamps.map { |l| [l.place, l.side, l.law] })
  end

  def test_what_nobody_says_of_a_part_stays_unknown
    job = machine(two_in_one('h', base: 'H4', does: H4), choices: [choice('h', part(function('head_low', 1.4), id: 'x'))])
    high = budget(job).line('after', 'cruise_night', 'main')
    refute_predicate high.keeps, :known?
    assert_includes high.keeps.reason, 'head_high'
    assert_equal ['LED, high: draw unknown'], Miser::Ticket.new(job).stage('choose').wants.map(&:text)
    dark = machine(two_in_one('h', base: 'H4', does: H4),
      choices: [choice('h', part(function('head_low', 1.4), function('head_high', how: 'dark')))])
    assert_within 1e-9, 0.0, spent(dark, 'cruise_night')
    kept = machine(two_in_one('h', base: 'H4', does: H4),
      choices: [choice('h', part(function('head_low', 1.4), function('head_high', how: 'kept')))])
    assert_within 1e-9, spent(kept, 'cruise_night', 'before'), spent(kept, 'cruise_night')
  end

  # A lamp's own name says 12 V; what is sold beside it is stated at the setting.
  def test_a_draw_stated_at_no_volts
    bare = { law: 'heater', figures: [{ 'id' => 'f', 'origin' => 'maker', 'amps' => 1.0 }] }
    job = plain_job(loads: [lamp('l1', **bare)], choices: [swap('l1', **bare)], assumptions: { 'stated_v' => 13.0 })
    assert_within 1e-9, 14.0 / 12, spent(job, 'idle_night', 'before')
    assert_within 1e-9, 14.0 / 13, spent(job, 'idle_night')
  end

  # A lamp that the conversion adds was not there before.
  def test_a_lamp_added
    job = machine(two_in_one('h', does: { 'aux_lamp' => {} }), choices: [choice('h', part(function('aux_lamp', 1.0)), action: 'add')])
    assert_within 1e-9, 0.0, spent(job, 'cruise_night', 'before')
    assert_within 1e-9, 1.0, spent(job, 'cruise_night')
  end

  # A part put in another's place: the first stands beside it, and comes back with what was read on it.
  def test_a_part_replaced_keeps_its_readings
    job = machine(two_in_one('h', base: 'H4', does: { 'head_low' => {} }), choices: [choice('h', part(function('head_low', 1.4)))],
      readings: [{ 'id' => 'r', 'load_id' => 'h-head_low', 'choice_id' => 'c', 'kind' => 'settled', 'amps' => 1.1, 'volts' => 14.0,
                   'volts_at' => 'lamp' }])
    other = Edit.apply(job, [{ 'op' => 'add', 'at' => '/choices', 'value' => choice('h', part(function('head_low', 2.0)), id: 'd') }])
    assert_equal([%w[c try], %w[d swap]], other['choices'].map { |c| c.values_at('id', 'action') })
    assert_within 1e-9, 2.0, spent(other, 'idle_night')
    back = Edit.apply(other, [{ 'op' => 'set', 'at' => '/choices/c/action', 'value' => 'swap' }])
    assert_within 1e-9, 1.1, spent(back, 'idle_night')
    assert_empty Edit.apply(back, [{ 'op' => 'remove', 'at' => '/choices/c' }])['readings']
  end

  def test_a_lamp_goes_with_the_last_thing_it_did_and_a_function_with_its_lamp
    job = machine(two_in_one('h', base: 'H4', does: H4), choices: [choice('h', part(function('head_low', 1.4)))])
    one = Edit.apply(job, [{ 'op' => 'remove', 'at' => '/loads/h-head_low' }])
    assert_equal(['h'], one['positions'].map { |p| p['id'] })
    none = Edit.apply(one, [{ 'op' => 'remove', 'at' => '/loads/h-head_high' }])
    assert_equal [[], [], []], none.values_at('positions', 'loads', 'choices')
    assert_equal [[], [], []], Edit.apply(job, [{ 'op' => 'remove', 'at' => '/positions/h' }]).values_at('positions', 'loads', 'choices')
  end

  def four_signals
    %w[left right].product(%w[front rear]).map do |s, e|
      two_in_one("#{e}_#{s}", base: 'R10W', end: e, side: s, does: { "signal_#{s}" => {} })
    end
  end

  def test_front_and_rear_left_and_right_decide_singly_and_are_carried_over_in_one_go
    led = part(function('signal', 0.11))
    job = machine(*four_signals, choices: [choice('front_left', led)])
    fitted = ->(document) { document['choices'].select { |c| c['action'] == 'swap' }.map { |c| c['position_id'] } }
    ids = ->(n = 0) { -> { "x#{n += 1}" } }
    mirrored = Fitting.same(job, 'front_left', 'other_side', &ids[])
    assert_equal %w[front_left front_right], fitted[mirrored]
    all = Fitting.same(mirrored, 'front_left', 'alike', &ids[7])
    assert_equal %w[front_left front_right rear_left rear_right], fitted[all].sort
    assert_equal 1, all['choices'].count { |c| c['action'] == 'try' }, 'what stood on the other side stands beside it now'
    assert_within(1e-9, 2 * 0.11, %w[front rear].sum { |e| budget(all).figure("load/after/#{e}_left-signal_left").value })
    assert_same job, Fitting.same(job, 'rear_left', 'alike', &ids[]), 'where nothing is decided nothing is carried'
  end

  # Two lamps entered as one row: so many lamps, spending the same; a reading was taken on one of them.
  def test_a_row_of_two_taken_apart
    position, loads = two_in_one('s', base: 'R10W', count: 2, place: 'front and rear left', does: { 'signal_left' => {} })
    reading = { 'id' => 'r', 'load_id' => 's-signal_left', 'kind' => 'settled', 'amps' => 0.85, 'volts' => 12.5, 'volts_at' => 'lamp' }
    job = machine([position, loads], choices: [choice('s', part(function('signal', 0.11)))], readings: [reading])
    n = 0
    apart = Fitting.split(job, 's') { "x#{n += 1}" }
    assert_equal([['s', 'front', nil], ['x1', 'rear', nil]], apart['positions'].map { |p| p.values_at('id', 'end', 'count') })
    assert_equal([nil, 'same_model'], apart['readings'].map { |r| r['taken_on'] })
    %w[before after].each { |side| assert_within 1e-9, spent(job, 'idle_night', side), spent(apart, 'idle_night', side) }
    assert_empty Miser::Verdicts::Consistency.broken(apart)
    assert_same job.object_id, Fitting.split(job, 'nobody') { 'x' }.object_id
  end

  def test_what_fits_comes_first_then_what_saves
    job = machine(two_in_one('s', base: 'P21W', does: { 'signal_left' => {} }))
    shelf = [part(function('signal', 0.05), name: 'Other base', base: 'R10W'), part(function('signal', 0.5), name: 'Fits', base: 'P21W'),
      part(function('signal', 0.1), name: 'Fits and saves', base: 'P21W'), part(function('signal', 0.01), name: 'Unsaid'),
      part(function('signal'), name: 'No draw', base: 'P21W')]
    ticket = Miser::Ticket.new(job)
    offers = ticket.offers(ticket.document.lamps.first, shelf, ticket.budget.scenarios.first).last
    assert_equal(['Fits and saves', 'Fits', 'No draw', 'Unsaid', 'Other base'], offers.map { |o| o.part['name'] })
    assert_equal ['base R10W, not this lamp’s'], offers.last.fit.reasons
  end

  # What only takes DC says so before it is fitted to a coil.
  def test_dc_only_on_ac_is_said_before_it_is_fitted
    job = plain_job(system: 'ac_lit', loads: [lamp('t', role: 'tail', base: 'R5W')])
    ticket = Miser::Ticket.new(job)
    offers = ticket.offers(ticket.document.lamps.first, %w[dc either].map do |s|
      part(function('tail', 0.05), base: 'R5W', supply: s, name: s)
    end, nil).last
    assert_equal([%w[either fits], %w[dc work]], offers.map { |o| [o.part['name'], o.fit.verdict] })
    assert_match(/needs DC/, offers.last.fit.reasons.first)
  end

  # What stands at the line with the part is what the line has once it is fitted.
  def test_what_is_offered_is_what_comes
    job = machine(two_in_one('h', base: 'H4', does: H4), two_in_one('t', base: 'R5W', does: { 'tail' => {} }))
    led = part(function('head_low', 1.4), function('head_high', 2.2), base: 'H4')
    ticket = Miser::Ticket.new(job)
    %w[idle_night cruise_night].each do |id|
      offer = ticket.offers(ticket.document.lamps.first, [led], ticket.budget.scenario(id)).last.first
      fitted = budget(job.merge('choices' => [choice('h', led)])).line('after', id, 'main').keeps
      assert_within 1e-9, fitted.value, offer.option.keeps.value, id
      assert_within 1e-6, fitted.sigma, offer.option.keeps.sigma, id
    end
  end

  # The same where both functions were read in sums: their doubts have something in common with each other and with the rest.
  def test_what_is_offered_is_what_comes_where_sums_were_read
    job = machine(two_in_one('h', base: 'H4', does: H4), two_in_one('t', base: 'R5W', does: { 'tail' => {} }))
    job['sums'] = [{ 'id' => 's', 'on' => %w[h-head_low h-head_high t-tail], 'amps' => 10.9, 'volts' => 12.6 }]
    job['scenarios'][0]['duties']['head_high'] = 0.5
    led = part(function('head_low', 1.4), function('head_high', 2.2), base: 'H4')
    ticket = Miser::Ticket.new(job)
    offer = ticket.offers(ticket.document.lamps.first, [led], ticket.budget.scenario('idle_night')).last.first
    fitted = budget(job.merge('choices' => [choice('h', led)])).line('after', 'idle_night', 'main').keeps
    assert_within 1e-9, fitted.value, offer.option.keeps.value
    assert_within 1e-6, fitted.sigma, offer.option.keeps.sigma
  end

  def test_a_function_in_words
    words = Miser::Job::Functions.method(:words)
    assert_equal ['low 1.4 A', 'running 60 % of full', 'brake draw unknown'],
      [words[function('head_low', 1.4)], words[function('position', nil, share: 0.6)], words[function('brake')]]
  end
end
