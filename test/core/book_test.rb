# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/handed_over'

# What the shop keeps of machines and parts beyond the job in hand.
class BookTest < Miser::Test
  Book = Miser::Book
  SETTINGS = Miser::Assumptions.new({})

  def demo(id) = Miser::Cli::DemoData.documents.find { |d| d['id'] == id }

  def lesson(what, value, **rest)
    defaults = { id: "x#{@n = (@n || 0) + 1}", subject: 'part', key: 'a bulb', label: 'A bulb', shelf_id: nil, what: what, item: '',
                 sigma: nil, claimed: nil, n: 1,
                 on: '2026-01-01', more: {}, job: "j#{@n}", machine: "m#{@n}", name: 'A machine' }
    Book::Lesson.new(**defaults, value: value, **rest)
  end

  def part(*lessons, others: []) = Book::PartRecord.new(lessons, others, SETTINGS)

  def test_names_are_one_however_they_are_written
    assert_equal Book::Key.of("Ember  LED\u00A0bulb"), Book::Key.of(' ember led BULB ')
    assert_equal Book::Key.frame('wr 125-0117'), Book::Key.frame('WR125.0117')
    [nil, '', " \u00A0 "].each { |name| assert_nil Book::Key.of(name) }
    assert_nil Book::Key.frame(' -- ')
  end

  # Sums put together give what reading all at once gives, in whatever order: Chan and others, 1983, worked from the definition.
  def test_spreads_go_together_in_any_order
    random = Random.new(4)
    values = Array.new(23) { 2 + gauss(random) }
    parts = values.each_slice(5).map { |v| Book::Spread.of(v) }
    whole = Book::Spread.of(values)
    [parts, parts.reverse, parts.shuffle(random: random), [Book::Spread.together(parts.first(2)), *parts.drop(2)]].each do |list|
      all = Book::Spread.together(list)
      assert_equal whole.n, all.n
      assert_in_delta whole.mean, all.mean, 1e-12
      assert_in_delta whole.deviation, all.deviation, 1e-12
    end
    assert_equal 0, Book::Spread.together([Book::Spread.of([])]).n
    assert_nil Book::Spread.of([]).sigma(usual: 0.08, weight: 4)
    assert_nil Book::Spread.of([1.0]).deviation
  end

  # One copy leaves just the usual doubt; many leave their own spread, and no more than that.
  def test_a_few_copies_are_doubted_as_usual_and_many_as_they_scatter
    usual = { usual: 0.08, weight: 4.0 }
    assert_in_delta 0.08 * 3, Book::Spread.of([3.0]).sigma(**usual), 1e-12
    assert_operator Book::Spread.of([3.0, 3.0]).sigma(**usual), :<, 0.24
    random = Random.new(9)
    many = Book::Spread.of(Array.new(4000) { 3 + (0.45 * gauss(random)) })
    assert_in_delta 0.45, many.sigma(**usual), 0.02
    # Two that differ much are doubted more than two alike.
    assert_operator Book::Spread.of([2.0, 4.0]).sigma(**usual), :>, Book::Spread.of([2.9, 3.1]).sigma(**usual)
  end

  # Source: Newcombe, Statistics in Medicine 17, 1998, table I, method 3 (Wilson's score without continuity correction).
  def test_bounds_of_so_many_of_so_many
    { [81, 263] => [0.2553, 0.3662], [15, 148] => [0.0624, 0.1605], [0, 20] => [0.0, 0.1611], [1, 29] => [0.0061, 0.1718] }.each do |(k,
      of), bounds|
      Book::Share.new(k, of).bounds.zip(bounds).each { |ours, published| assert_in_delta published, ours, 5e-5 }
    end
    assert_nil Book::Share.new(0, 0).bounds
  end

  def test_a_drift_is_told_from_scatter
    days = [0, 400, 800, 1200, 1600]
    line = ->(noise) { Book::Trend.new(days.zip(noise).map { |d, n| Book::Trend::Point.new(days: d, value: 12 - (0.5 * d / 365.25) + n) }) }
    sure = line.call([0.02, -0.02, 0.01, -0.01, 0.0])
    assert_in_delta(-0.5, sure.slope, 0.02)
    assert sure.drifts?
    refute line.call([1.5, -2.0, 1.0, -1.5, 2.5]).drifts?
    # Two points lie on a line whatever they are; one day is no time.
    refute Book::Trend.new(days.first(2).map { |d| Book::Trend::Point.new(days: d, value: d) }).drifts?
    refute Book::Trend.new(Array.new(4) { |i| Book::Trend::Point.new(days: 5, value: i) }).drifts?
  end

  def test_a_part_that_disappoints_says_so_and_why
    over = part(*[1.30, 1.34, 1.28].map { |a| lesson('draw', a, item: 'signal', claimed: 1.0) })
    assert over.disappoints?
    assert_match(/read 1\.31 A, claimed 1\.00 A \(131 %, on 3\): more than its seller says/, over.findings.first.text)
    refute part(lesson('draw', 0.97, item: 'signal', claimed: 1.0)).disappoints?
    assert part(lesson('draw', 0.4, item: 'signal', claimed: 1.0)).disappoints?, 'so little draw is so little light'
    # One of three is a warning, one of thirty a note.
    assert part(lesson('loose', 1.0), lesson('ok', 1.0), lesson('ok', 1.0)).disappoints?
    rare = part(lesson('loose', 1.0), *Array.new(29) { lesson('ok', 1.0) })
    refute rare.disappoints?
    assert_equal ['1 of 30 looked at again: found loose.'], rare.findings.map(&:text)
    slow = part(lesson('minutes', 30.0, claimed: 15.0), lesson('minutes', 26.0, claimed: 15.0))
    assert_equal ['Fitting takes 28 min, reckoned 15 (timed 2 times).'], slow.findings.select { |f| f.level == 'warning' }.map(&:text)
    refute part(lesson('minutes', 30.0, claimed: 15.0)).disappoints?, 'timed once is no habit'
    assert_equal [1, 4], part(lesson('returned', 1.0), lesson('fitted', 3.0, n: 3)).shares['returned'].to_a
    assert_empty part.findings
  end

  def other(mean:, n: 5, squares: 0.0, shop: 'aaaaaaaa', **rest)
    Book::Elsewhere.new(shop: shop, made_on: '2026-01-01', subject: 'part', key: 'a bulb', label: 'A bulb', what: 'draw', item: 'signal',
      n: n, mean: mean, squares: squares,
      claimed: nil, more: {}, **rest)
  end

  # The shop's own stand before others'; others' are doubted more than as many of its own.
  def test_others_readings_keep_their_place
    values = [1.0, 1.1, 0.9, 1.0, 1.0]
    own = part(*values.map { |a| lesson('draw', a, item: 'signal') })
    spread = Book::Spread.of(values)
    far = part(others: [other(mean: spread.mean, n: 5, squares: spread.squares)])
    assert_in_delta own.draws.first.spread.mean, far.draws.first.spread.mean, 1e-12
    assert_operator far.draws.first.sigma, :>, own.draws.first.sigma
    # Others' failures are told where the shop has looked at none itself.
    loose = other(mean: 1.0, n: 3).tap { |o| o.what = 'loose' }
    assert_equal [3, 3], part(others: [loose]).shares['loose'].to_a
    assert_equal [0, 1], part(lesson('ok', 1.0), others: [loose]).shares['loose'].to_a
    both = part(*values.map { |a| lesson('draw', a, item: 'signal') }, others: [other(mean: 2.0)])
    assert_in_delta 1.0, both.draws.first.spread.mean, 1e-12
  end

  # A machine read twice is one copy of its model; speeds nearly the same are one speed.
  def test_a_model_is_known_by_its_machines
    point = lambda { |machine, rpm, amps|
      lesson('point', amps, subject: 'model', item: 'dc', machine: machine,
        more: { 'rpm' => rpm, 'volts' => 14.0 })
    }
    record = Book::ModelRecord.new([point.call('m1', 1500, 10.0), point.call('m1', 1510, 11.0), point.call('m2', 1480, 12.0),
      point.call('m2', 4000, 20.0)], [], SETTINGS)
    assert_equal([2, 1], record.points.map(&:n))
    assert_in_delta 11.25, record.points.first.amps, 1e-9
    assert_in_delta 1496.7, record.points.first.more['rpm'], 0.1
    assert_equal 'same_model', record.points.first.origin
    assert_equal '1497 rpm', record.points.first.words
  end

  # What a job taught is what was measured on it, and nothing that was said, simulated or taken from elsewhere.
  def test_only_what_was_measured_here_teaches
    job = demo('wren125')
    rows = Book::Lessons.new(Miser::Ticket.new(job)).rows
    read = rows.find { |r| r.what == 'draw' && r.item.start_with?('head_low') && r.subject == 'model' }
    # 2.91 A at 12.4 V on a filament, carried to 14 V by the exponent that handbooks give one: 0.55.
    assert_in_delta 2.91 * ((14 / 12.4)**0.55), read.value, 0.005
    assert_equal 'wren 125', read.key
    assert_equal(3, rows.count { |r| r.what == 'point' })
    simulated = job.merge('readings' => job['readings'].map { |r| r.merge('simulated' => true) })
    assert_empty(Book::Lessons.new(Miser::Ticket.new(simulated)).rows.select { |r| r.what == 'draw' })
    elsewhere = job.merge('readings' => job['readings'].map { |r| r.merge('taken_on' => 'same_model') })
    assert_empty(Book::Lessons.new(Miser::Ticket.new(elsewhere)).rows.select { |r| r.what == 'draw' })
    taken = job.merge('circuits' => job['circuits'].map do |c|
      c.merge('alternator' => c['alternator'].merge('points' => c['alternator']['points'].map do |p|
        p.merge('taken_on' => 'same_model')
      end))
    end)
    assert_empty(Book::Lessons.new(Miser::Ticket.new(taken)).rows.select { |r| %w[point earns].include?(r.what) })
    assert_empty rows.select { |r| r.what == 'fitted' }, 'nothing is fitted until it is handed over'
  end

  # As it went out it comes in: what was kept after is kept before, but for the wires of new feeds, which are the machine's own now.
  def test_a_known_machine_comes_in_as_it_went_out
    Miser::Cli::DemoData.documents.each do |job|
      ids = (1..).each
      fresh = Miser::Job::Plain.of(Book::Again.new(job).job(id: 'again', machine_id: job['id'], today: '2026-04-01') { "n#{ids.next}" })
      assert_empty Miser::Formats::JobSchema.errors(fresh), job['id']
      assert_empty Miser::Verdicts::Consistency.broken(fresh), job['id']
      assert_equal [[], 'again', job['id']], fresh.values_at('choices', 'id', 'machine_id')
      assert_empty fresh.keys & %w[card function handed_over left_open quotes purchases plan rechecks order]
      went, comes = [[job, 'after'], [fresh, 'before']].map { |d, side| Miser::Ticket.new(d).budget.lines(side).map(&:keeps) }
      went.zip(comes).each { |a, b| assert_in_delta a.value, b.value, 0.16, job['id'] if a.known? }
      assert_equal(job['circuits'].map { |c| c['alternator']['points'] }, fresh['circuits'].map { |c| c['alternator']['points'] })
      assert_nil fresh['machine']['distance_km']
    end
    colours = demo('dunlin250').then do |d|
      d.merge('wiring' => { **(d['wiring'] || {}),
        'colours' => [{ 'id' => 'c1', 'of' => 'machine', 'colour' => 'grey' }], 'feeds' => [] })
    end
    assert_equal colours.dig('wiring', 'colours'), Book::Again.new(colours).job(id: 'a', machine_id: 'm',
      today: '2026-04-01') { 'n' }.dig('wiring', 'colours')
  end

  # What the book says stands before what the last job said, and a flasher that was put in is the machine's own.
  def test_a_known_machine_carries_what_became_of_it
    job = demo('dunlin250').then { |d| d.merge('signals' => d['signals'].merge('remedies' => %w[flasher_3 diodes])) }
    fresh = Book::Again.new(job, { 'fleet' => 'Another owner', 'machine' => { 'frame' => 'X1' } }).job(id: 'a', machine_id: 'm', today: '2026-04-01') { 'n' }
    assert_equal ['Another owner', 'X1', 'free_3', '49/49a/31'], [fresh['fleet'], fresh['machine']['frame'], fresh['signals']['flasher'],
      fresh['signals']['plug']]
    refute fresh['signals'].key?('remedies')
    assert_match(/diode pair into the tell-tale/, fresh['machine']['note'])
    # A beam aimed then is not aimed now; a regulator fitted then is there now.
    aimed = job.merge('aim' => { 'set' => true, 'distance_m' => 7.5 },
      'circuits' => job['circuits'].map do |c|
        c.merge('regulator' => { 'volts' => 14.1 }, 'regulator_after' => { 'volts' => 14.4, 'kind' => 'series' })
      end)
    fresh = Book::Again.new(aimed).job(id: 'a', machine_id: 'm', today: '2026-04-01') { 'n' }
    assert_equal({ 'distance_m' => 7.5 }, fresh['aim'])
    assert_equal([[{ 'volts' => 14.4, 'kind' => 'series' }, nil]], fresh['circuits'].map do |c|
      c.values_at('regulator', 'regulator_after')
    end)
  end

  # A lamp that was changed to LED teaches nothing of the filament that another of the model still has.
  def test_a_changed_lamp_is_another_than_the_one_it_was
    job = demo('wren125')
    ids = (1..).each
    again = Miser::Job::Plain.of(Book::Again.new(job).job(id: 'again', machine_id: 'm', today: '2026-04-01') { "n#{ids.next}" })
    low = ->(rows) { rows.select { |r| r.what == 'draw' && r.subject == 'model' && r.item.start_with?('head_low') } }
    before, after = [job, again].map { |d| low.call(Book::Lessons.new(Miser::Ticket.new(d)).rows).first }
    assert_operator after.value, :<, before.value / 2
    refute_equal before.item, after.item
    book = Known.new(Book::ModelRecord.new(Book::Lessons.new(Miser::Ticket.new(again)).rows, [], SETTINGS), nil)
    assert_empty(Book::Offers.new(Miser::Ticket.new(bare, book: book), book).draws.select { |d| d.load_id == 'l1' })
  end

  # A book of one model and one part, as a ticket asks it.
  Known = Struct.new(:model_record, :part_record) do
    def model(_key, **) = model_record
    def part(_name, _shelf = nil) = part_record
    def visits(_machine) = []
    def twins(_frame, _machine) = []
  end

  def bare
    demo('wren125').then do |d|
      d.merge('readings' => [],
        'circuits' => d['circuits'].map { |c| c.merge('alternator' => c['alternator'].merge('points' => [])) })
    end
  end

  def known_wren
    rows = [1.0, 1.05, 0.97].flat_map do |gain|
      Book::Lessons.new(Miser::Ticket.new(demo('wren125'))).rows.select { |r| %w[draw point].include?(r.what) && r.subject == 'model' }.each do |r|
        r.value *= gain
        r.machine = "g#{gain}"
      end
    end
    Book::ModelRecord.new(rows, [], SETTINGS)
  end

  def test_a_known_model_offers_its_points_and_draws
    book = Known.new(known_wren, nil)
    ticket = Miser::Ticket.new(bare, book: book)
    offers = Book::Offers.new(ticket, book)
    assert_equal 1, offers.points.size
    assert_operator offers.draws.size, :>=, 4
    taken = Miser::HandedOver.act(bare, 'take_learnt', 'all', ticket: ->(d) { Miser::Ticket.new(d, book: book) })
    assert_empty Miser::Formats::JobSchema.errors(taken)
    after = Miser::Ticket.new(taken, book: book)
    low = after.budget.thing('l1')
    assert_equal 'same model, measured elsewhere', low.anchor.origin.label
    group = book.model_record.draws.find { |g| g.item.start_with?('head_low') }
    assert_in_delta group.sigma, low.anchor.sigma, 1e-3
    assert_in_delta group.amps, low.law.current(Book::Lessons::AT_V), 1e-3
    # Nothing is offered twice, and none of it is taken for a reading of this machine.
    assert_empty Book::Offers.new(after, book).draws + Book::Offers.new(after, book).points
    assert_empty(Book::Lessons.new(after).rows.select { |r| r.subject == 'model' && %w[draw point].include?(r.what) })
    refute low.measured?
    # What is read on this machine stands before it.
    read = taken.merge('readings' => [{ 'id' => 'r1', 'load_id' => 'l1', 'kind' => 'settled', 'amps' => 3.0, 'volts' => 13.0,
                                        'volts_at' => 'lamp', 'taken_on' => 'this_machine' }])
    assert Miser::Ticket.new(read).budget.thing('l1').measured?
    error = assert_raises(Miser::Stage::Unavailable) { Miser::HandedOver.act(taken, 'take_learnt', 'all', ticket: ->(d) { Miser::Ticket.new(d, book: book) }) }
    assert_match(/points, draws, all/, error.accepts)
  end

  # What another shop sent is offered alike, under an origin of its own and doubted more.
  def test_a_model_that_only_others_know_is_offered_as_theirs
    own = known_wren
    sums = Book::Elsewhere.sums(own.lessons, shop: 'f' * 24, made_on: '2026-01-01')
    book = Known.new(Book::ModelRecord.new([], sums, SETTINGS), nil)
    taken = Miser::HandedOver.act(bare, 'take_learnt', 'all', ticket: ->(d) { Miser::Ticket.new(d, book: book) })
    assert_empty Miser::Formats::JobSchema.errors(taken)
    low = Miser::Ticket.new(taken).budget.thing('l1')
    assert_equal 'same model, measured in other shops', low.anchor.origin.label
    mine = own.draws.find { |g| g.item.start_with?('head_low') }
    assert_in_delta mine.amps, low.law.current(Book::Lessons::AT_V), 1e-3
    assert_operator low.anchor.sigma, :>, mine.sigma
    points = taken['circuits'].first['alternator']['points']
    assert_equal [['other_shop'], own.points.size], [points.map { |p| p['taken_on'] }.uniq, points.size]
    points.zip(own.points).each { |p, g| assert_in_delta g.amps, p['amps'], 0.01 }
  end

  # Points of other machines leave the doubt in which machines differ, however many there are; one's own take it away.
  def test_an_earn_curve_of_other_machines_keeps_their_spread
    book = Known.new(known_wren, nil)
    taken = Miser::HandedOver.act(bare, 'take_learnt', 'points', ticket: ->(d) { Miser::Ticket.new(d, book: book) })
    curve = ->(job) { Miser::Ticket.new(job).budget.ledgers('before')['main'].circuit }
    far = curve.call(taken)
    own = curve.call(demo('wren125'))
    assert_equal :same_model, far.curve.basis
    assert far.assumed?
    spread = book.model_record.points.map { |g| g.sigma / g.amps }.max
    [1800, 2600, 4500].each do |rpm|
      figure = far.earns(rpm)
      assert_operator figure.sigma / figure.value, :>=, spread * 0.95
      assert_operator own.earns(rpm).sigma, :<, figure.sigma
    end
  end

  def test_rechecks_follow_what_was_fitted
    looks = ->(job) { Book::Rechecks.new(Miser::Job::Document.new(job)).all('2026-03-01').map { |r| [r.id, r.due_on] } }
    wren = demo('wren125')
    assert_equal [%w[first_rides 2026-03-15], %w[drain 2026-03-31], %w[adjusters 2026-05-30], %w[year 2027-03-01]], looks.call(wren)
    nothing = wren.merge('choices' => [], 'loads' => wren['loads'].reject { |l| l['wanted'] })
    assert_empty looks.call(nothing)
    glued = wren.merge('choices' => wren['choices'].map { |c| c['part'] ? c.merge('part' => c['part'].merge('adhesive' => true)) : c })
    assert_includes looks.call(glued), %w[glued 2026-03-31]
    # A day is a setting; a row of somebody's stands before the rule, one not wanted is not written.
    later = wren.merge('assumptions' => { 'recheck_first' => 30 }, 'rechecks' => [{ 'id' => 'year', 'dropped' => true },
      { 'id' => 'own', 'what' => 'The bracket', 'due_on' => '2026-04-01' }])
    assert_includes looks.call(later), %w[first_rides 2026-03-31]
    out = Miser::HandedOver.out(later)
    rows = out['rechecks'].to_h { |r| [r['id'], r] }
    assert_equal(%w[2026-03-31 2026-04-01], rows.values_at('first_rides', 'own').map { |r| r['due_on'] })
    assert rows['year']['dropped']
    assert_empty Miser::Formats::JobSchema.errors(out)
  end

  def test_a_look_again_is_done_when_every_lamp_was_looked_at
    out = Miser::HandedOver.out(demo('wren125'))
    error = assert_raises(Miser::Stage::NotYet) { Miser::HandedOver.act(out, 'recheck_done', 'first_rides') }
    assert_match(/not looked at yet: Headlamp/, error.words)
    lamps = out['rechecks'].find { |r| r['id'] == 'first_rides' }['lamps']
    seen = lamps.map { |id| { 'id' => id, 'saw' => id == lamps.first ? 'loose' : 'ok' } }
    looked = out.merge('rechecks' => out['rechecks'].map { |r| r['id'] == 'first_rides' ? r.merge('found' => seen) : r })
    done = Miser::HandedOver.act(looked, 'recheck_done', 'first_rides', at: '2026-03-20T09:00:00Z')
    assert_equal '2026-03-20', done['rechecks'].find { |r| r['id'] == 'first_rides' }['done_on']
    found = Book::Lessons.new(Miser::Ticket.new(done)).rows.select { |r| r.id.start_with?('found/') }
    assert_equal [1, lamps.size - 1], [found.count { |r| r.what == 'loose' }, found.count { |r| r.what == 'ok' }]
    # One that comes again is due again, once.
    again = Miser::HandedOver.act(done, 'recheck_done', 'drain', at: '2026-04-10T09:00:00Z')
    assert_equal(%w[2026-05-10], again['rechecks'].select { |r| r['every_days'] && r['done_on'].nil? }.map { |r| r['due_on'] })
    assert_raises(Miser::Stage::Unavailable) { Miser::HandedOver.act(done, 'recheck_done', 'nobody') }
  end

  def test_standings_of_a_day
    { ['2026-03-10', nil] => 'overdue', ['2026-03-11', nil] => 'due', ['2026-03-25', nil] => 'soon', ['2026-03-26', nil] => 'later',
      [nil, nil] => 'unknown',
      %w[2026-03-10 2026-03-10] => 'done', ['2026-02-30', nil] => 'unknown' }.each do |(due, done), standing|
      assert_equal standing, Book::Rechecks.standing(due, done, '2026-03-11').first, due.inspect
    end
    assert_equal 'rests', Book::Rechecks.standing('2026-01-01', nil, '2026-03-11', gone: true).first
  end

  # A machine that goes out leaves, one that stands in the bay again is back.
  def test_back_in_the_bay
    out = Miser::HandedOver.out(demo('wren125'))
    back = Miser::HandedOver.act(out, 'back_in_bay', at: '2026-03-09T08:00:00Z')
    refute Miser::Ticket.new(back).stage('hand_over').touched?
    assert Miser::Ticket.new(out).stage('hand_over').touched?
    assert_raises(Miser::Stage::NotYet) { Miser::HandedOver.act(demo('wren125'), 'back_in_bay') }
  end

  Told = Struct.new(:list, :others) do
    def visits(_machine) = list
    def twins(_frame, _machine) = others
  end

  def test_counters_run_on_and_frames_are_one_machines
    job = demo('wren125').then { |d| d.merge('came_in' => '2026-03-01', 'machine' => d['machine'].merge('distance_km' => 18_000)) }
    visit = ->(km, on) { Book::Visit.new(job: 'other', name: 'It', came_in: on, distance_km: km) }
    odd = ->(visits, twins = []) { Book::Oddities.new(Miser::Job::Document.new(job), Told.new(visits, twins)).problems.map(&:message) }
    assert_match(/ran backwards: it read 19000 km on 2025-06-01/, odd.call([visit.call(19_000, '2025-06-01')]).first)
    assert_empty odd.call([visit.call(17_000, '2025-06-01')])
    assert_empty odd.call([visit.call(19_000, '2026-06-01')]), 'a later visit reads more'
    assert_match(/has this frame number already: Wren, no. 2/, odd.call([], [{ id: 'm', name: 'Wren, no. 2' }]).first)
  end
end
