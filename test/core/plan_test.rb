# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/other_machines'
require_relative '../support/every_plan'
require_relative '../../core/plan/work'
require_relative '../../speed/plan_instances'

# The best plan, and what is said where there is none.
class PlanTest < Miser::Test
  include Miser::OtherMachines

  AIMS = %w[money kept light time].freeze

  def small(seed, **size)
    Miser::Speed::PlanInstances.problem(seed, groups: 3, parts: 3, suppliers: 1 + (seed % 2), scenarios: 1 + (seed % 2), **size)
  end

  def aim(key = 'money') = Miser::Plan::Aim.new(key)
  def search(problem, conditions, aim = aim(), **more) = Miser::Plan::Search.new(problem, conditions, aim, **more)

  def wanted(seed)
    Miser::Plan::Conditions.new(keeps: [0], minutes: (seed % 5).zero? ? 80 : nil,
      money_cents: (seed % 4).zero? ? 26_000 : nil, heat: (seed % 3).zero?,
      no_cuts: (seed % 7).zero?, by_days: (seed % 6).zero? ? 6 : nil)
  end

  # Twice the doubt in quadrature decides, so no linear solver can say.
  def test_the_best_of_all_plans
    found = (1..24).count do |seed|
      problem = small(seed, parts: 2)
      conditions = wanted(seed)
      every = Miser::EveryPlan.best(by_then(problem, conditions), conditions, aim(AIMS[seed % 4]))
      ours = search(problem, conditions, aim(AIMS[seed % 4])).run.best
      assert_equal [every&.value&.round(7), every&.cents], [ours&.value&.round(7), ours&.cents], "seed #{seed}"
      every
    end
    assert_operator found, :>, 8, 'some have a plan'
    assert_operator found, :<, 24, 'and some have none'
  end

  def by_then(problem, conditions)
    return problem unless conditions.by_days

    articles = problem.articles.map { |a| a.dup.tap { |b| b.offers = a.offers.select { |o| o.lead_days <= conditions.by_days } } }
    Miser::Plan::Problem.new(groups: problem.groups, articles: articles, lines: problem.lines, onces: problem.onces,
      suppliers: problem.suppliers)
  end

  def test_stopped_and_taken_up_it_comes_to_the_same
    (1..6).each do |seed|
      problem = Miser::Speed::PlanInstances.problem(seed, groups: 4, parts: 3, suppliers: 2)
      whole = search(problem, wanted(seed)).run
      pieces = search(problem, wanted(seed))
      turns = 0
      until pieces.done?
        floor = pieces.run(9).floor
        assert_operator floor, :<=, whole.best.value + 1e-9, 'no floor over what is best' if whole.best && !pieces.done?
        pieces = search(problem, wanted(seed), state: JSON.parse(JSON.generate(pieces.state)))
        turns += 1
      end
      assert_equal [whole.best&.choice, whole.best&.cents], [pieces.best&.choice, pieces.best&.cents], "seed #{seed}"
      assert_operator turns, :>, 1
    end
  end

  def test_what_will_not_do_is_passed_over
    problem = small(2)
    conditions = Miser::Plan::Conditions.new
    first = search(problem, conditions, aim('kept')).run.best
    other = search(problem, conditions, aim('kept'), verify: ->(f) { f.choice == first.choice ? 'dark' : nil }).run.best
    refute_equal first.choice, other.choice
    assert_operator other.value, :>, first.value
  end

  def test_what_stands_in_the_way_and_by_how_much
    problem = small(3)
    best = search(problem, Miser::Plan::Conditions.new(keeps: [0])).run.best
    tight = Miser::Plan::Conditions.new(keeps: [0], money_cents: best.cents - 250)
    assert_predicate search(problem, tight).run, :impossible?
    way = Miser::Plan::Standing.new(problem, tight).ways.find { |w| w.condition == 'money' }
    assert_equal [best.cents, 250], [way.value, way.by]
    assert_match(/2\.50 more/, way.text)
    refute_nil search(problem, tight.with(money_cents: way.value)).run.best
    assert_nil search(problem, tight.with(money_cents: way.value - 1)).run.best
    quick = search(problem, Miser::Plan::Conditions.new(keeps: [0]), aim('time')).run.best
    time = Miser::Plan::Standing.new(problem, Miser::Plan::Conditions.new(keeps: [0], minutes: quick.minutes - 3)).ways.first
    assert_equal ['minutes', 3.0], [time.condition, time.by]
    deep = problem.lines.first.dup.tap { |l| l.base -= 50 }
    sunk = Miser::Plan::Problem.new(groups: problem.groups, articles: problem.articles, lines: [deep], onces: problem.onces,
      suppliers: problem.suppliers)
    assert_match(/the best keeps −?-?\d/, Miser::Plan::Standing.new(sunk, Miser::Plan::Conditions.new(keeps: [0])).words)
  end

  def test_compromises_are_none_of_them_worse_than_another
    problem = small(4)
    front = Miser::Plan::Front.new(problem, Miser::Plan::Conditions.new)
    front.run(500) until front.done?
    points = front.points.map { |f| [f.cents, f.kept[0]] }
    assert_operator points.size, :>, 2
    assert_equal points, points.sort
    assert_equal points.map(&:last), points.map(&:last).sort
    cheapest = search(problem, Miser::Plan::Conditions.new).run.best
    most = search(problem, Miser::Plan::Conditions.new, aim('kept')).run.best
    assert_equal cheapest.cents, points.first.first
    assert_in_delta most.kept[0], points.last.last, Miser::Plan::Front::SAME_A
  end

  # --- a machine ---

  def ticket(id, **plan)
    document = Miser::Cli::DemoData.documents.find { |d| d['id'] == id }
    Miser::Ticket.new(document.merge('plan' => plan.transform_keys(&:to_s)), catalogue: CATALOGUE, market: MARKET)
  end

  def work(ticket) = Miser::Plan::Work.new(ticket, MARKET.parts, days: ->(_) { 9 })

  # What the search adds up is what the job comes to when the plan is taken: amps, doubt, and money to the cent.
  def test_a_plan_taken_is_what_it_was_said_to_be
    work = work(ticket('wren125'))
    words = []
    assert_nil(work.run { |word, _| words << word })
    assert_equal %w[ready settled done], words & %w[ready settled stuck done]
    assert_operator work.front.points.size, :>, 4
    [work.search.best, *work.front.points].each do |found|
      outcome = work.outcome(found)
      keep = outcome.keep(work.problem.axis)
      assert_in_delta found.kept[work.problem.axis], keep.value, 1e-6
      assert_in_delta found.sigma[work.problem.axis], keep.sigma, 1e-6
      assert_equal outcome.ticket.list.cents, outcome.parts_cents, outcome.key
      assert_empty outcome.ticket.wiring.red
      offered = offer(work, outcome.key)
      assert_equal [outcome.total_cents, found.minutes], offered.values_at('total_cents', 'minutes'), outcome.key
    end
    why_not_cheaper(work)
    assert_equal 'keeps', Miser::Budget::Verdict.of(work.outcome(work.search.best).keep(work.problem.axis).value, work.search.best.sigma[work.problem.axis])
  end

  # Whatever the machine, what the search adds up is what comes out, and what the owner is offered.
  def test_machines_that_nobody_drew
    random = Random.new(ENV.fetch('MACHINES', 55_644).to_i)
    Array.new(4) { other_machine(random, any_wish(random).except('money_cents', 'minutes')) }.each do |document|
      work = work(Miser::Ticket.new(document, catalogue: CATALOGUE, market: MARKET)).tap(&:run)
      [work.search.best, *work.front.points].compact.each do |found|
        outcome = work.outcome(found)
        told = [document['id'], outcome.key].join(' ')
        offer = Miser::Quote::Offer.new(outcome.ticket)
        assert_in_delta found.kept[work.problem.axis], outcome.keep(work.problem.axis).value, 1e-6, told
        assert_in_delta found.sigma[work.problem.axis], outcome.keep(work.problem.axis).sigma, 1e-6, told
        assert_equal [outcome.total_cents, found.minutes], [offer.total, offer.minutes], told
      end
    end
  end

  # The dearest of the cheaper ones, and what one reading would make of it: read as figured, its doubt is what was foretold.
  def why_not_cheaper(work)
    told = Miser::Plan::Cheaper.of(work.outcome(work.search.best), work.front.points.map { |f| work.outcome(f) }, work.conditions.keeps)
    below = work.front.points.select { |f| f.cents < work.search.best.cents }.max_by(&:cents)
    assert_equal work.outcome(below).key, told.key
    assert told.text.start_with?("#{Miser::Buying::Cents.words(work.outcome(below).total_cents)} costs less, but "), told.text
    assert_match(/: −?[\d.]+ ± [\d.]+ A, (too close to call|owes)\.\z/, told.text)
    none = Miser::Plan::Cheaper.of(work.outcome(below), [work.outcome(work.search.best)], work.conditions.keeps)
    assert_equal [nil, nil], none.to_a.values_at(0, 2)
    close = work.front.points.map { |f| work.outcome(f) }.select { |o| o.verdict(work.problem.axis) == 'too_close' }
    close.each do |outcome|
      line = outcome.ticket.budget.line('after', work.problem.lines[work.problem.axis].scenario, work.problem.lines[work.problem.axis].circuit)
      after = Miser::Budget::NextReading.ranked(line).first.sigma_after
      assert_equal line.keeps.value > 2 * after, outcome.reading.include?('it keeps'), outcome.reading
    end
    refute_empty close
  end

  # What the owner is offered of a plan.
  def offer(work, key) = act('quote_make', work.draft.ticket, key)['quotes'].last['offers'].first

  def take(ticket, key) = act('plan_take', ticket, key)

  def act(name, ticket, key)
    count = 0
    fresh = -> { "n#{count += 1}" }
    Miser::Stage.any_act(name).call(Miser::Stage::Call.new(ticket: ticket, document: ticket.document.hash_as_given, value: key,
      fresh_id: fresh, now: ''))
  end

  def test_taking_changes_all_choices_at_once
    before = ticket('dunlin250')
    key = 'l1=part/p-ember-h4;l3=keep;l5=part/p-glint-p21;l6=part/p-glint-p21;l7=keep;cure=flasher_2+diodes;w1=feed/accessory;w4=out'
    after = take(before, key)
    assert_empty Miser::Formats::JobSchema.errors(after)
    read = Miser::Job::Document.new(after)
    assert_equal(['p-ember-h4', nil, 'p-glint-p21'], %w[l1 l3 l5].map { |id| read.lamp(id).part&.fetch('shelf_id') })
    assert_equal 'keep', read.lamp('l3').choice['action']
    assert_includes read.lamp('l1').tries.map { |c| c['part']['shelf_id'] }, 'p-lantern-7', 'what was fitted stands beside it'
    assert_equal([true, false], %w[w1 w4].map { |id| read.load(id)['taken'] })
    assert_equal %w[flasher_2 diodes], read.signals['remedies']
    assert_equal('accessory', after['wiring']['feeds'].find { |f| f['load_id'] == 'w1' }['kind'])
    refute(after['wiring']['feeds'].any? { |f| f['load_id'] == 'w4' })
    assert_equal key, after['plan']['taken']
    %w[l1=part/nothing l9=keep w1=feed/rope cure=prayer banana].each do |wrong|
      error = assert_raises(Miser::Stage::Unavailable, wrong) { take(before, wrong) }
      refute_empty error.accepts.to_s
    end
  end

  def test_nothing_that_carries_an_accessory_is_named
    said = {}
    work(ticket('ptarmigan550')).run { |word, what| said[word] = what }
    assert_match(/Every accessory carried: without it there is a plan. Nothing here feeds Radio charger, Tracker/,
      said['stuck'][:standing].words)
    refute_nil work(ticket('ptarmigan550', carry_all: false, keeps: [])).tap(&:run).search.best
  end

  # What is not known is said: what an hour costs, how long a part takes, what a scenario keeps, who sends when.
  def test_what_is_not_known_is_no_nothing
    free = Miser::Buying::Market.new(parts: MARKET.parts.map do |p|
      p.except('minutes')
    end.map { |p| p.merge('price_cents' => p['price_cents'] || 50) })
    document = Miser::Cli::DemoData.documents.find { |d| d['id'] == 'wren125' }
    document = document.merge('plan' => { 'aim' => 'kept', 'keeps' => [] }, 'choices' => [])
    work = Miser::Plan::Work.new(Miser::Ticket.new(document, catalogue: CATALOGUE, market: free), free.parts, days: ->(_) { 9 }).tap(&:run)
    best = work.outcome(work.search.best)
    assert_nil best.work_cents
    assert_operator best.parts_cents, :>, 0
    assert(best.notes.any? { |n| n.start_with?('Time not known:') }, best.notes.inspect)
    assert_match(/\Aproved best of [\d ]+ plans\z/, work.search.words)
    dated = ticket('wren125', by: '2030-01-01')
    Miser::Plan::Work.new(dated, free.parts, days: ->(_) { 9 }).then do |late|
      late.look
      refute(late.problem.articles.flat_map(&:offers).select { |o| o.lead_days.nil? }.any? { |o| o.here_in?(late.conditions.by_days) })
    end
    unread = Miser::Cli::DemoData.documents.find { |d| d['id'] == 'bracken420' }
    loads = unread['loads'] + [{ 'id' => 'odd', 'name' => 'Odd box', 'group' => 'engine', 'role' => 'ignition', 'circuit' => 'main' }]
    told = assert_raises(Miser::Plan::Draft::NotYet) { work(Miser::Ticket.new(unread.merge('loads' => loads), catalogue: CATALOGUE, market: MARKET)).run }
    assert_match(/Odd box/, told.words)
  end

  def test_a_machine_that_nothing_is_known_of
    bare = Miser::Ticket.new(Miser::Job::Template.job(id: 'x', name: 'Nothing'), catalogue: CATALOGUE, market: MARKET)
    assert_raises(Miser::Plan::Draft::NotYet) { work(bare).run }
  end
end
