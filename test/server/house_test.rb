# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/wire'

# One house: whoever says a thing says the same, and what was kept is what would be computed.
class HouseTest < Miser::Test
  include Miser::Wire

  ROUNDS = 60
  TEXT = ->(want) { want && want['text'] }

  def ticket_of(document) = settings.tickets.of(document)

  # What random edits leave in the summaries is what a look at the whole document gives.
  def test_a_tally_kept_along_is_the_tally_of_the_whole
    random = Random.new(Minitest.seed)
    # The board makes the first of each; from then on they are kept along.
    ids = call(:get, '/api/jobs')['jobs'].map { |bay| bay['id'] }
    ROUNDS.times do
      id = ids.sample(random: random)
      before = job(id)
      edit(*some_edit(before['document'], random), revision: before['revision'], id: id)
      saved = settings.jobs.find(id)
      kept = settings.jobs.summaries.tally(id, saved.revision)
      # What the parts come to is kept with the stage that orders them; the board's line below has it.
      kept['order'].delete('cost')
      assert_equal JSON.parse(JSON.generate(Miser::Tally.new(ticket_of(saved.document)).stages)), kept, id
      assert_equal settings.tickets.summary(saved.document, nil, nil).bay.then { |bay| JSON.parse(JSON.generate(bay)) },
        call(:get, '/api/jobs')['jobs'].find { |bay| bay['id'] == id }, id
    end
  end

  # The board, the strip, the budget and the baseline sheet name one next step.
  def test_there_is_one_next_step
    call(:get, '/api/jobs')['jobs'].each do |bay|
      opened = job(bay['id'])
      ticket = ticket_of(opened['document'])
      assert_equal TEXT[bay['next']], TEXT[opened['ticket']['next']]
      assert_equal TEXT[bay['next']], ticket.next_step&.text
      sheet = call(:get, "/api/jobs/#{bay['id']}/stages/readings")['baseline'].values.flatten
      sheet.select { |item| item['next'] }.each { |item| assert_equal opened['ticket']['next']['at'], item['at'] }
    end
  end

  # The ticket's want, the stage's screen and the hand-over sheet judge a signal circuit alike.
  def test_there_is_one_judgement_of_signals
    settings.jobs.all.map { |saved| saved.document['id'] }.each do |id|
      view = call(:get, "/api/jobs/#{id}/stages/signals")
      next unless view['ready']

      problems = view['sides']['after']['problems'].map { |p| p['text'] }
      wants = job(id)['ticket']['wants'].select { |w| w['stage'] == 'signals' }.map { |w| w['text'] }
      assert_equal problems.first(1), wants
      told = call(:get, "/api/jobs/#{id}/stages/hand_over")['left_open'].map { |p| p['text'] }.join(' ')
      assert(problems.empty? ? !told.include?('do not work as they must') : told.include?(problems.first))
      assert_equal problems.empty?, !view['sides']['after']['words'].nil?
    end
  end

  # A part tried as a difference keeps what the whole budget with it in place keeps.
  def test_a_part_tried_is_the_budget_with_it
    random = Random.new(Minitest.seed)
    tried = 0
    Array.new(ROUNDS) { random_job(random) }.concat(settings.jobs.all.map(&:document)).each do |document|
      budget = Miser::Budget::Budget.new(document)
      lamp = budget.document.lamps.select { |l| l.own_loads.any? }.sample(random: random) or next
      scenario = budget.scenarios.sample(random: random)
      functions = lamp.own_loads.each_with_index.map do |row, i|
        { 'id' => "f#{i}", 'does' => Miser::Job::Functions.of(row['role']), 'law' => 'driver', 'min_v' => 8,
          'figures' => [{ 'id' => 'f', 'origin' => 'maker', 'amps' => random.rand(0.05..2.0), 'volts' => 13.0 }] }
      end
      part = { 'id' => 'try', 'name' => 'LED', 'base' => lamp.base, 'functions' => functions }.compact
      option = budget.options(lamp, scenario).of(part)
      others = (document['choices'] || []).reject { |c| c['position_id'] == lamp.id }
      choice = { 'id' => 'tried', 'position_id' => lamp.id, 'action' => 'swap', 'part' => part }
      line = Miser::Budget::Budget.new(document.merge('choices' => others + [choice]))
                                  .line('after', scenario.id, budget.circuit_of(lamp.own_loads.first))
      assert_equal line&.keeps&.known? || false, option.keeps.known?
      next unless option.keeps.known?

      tried += 1
      assert_in_delta line.keeps.value, option.keeps.value, 1e-9
      assert_in_delta line.keeps.sigma, option.keeps.sigma, 1e-6
      assert_equal line.verdict, option.verdict
    end
    assert_operator tried, :>, ROUNDS / 4
  end

  # Opened by a newer Miser that fails at one machine: the board shows it among the others, and the log says why.
  def test_a_machine_that_fails_stands_on_the_board
    settings.jobs.instance_variable_get(:@db)[:summaries].where(job_id: 'wren125').delete
    whole = Miser::Server::Present.method(:bay)
    fails = ->(ticket, counted) { ticket.document.id == 'wren125' ? raise(ZeroDivisionError, 'wren') : whole.call(ticket, counted) }
    told = nil
    bays = nil
    Miser::Server::Present.stub(:bay, fails) { _, told = capture_io { bays = call(:get, '/api/jobs')['jobs'] } }
    assert_match(/job wren125 can’t be figured: ZeroDivisionError: wren/, told)
    wren, others = bays.partition { |bay| bay['id'] == 'wren125' }
    assert_equal [nil, 'Wren 125'], wren.first.values_at('verdict', 'name')
    assert_match(/Miser made a mistake/, wren.first.dig('after', 'reason'))
    assert(others.all? { |bay| bay['verdict'] || bay.dig('after', 'reason') })
    assert_equal 4, others.size
    refute_empty call(:get, '/api/search?q=wren')['hits']
  end

  # What is kept of one row is broken: its machine can't be opened and says so, the others can.
  def test_a_broken_row_spoils_its_own_machine
    database = settings.jobs.instance_variable_get(:@db)
    database[:loads].where(job_id: 'dunlin250', id: 'l1').update(body: '{"id":"l1",')
    database[:jobs].where(id: 'bracken420').update(body: 'x')
    database[:parts].where(id: database[:parts].get(:id)).update(body: '{')
    %w[dunlin250 bracken420].each { |id| database[:jobs].where(id: id).update(changed_at: 'later') }
    database[:summaries].delete
    capture_io do
      bays = call(:get, '/api/jobs')['jobs']
      assert_equal(%w[bracken420 dunlin250], bays.select { |bay| bay['verdict'].nil? }.map { |bay| bay['id'] }.sort)
      assert_equal(['Dunlin 250'], bays.select { |bay| bay['id'] == 'dunlin250' }.map { |bay| bay['name'] })
      assert_match(/can’t be read/, call(:get, '/api/jobs/dunlin250', contract: nil)['message'])
      assert_equal 500, last_response.status
      assert_equal 'Wren 125', job('wren125')['document']['name']
      refute_empty call(:get, '/api/search?q=curlew')['hits']
      refute_empty call(:get, '/api/parts')['parts']
      Miser::Store::Jobs.new(database).bring_forward(2) { flunk 'none is older' }
    end
  end

  # Word by word: a machine by its name, its bay or its fleet; a lamp by its name or its base; nothing by what LIKE takes for wild.
  def test_finding_reads_what_was_kept
    assert_equal(['Wren 125'], call(:get, '/api/search?q=wren')['hits'].select { |f| f['kind'] == 'machine' }.map { |f| f['label'] })
    assert_empty(call(:get, '/api/search?q=%25')['hits'].select { |f| f['kind'] == 'machine' })
    assert_empty(call(:get, '/api/search?q=_')['hits'].select { |f| f['kind'] == 'machine' })
    edit({ op: 'set', at: '/name', value: 'Hoopoe 90' },
      { op: 'unset', at: '/machine/model' }, id: 'wren125', revision: job('wren125')['revision'])
    assert_empty(call(:get, '/api/search?q=wren')['hits'].select { |f| f['kind'] == 'machine' })
    assert_equal(%w[wren125], call(:get, '/api/search?q=hoopoe')['hits'].select { |f| f['kind'] == 'machine' }.map { |f| f['job'] })
    assert_equal(['Hoopoe 90'], call(:get, '/api/jobs?only=hoop')['jobs'].map { |bay| bay['name'] })
  end

  private

  def some_edit(document, random)
    lamp = document['loads'].sample(random: random)
    [[{ op: 'set', at: "/loads/#{lamp['id']}/count", value: random.rand(1..4) }],
      [{ op: 'set', at: '/machine/idle_rpm', value: random.rand(900..1900) }],
      [{ op: 'unset', at: '/machine/cruise_rpm' }], [{ op: 'set', at: '/machine/cruise_rpm', value: 4200 }],
      [{ op: 'set', at: '/signals/flasher', value: %w[thermal free_2 free_3].sample(random: random) }],
      [{ op: 'set', at: '/aim/distance_m', value: random.rand(3.0..9.0) }], [{ op: 'set', at: '/aim/set', value: true }],
      [{ op: 'set', at: '/name', value: "M#{random.rand(99)}" }],
      [{ op: 'remove', at: "/loads/#{lamp['id']}" }],
      [{ op: 'set', at: '/headlight/housing/hole_m', value: random.rand(0.03..0.05) }],
      [{ op: 'add', at: '/loads',
         value: { id: "n#{random.rand(9999)}", name: 'Extra', group: 'accessory', role: 'other_accessory', circuit: 'main', law: 'driver',
                  wanted: true } }]].sample(random: random)
  end
end
