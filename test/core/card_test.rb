# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/machines'
require_relative '../../cli/demo_data'
require_relative '../../core/card/expected'
require_relative '../../core/card/function_findings'
require_relative '../../core/card/record'
require_relative '../../formats/access_tables'

# What the hands do: steps of what was decided, their order, how far they are, what holds them, what is left in the tray.
class CardTest < Miser::Test
  include Miser::Machines

  Card = Miser::Card
  ACCESS = Miser::Formats::AccessTables.access

  def demo(id) = JSON.parse(JSON.generate(Miser::Cli::DemoData.documents.find { |d| d['id'] == id })).except('card', 'function')
  def ticket(document, access: ACCESS) = Miser::Ticket.new(document, catalogue: CATALOGUE, market: MARKET, access: access)
  def card(document, **rest) = ticket(document, **rest).stage('fit').card

  def log(*rows)
    { 'card' => { 'log' => rows.each_with_index.map do |r, i|
      { 'id' => "r#{i}", 'did' => 'done', 'at' => '2026-11-20T08:00:00Z' }.merge(r)
    end } }
  end

  def ticked(card, *keys) = log(*keys.map { |key| { 'step' => key, 'said' => card.step(key).said } })

  def cells(document, side, **odd)
    check = Card::FunctionCheck.new(Miser::Job::Document.of(document))
    { side => check.cells(side).map { |c| { 'id' => c.key, 'saw' => odd.fetch(c.key.to_sym, 'ok') } } }
  end

  # The wire is dead before a hand is at it, everything is tried before it is closed, what came off last goes on first.
  def test_the_order_of_the_work
    %w[wren125 dunlin250 bracken420 curlew1100 ptarmigan550].each do |id|
      at = card(demo(id)).steps.each_with_index.to_h { |s, i| [s.key, i] }
      off = at.fetch(id == 'ptarmigan550' ? 'before/key' : 'before/battery')
      hands = at.keys.grep(%r{\A(open|fit|feed|cure|box)/})
      assert_operator hands.grep_v(%r{/fuse\z}).map { |k| at[k] }.min, :>, off, id
      assert_operator at['before/tried'], :<, off
      closing = at.keys.grep(%r{\Aclose/})
      refute_empty closing
      assert_operator closing.map { |k| at[k] }.min, :>, at['check/tried'], "#{id}: nothing is closed untried"
      at.keys.grep(%r{/fuse\z}).each do |fuse|
        at.keys.grep(%r{/(look|join|earth|new)\z}).each { |joint| assert_operator at[fuse], :>, at[joint], "#{id}: the fuse is last" }
      end
      assert_equal 'end/ride', at.keys.last
      declared!(id)
    end
    steps = card(demo('curlew1100')).steps.map(&:key)
    nose = %w[screen mirrors inner ball nose]
    assert_equal nose, steps.grep(%r{open/fairing/}).map { |k| k.split('/').last } - ['towel']
    assert_equal nose.last, steps.grep(%r{close/fairing/}).first.split('/').last
  end

  # Not by the order of the work alone: whoever ticks early is told what comes first.
  def declared!(id)
    one = card(demo(id))
    needs = ->(step) { one.needed(step).map(&:key) }
    one.steps.select { |s| s.phase == :close }.each { |s| assert_includes needs[s], 'check/tried', s.key }
    one.steps.select { |s| s.key.end_with?('/fuse') }.each { |s| assert_includes needs[s], 'power/battery', s.key }
    off = id == 'ptarmigan550' ? 'before/key' : 'before/battery'
    one.steps.select { |s| %i[strip fit feed].include?(s.phase) }.each { |s| assert_includes needs[s], off, s.key }
    assert_includes needs[one.step(off)], 'before/tried'
  end

  # What is quoted is what the card has for fitting and wiring, whatever is split up how.
  def test_minutes_add_up
    Miser::Cli::DemoData.documents.each do |document|
      one = card(document)
      worked = one.steps.select { |s| %w[fit wire].include?(s.kind) }.sum { |s| s.minutes || 0 }
      assert_in_delta one.work.labour.lines.sum(&:minutes), worked, 1e-6, document['id']
      assert_in_delta one.steps.sum { |s| s.minutes || 0 }, one.minutes.sum(&:estimate), 1e-6
    end
    timed = card(demo('wren125').merge(log({ 'step' => 'ready/stand', 'spent_s' => 90 },
      { 'step' => 'ready/tray', 'did' => 'time', 'spent_s' => 30 },
      { 'step' => 'before/volts', 'spent_s' => 600 })))
    assert_equal({ 'ready' => 2.0, 'measure' => 10.0 }, timed.minutes.to_h { |m| [m.kind, m.spent] }.slice('ready', 'measure'))
  end

  def test_a_change_upstream_marks_what_it_touches_and_keeps_the_rest
    document = demo('wren125')
    before = card(document)
    document = document.merge(ticked(before, 'ready/stand', 'fit/l1/new', 'feed/w4/lay'))
    assert_equal(%w[done done done], %w[ready/stand fit/l1/new feed/w4/lay].map { |key| card(document).then { |c| c.state(c.step(key)) } })
    other = JSON.parse(JSON.generate(document))
    other['choices'].find { |c| c['position_id'] == 'l1' }['part']['name'] = 'Another bulb'
    other['wiring']['feeds'].reject! { |f| f['load_id'] == 'w4' }
    now = card(other)
    assert_equal 'changed', now.state(now.step('fit/l1/new'))
    assert_equal 'done', now.state(now.step('ready/stand'))
    assert_equal(['feed/w4/lay'], now.gone.map { |r| r['step'] })
    assert_match(/Lay .* for Ring light/, now.gone.first['said'])
    assert_includes now.steps.map(&:text).join, 'Another bulb'
  end

  def test_what_holds
    document = demo('wren125')
    untried = card(document.merge(log({ 'step' => 'check/tried' })))
    step = untried.step('check/tried')
    assert_equal 'held', untried.state(step)
    assert_equal 'No lamp was tried while the machine was open.', untried.held(step)
    odd = document.merge(log({ 'step' => 'check/tried' }), 'function' => cells(document, 'open', 'l1.low': 'dim'))
    assert_match(/Headlamp.*low beam: dim/, card(odd).held(step))
    answered = odd.merge('left_open' => [{ 'id' => 'a', 'point' => "function/#{odd['function']['open'].find do |c|
      c['saw'] == 'dim'
    end['id']}", 'reason' => 'weak battery' }])
    assert_nil card(answered).held(step)
    assert_equal 'done', card(answered).state(step)
    assert_includes Miser::Verdicts::LeftOpen.new(ticket(answered)).points.map(&:reason), 'weak battery'
    assert_nil card(document.merge('function' => cells(document, 'open'))).held(step)
    unbought = document.merge('left_open' => [])
    assert_match(/Neither ordered nor taken from the shelf: Ember LED bulb/, card(unbought).held(card(unbought).step('ready/parts')))
    waiting = document.merge('purchases' => [{ 'id' => 'p', 'key' => 'k', 'name' => 'A bulb', 'state' => 'ordered' }])
    assert_match(/Waits for/, card(waiting).held(card(waiting).step('ready/parts')))
  end

  # From one year into the next nothing went back; a clock set back over it did.
  def test_a_new_year_is_no_clock_set_back
    told = lambda do |*at|
      rows = at.each_with_index.map { |time, i| { 'step' => "s#{i}", 'device' => 'b', 'at' => time } }
      card(demo('wren125').merge(log(*rows))).oddities.map(&:text).grep(/clock went back/)
    end
    assert_empty told['2026-12-31T23:50:00Z', '2027-01-01T00:05:00Z']
    assert_empty told['2026-02-31T10:00:00Z', '2026-01-01T00:05:00Z'], 'what is in no calendar tells nothing'
    assert_match(/went back by 15 min/, told['2027-01-01T00:05:00Z', '2026-12-31T23:50:00Z'].first)
  end

  def test_two_hands_and_a_clock_that_went_back
    document = demo('wren125').merge(log({ 'step' => 'ready/stand', 'device' => 'a', 'by' => 'Runa', 'spent_s' => 60 },
      { 'step' => 'ready/stand', 'device' => 'b', 'at' => '2026-11-20T08:03:00Z', 'spent_s' => 30 },
      { 'step' => 'ready/tray', 'device' => 'b', 'at' => '2026-11-20T06:03:00Z', 'spent_s' => 45 },
      { 'step' => 'fit/l1/old', 'device' => 'b', 'at' => '2026-11-20T08:30:00Z' }))
    one = card(document)
    told = one.oddities.map(&:text)
    assert_includes told, 'Ticked by two: Runa at 08:00, and 08:03. Both stand.'
    assert_includes told, 'The clock went back by 120 min here: hours stand as written, minutes as they were counted.'
    assert(told.any? { |t| t.start_with?('Ticked before') }, 'a lamp out before the battery is off')
    assert_equal [90.0, 45.0], [one.log.spent_s('ready/stand'), one.log.spent_s('ready/tray')]
    opened = log({ 'step' => 'ready/stand' }, { 'step' => 'ready/stand', 'did' => 'open' })
    assert_equal('open', card(demo('wren125').merge(opened)).then { |c| c.state(c.step('ready/stand')) })
  end

  def test_the_tray
    document = demo('wren125')
    step = 'open/bar_cover/screws'
    one = card(document)
    assert_equal [%w[A1 A2], [2, 2]], [one.tray.of(step).map(&:place), one.tray.of(step).map(&:count)]
    assert_equal 0, one.tray.out
    out = document.merge(ticked(one, step))
    assert_equal [4, ['A1: 2 × M5 × 25, cross no. 2 not back', 'A2: 2 × M5 × 12, cross no. 2 not back']],
      [card(out).tray.out, card(out).tray.left_over]
    out['card']['fasteners'] = [{ 'id' => 's', 'step' => step, 'proposal' => 1, 'count' => 3, 'length_m' => 0.016, 'back' => 1,
                                  'lost' => 1 },
      { 'id' => 'own', 'from' => 'horn', 'count' => 1, 'thread' => 'M6', 'back' => 2 }]
    tray = card(out).tray
    changed = tray.of(step).last
    assert_equal ['M5 × 16, cross no. 2', 3, 1], [tray.name(changed), changed.count, changed.left]
    own = tray.cells.find { |c| c.id == 'own' }
    assert_equal ['A2: 1 × M5 × 16, cross no. 2, cover, from below, is missing', "#{own.place}: 1 more × M6 went back than came out"],
      tray.problems
    assert_match(/not back/, card(out).held(card(out).step('end/tray')))
    answered = out.merge('left_open' => [{ 'id' => 'r', 'point' => 'tray', 'reason' => 'one like it taken' }])
    assert_match(/is missing/, card(out).held(card(out).step('check/tray')))
    assert_nil card(answered).held(card(answered).step('check/tray'))
    assert_match(/\A[^:]+: \d × .* not back/, card(answered).held(card(answered).step('end/tray')), 'what is left over is another matter')
  end

  # Needs that go in a circle are named; the card has every step all the same.
  def test_a_ring_in_a_template_and_very_long_ones
    step = ->(id, needs = nil) { { 'id' => id, 'text' => id, 'back' => "#{id} back", 'needs' => needs }.compact }
    ring = Card::Template.new('key' => 'x', 'label' => 'X', 'opens' => %w[head],
      'steps' => [step['a'], step['b', %w[d]], step['c', %w[b]], step['d', %w[c]]])
    assert_equal %w[b c d], ring.ring.sort
    assert_nil ACCESS.templates.find(&:ring)
    assert_equal %w[gone], Card::Template.new('steps' => [step['a', %w[gone]]]).strangers
    looped = card(demo('wren125'), access: Card::Access.new([ring.row]))
    assert_includes looped.stuck.map(&:text), 'b'
    assert_equal looped.steps.size, looped.steps.map(&:key).uniq.size
    assert_match(/wait for each other/, looped.oddities.first.text)
    long = Card::Access.new([{ 'key' => 'x', 'label' => 'X', 'opens' => %w[head], 'steps' => Array.new(500) { |i| step["s#{i}"] } }])
    many = card(demo('wren125'), access: long)
    assert_equal (0...500).map { |i| "open/x/s#{i}" }, many.steps.map(&:key).grep(%r{open/x/})
    assert_equal (0...500).map { |i| "close/x/s#{i}" }.reverse, many.steps.map(&:key).grep(%r{close/x/})
  end

  # How it is opened may be said otherwise.
  def test_another_way_in
    document = demo('wren125')
    said = document.merge('card' => { 'access' => [{ 'id' => 'head', 'template' => 'bucket' },
      { 'id' => 'wiring', 'template' => 'none' }] })
    assert_includes card(said).steps.map(&:key), 'open/bucket/ring'
    refute(card(said).steps.any? { |s| s.key.start_with?('open/side_cover', 'open/bar_cover') })
    assert_equal 4.0, card(document).steps.find { |s| s.key == 'open/snap_lens/l5+l6/pry' }.minutes, 'four lenses of a minute'
  end

  # One tell-tale between the sides: as solved, LED signals flash on both. That is foretold, and is not what should be.
  def test_what_each_lamp_should_do
    document = demo('dunlin250')
    t = ticket(document)
    check = t.stage('function').check
    expected = Card::Expected.new(t, check, 'open')
    cell = check.cells('open').find { |c| c.key == 'l5.1.right' }
    assert_equal ['off', 'flash', true], [expected.of(cell.lamp, cell.state), expected.foretold(cell.lamp, cell.state), expected.wrong?(cell.lamp, cell.state)]
    assert_equal 'Signals, left, front', cell.lamp.name
    looks = ->(lamp) { check.cells('open').select { |c| c.lamp.id == lamp }.to_h { |c| [c.state.key, expected.of(c.lamp, c.state)] } }
    assert_equal({ 'off' => 'off', 'key' => 'off', 'low' => 'on', 'high' => 'off' }, looks['l1'].slice('off', 'key', 'low', 'high'))
    assert_equal %w[flash off flash], looks['l5.2'].values_at('left', 'right', 'hazard')
    brake = document['loads'].find { |l| l['role'] == 'brake' }['id']
    assert_equal %w[off off on on off], looks[brake].values_at('off', 'low', 'brake_hand', 'brake_foot', 'left')
    bus = ticket(demo('curlew1100'))
    on = Card::Expected.new(bus, bus.stage('function').check, 'before')
    low = bus.stage('function').check.cells('before').find { |c| c.key == 'l1.key' }
    assert_equal 'on', on.of(low.lamp, low.state), 'lights come on with the key there'
  end

  def test_what_was_seen_against_what_was
    document = demo('dunlin250')
    document['function'] = cells(document, 'before', 'l1.low': 'dim', 'l3.low': 'dark').merge(cells(document, 'open', 'l5.2.left': 'dark',
      'l3.low': 'dark'))
                                                                                       .merge(cells(document, 'closed', 'l1.high': 'dark'))
    low = document['loads'].find { |l| l['position_id'] == 'l1' || l['id'] == 'l1' }['id']
    t = ticket(document)
    check = t.stage('function').check
    expected = Card::FunctionCheck::SIDES.keys.to_h { |side| [side, Card::Expected.new(t, check, side)] }
    found = Card::FunctionFindings.new(check, expected).all
    texts = found.map(&:text)
    assert(texts.any? { |x| x.match?(/Signals, left, rear, left: dark while it is open; it worked as it came in/) })
    assert(texts.any? { |x| x.match?(/works now/) }, 'dim as it came in')
    assert(texts.any? { |x| x.match?(/it worked open: a pinched wire/) })
    assert_equal 'left/lamps/rear_left/dark', found.find { |f| f.key == 'l5.2.left' }.sign
    assert low
    record = Card::Record.new(t, t.stage('fit').card)
    assert_match(/as it came in 121 of 121 tried, 2 wrong; while it is open 176 of 176 tried, 2 wrong; closed again/, record.tried.first)
    assert_includes record.cut.join, 'pin hole' if t.stage('fit').card.work.feeds.any? { |f| f.kind.cuts.positive? }
  end

  # A brake light in the tail light's own lamp is told from it by being brighter, and by nothing else; all that was added is tried.
  def test_the_brake_with_the_lights_on_and_all_that_was_added
    tail, loads = two_in_one('t', base: 'P21/5W', does: { 'tail' => {}, 'brake' => {} })
    bar = { 'id' => 'bar', 'name' => 'Bar', 'group' => 'accessory', 'role' => 'aux_lamp', 'wanted' => true, 'taken' => true }
    left = bar.merge('id' => 'no', 'name' => 'Not taken', 'taken' => false)
    job = plain_job(positions: [tail], loads: [*loads, lamp('b', role: 'brake', base: 'P21W'), bar, left])
    t = ticket(job)
    check = t.stage('function').check
    cells = check.cells('open').to_h { |c| [c.key, c] }
    expected = Card::Expected.new(t, check, 'open')
    should = ->(key) { expected.of(cells.fetch(key).lamp, cells.fetch(key).state) }
    assert_equal(%w[brighter on on on], %w[t-brake.brake_lit t-brake.brake_foot t-tail.brake_lit b.brake_lit].map { |key| should[key] })
    assert_includes Card::FunctionCheck::MAY.fetch('brighter'), 'same'
    assert_equal 'no brighter', Card::FunctionCheck::SAW.fetch('same')
    assert_equal %w[b bar t-brake t-tail], check.lamps('open').map(&:load_id).sort
    refute_includes check.lamps('before').map(&:load_id), 'bar'
    seen = check.cells('open').map { |c| { 'id' => c.key, 'saw' => c.key == 't-brake.brake_lit' ? 'same' : 'ok' } }
    points = ticket(job.merge('function' => { 'open' => seen })).stage('function').check.open_points
    assert_equal [['function/t-brake.brake_lit', 'brake, brake, lights on: no brighter.']], points
  end

  # The demo stands where it is said to stand.
  def test_the_demo_is_mid_strip_at_a_hold_and_closed
    at = Miser::Cli::DemoData.documents.to_h { |d| [d['id'], card(d)] }
    assert_equal ['open/bar_cover/lift', 1], [at['wren125'].next_step.key, at['wren125'].tray.problems.size]
    assert_equal 'check/tried', at['bracken420'].next_step.key
    assert_match(/not tried|dark/, at['bracken420'].held(at['bracken420'].next_step))
    assert_nil at['curlew1100'].next_step
    assert_empty(at.values.flat_map { |c| c.oddities.map(&:text) })
    assert_empty(at.values.flat_map { |c| c.steps.select { |s| c.state(s) == 'changed' }.map(&:key) }, 'run demo/cards.rb anew')
  end

  def test_a_machine_that_nothing_is_done_to
    bare = ticket(plain_job(loads: [lamp('low', base: 'H4', filament: 'low')]))
    assert_empty bare.stage('fit').card.steps
    refute_predicate bare.stage('fit'), :needed?
    assert_empty bare.stage('fit').wants
    refute_predicate ticket(plain_job(loads: [])).stage('function'), :needed?
  end
end
