# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../core/plan/work'
require_relative '../../formats/job_schema'

# The colour of the light that leaves a lamp. What each function must show: UN Regulation 53 and FMVSS 108, from memory.
class LampLightTest < Miser::Test
  def led(does, colour, base: 'P21W', amps: 0.2, **more)
    { 'id' => "p-#{does}-#{colour}", 'name' => "LED #{colour}", 'base' => base,
      'functions' => [{ 'id' => 'f', 'does' => does, 'law' => 'regulated', 'colour' => colour, 'figures' => stated(amps) }.compact] }
      .merge(more.transform_keys(&:to_s))
  end

  def of(role, part, base: 'P21W', **position)
    row = { 'id' => 'l', 'name' => 'Lamp', 'holder' => { 'base' => base } }.merge(position.transform_keys(&:to_s))
    load = { 'id' => 'x', 'name' => role, 'group' => 'lamp', 'role' => role, 'position_id' => 'l' }
    Miser::Job::LampLight.new(Miser::Job::Lamp.new(row, [load], []), part)
  end

  def verdict(role, colour, **position) = of(role, led(Miser::Job::Functions.of(role), colour), **position).worst&.verdict

  # Role, colour, where the lamp is: what comes of it. A coloured lens passes its own colour alone.
  CASES = [
    ['brake', 'amber', {}, 'no'], ['brake', 'amber', { lens: 'red' }, 'no'], ['brake', 'amber', { lens: 'amber' }, 'no'],
    ['brake', 'red', {}, 'fits'], ['brake', 'red', { lens: 'clear' }, 'fits'], ['brake', 'white', { lens: 'red' }, 'fits'],
    ['brake', 'white', { lens: 'clear' }, 'no'], ['brake', 'white', { lens: 'smoked' }, 'no'], ['brake', 'white', {}, 'unknown'],
    ['tail', 'amber', {}, 'no'], ['tail', nil, { lens: 'red' }, 'unknown'],
    ['plate', 'white', {}, 'fits'], ['plate', 'amber', {}, 'no'], ['plate', 'red', {}, 'no'],
    ['signal_left', 'amber', {}, 'fits'], ['signal_left', 'white', { lens: 'amber' }, 'fits'], ['signal_left', 'white', {}, 'unknown'],
    ['signal_left', 'white', { lens: 'clear' }, 'no'], ['signal_left', 'red', {}, 'no'], ['signal_left', 'red', { end: 'rear' }, 'unknown'],
    ['signal_left', 'amber', { lens: 'red', end: 'rear' }, 'no'],
    ['head_low', 'white', {}, 'fits'], ['head_low', 'yellow', {}, 'fits'], ['head_low', 'amber', {}, 'no'], ['head_high', 'red', {}, 'no'],
    ['position', 'white', { end: 'front' }, 'fits'], ['position', 'amber', { end: 'front' }, 'unknown'],
    ['position', 'red', { end: 'front' }, 'no'], ['position', 'red', { end: 'rear' }, 'fits'], ['telltale', 'red', {}, nil]
  ].freeze

  def test_light_times_lens
    CASES.each { |role, colour, position, want| assert_equal [want], [verdict(role, colour, **position)], "#{role} #{colour} #{position}" }
  end

  # A whole unit brings its own lens; a filament kept and a function that stays on the old lamp have the colour they had.
  def test_whose_lens_it_is
    assert_equal 'fits', of('head_low', led('head_low', 'white', kind: 'unit', size: '7in'), lens: 'amber').worst.verdict
    kept = led('tail', 'amber').tap { |p| p['functions'].first['how'] = 'kept' }
    assert_nil of('tail', kept).worst
  end

  def test_a_clear_window_that_lights_the_plate_wants_white
    assert_equal 'no', verdict('tail', 'red', lens: 'red', plate_window: true)
    assert_equal 'fits', verdict('tail', 'white', lens: 'red', plate_window: true)
    assert_equal 'unknown', verdict('tail', nil, lens: 'red', plate_window: true)
    both = led('tail', 'red').tap { |p| p['functions'] << { 'id' => 'g', 'does' => 'plate', 'colour' => 'white' } }
    assert_equal 'fits', of('tail', both, lens: 'red', plate_window: true).worst.verdict
    assert_equal 'fits', verdict('tail', 'red', lens: 'red', plate_window: false)
  end

  # Brake lamp, headlamp and signal of one base, on one shelf.
  def machine(**more)
    lamps = { 'b' => 'brake', 't' => 'tail', 'p' => 'plate', 'h' => 'head_low' }.map do |id, role|
      two_in_one(id, base: 'P21W', end: role == 'head_low' ? 'front' : 'rear', does: { role => { 'base' => 'P21W' } })
    end
    plain_job(positions: lamps.map(&:first), loads: lamps.flat_map(&:last), **more)
  end

  SHELF = %w[amber red white].map { |c| [c, c == 'red' ? 'brake' : 'signal'] }.freeze

  def shelf
    unit = led('head_low', 'white', base: nil, amps: 0.05, kind: 'unit', size: '7in').compact.merge('id' => 'unit')
    unsaid = led('brake', nil, amps: 0.01).merge('id' => 'unsaid')
    [*SHELF.map { |colour, does| led(does, colour, amps: colour == 'amber' ? 0.02 : 0.3).merge('id' => colour) }, unit, unsaid]
  end

  # The amber bulb draws least, so a plan by what is kept would take it.
  def test_no_plan_puts_a_wrong_or_unsaid_colour_anywhere
    job = machine
    market = Miser::Buying::Market.new(parts: shelf.map { |p| p.merge('price_cents' => 500) }, money: { 'currency' => 'EUR' })
    ticket = Miser::Ticket.new(job.merge('plan' => { 'aim' => 'kept', 'keeps' => [] }), market: market)
    work = Miser::Plan::Work.new(ticket, market.parts, days: ->(_) {})
    work.run
    taken = work.outcome(work.search.best).ticket
    assert_equal({ 'b' => 'red', 't' => 'red', 'p' => 'white', 'h' => nil }, taken.document.lamps.to_h { |l| [l.id, l.part&.fetch('shelf_id')] })
    assert_includes work.draft.left_out.map(&:why), 'the colour of its light is not said: brake wants red'
  end

  def test_a_wrong_colour_is_last_and_one_that_is_not_said_is_a_check
    ticket = Miser::Ticket.new(machine)
    verdicts = lambda do |id|
      ticket.offers(ticket.document.lamp(id), shelf, ticket.budget.scenarios.first).last.map { |o| [o.part['id'], o.fit.verdict] }
    end
    brake = verdicts['b'].to_h
    assert_equal({ 'red' => 'fits', 'unsaid' => 'unknown', 'white' => 'unknown', 'amber' => 'no', 'unit' => 'no' }, brake)
    assert_equal 'red', brake.keys.first
    assert_equal %w[no], %w[t p].map { |id| verdicts[id].to_h['unit'] }.uniq
    assert_equal 'no', verdicts['h'].to_h['amber']
  end

  # Chosen all the same: an open point, and a want that is wrong.
  def test_chosen_all_the_same_it_is_an_open_point
    job = machine(choices: [{ 'id' => 'c', 'position_id' => 'b', 'action' => 'swap', 'part' => led('signal', 'amber').except('id') }])
    ticket = Miser::Ticket.new(job)
    point = Miser::Verdicts::LeftOpen.new(ticket).points.find { |p| p.key == 'fit/b' }
    assert_match(/wrong colour: brake wants red/, point.text)
    assert_equal(%w[wrong], ticket.stage('choose').wants.select { |w| w.text.include?('wrong colour') }.map(&:weight))
    unsaid = machine(choices: [{ 'id' => 'c', 'position_id' => 'b', 'action' => 'swap', 'part' => led('brake', nil).except('id') }])
    assert_includes Miser::Ticket.new(unsaid).stage('choose').wants.map(&:text).join, 'the colour of its light is not said'
  end

  # What the demo is fitted with has the colour it should.
  def test_the_demo_is_the_right_colour
    Miser::Cli::DemoData.documents.each do |document|
      assert_empty Miser::Ticket.new(document).misfits.map(&:last), document['id']
    end
  end
end
