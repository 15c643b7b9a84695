# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../store/database'
require_relative '../../store/jobs'
require_relative '../../store/parts'
require_relative '../../store/elsewhere'

# Finding by words, and the book's own tables.
class FindingTest < Miser::Test
  Store = Miser::Store

  def setup
    @db = Store::Database.open(':memory:')
    @finding = Store::Finding.new(@db)
  end

  def put(ref, names, words = '') = @finding.put('job', ref, names: names, words: words)

  def found(text) = @finding.search(text, 9).map(&:ref)

  def test_words_in_any_order_begun_and_with_a_slip
    put('a', 'Wren 125, no. 3', 'headlamp HS1 tail plate')
    put('b', 'Dunlin 250 blue', 'headlamp H4 brake lever')
    assert_equal %w[a], found('tail wren')
    assert_equal %w[a], found('3 wre head')
    assert_equal %w[a b].sort, found('headlamp').sort
    # A letter wrong, missing, doubled, two changed about, a long word with two.
    { 'wrem' => %w[a], 'wrn' => [], 'wreen' => %w[a], 'wrne' => %w[a], 'dunlni' => %w[b], 'dnulin' => %w[b], 'dunkin blue' => %w[b],
      'haedlamp h4' => %w[b], 'headlmapp h4' => %w[b] }.each do |text, refs|
      assert_equal refs, found(text), text
    end
    assert_empty found('wren dunlin')
    # Digits are meant as they stand.
    assert_empty found('wren 126')
    ['', '  ', '"', '*', "'; DROP TABLE jobs; --", 'NEAR(', 'AND OR NOT', 'a^b:c', '%_\\'].each do |text|
      assert_kind_of Array,
        found(text), text
    end
    assert_equal %w[b a], [*found('brake'), *found('plate')]
  end

  def test_letters_with_marks_are_found_without
    put('a', 'Möwe 90', 'vélo')
    assert_equal %w[a], found('mowe')
    assert_equal %w[a], found('MÖWE velo')
  end

  # A name weighs more than what stands inside; what changed is found as it is now.
  def test_names_come_first_and_nothing_old_is_found
    put('inside', 'Something', 'curlew curlew')
    put('named', 'Curlew', '')
    assert_equal %w[named inside], found('curlew')
    put('named', 'Heron', '')
    assert_equal %w[inside], found('curlew')
    assert_equal %w[named], found('heron')
    @finding.remove('job', 'named')
    assert_empty found('heron')
  end

  def test_parts_and_machines_are_found_by_their_own_rows
    Store::Parts.new(@db).put({ 'id' => 'p1', 'name' => 'Ember bulb', 'base' => 'HS1', 'note' => 'rattles' })
    assert_equal([%w[part p1]], @finding.search('rattles ember', 9).map { |h| [h.kind, h.ref] })
    Store::Parts.new(@db).put({ 'id' => 'p1', 'name' => 'Ash bulb' })
    assert_empty found('ember')
    Store::Parts.new(@db).remove('p1')
    assert_empty found('ash')
    assert_equal 0, @db[:searchable].count
  end
end

# Machines beside jobs.
class MachinesTest < Miser::Test
  Store = Miser::Store

  def setup
    @db = Store::Database.open(':memory:')
    @jobs = Store::Jobs.new(@db)
    @machines = @jobs.machines
  end

  def job(id, **rest) = Miser::Job::Template.job(id: id, name: "Job #{id}").merge(rest.transform_keys(&:to_s))

  def test_a_job_stands_for_a_machine_of_its_own_until_it_names_one
    @jobs.create(job('a', fleet: 'Station', machine: { 'model' => 'Wren 125', 'frame' => 'WR-1', 'distance_km' => 10 }))
    assert_equal(['Job a', 'Station', 'WR-1'], @machines.find('a').then { |m| [m['name'], m['fleet'], m['machine']['frame']] })
    @jobs.create(job('b', machine_id: 'a', machine: { 'distance_km' => 25, 'frame' => 'typed otherwise' }))
    machine = @machines.find('a')
    # A second job tells what the first left out, and counters only run on.
    assert_equal ['WR-1', 25], machine['machine'].values_at('frame', 'distance_km')
    assert_equal(%w[b a], @machines.jobs('a').map { |j| j[:id] })
    assert_equal 1, @machines.count
  end

  # What is typed into a ticket is typed into the book; what the ticket does not touch stays.
  def test_the_book_follows_a_ticket_by_what_changed
    @jobs.create(job('a', machine: { 'model' => 'Wren 125' }))
    @machines.change('a') { |m| m.merge('note' => 'blue', 'machine' => m['machine'].merge('frame' => 'F1')) }
    @jobs.change('a', 1, what: 'year') { |d| d.merge('machine' => d['machine'].merge('year' => 2014)) }
    assert_equal ['F1', 2014, 'Wren 125'], @machines.find('a')['machine'].values_at('frame', 'year', 'model')
    @jobs.change('a', 2, what: 'model') { |d| d.merge('machine' => d['machine'].except('model')) }
    assert_nil @machines.find('a')['machine']['model']
    assert_equal 'blue', @machines.find('a')['note']
    @jobs.step('a', 3, :back)
    assert_equal 'Wren 125', @machines.find('a')['machine']['model']
  end

  def test_two_books_become_one_and_come_apart
    %w[a b].each { |id| @jobs.create(job(id, machine: { 'frame' => 'F 1' })) }
    assert_equal(%w[b], @machines.twins('F1', 'a').map { |m| m[:id] })
    assert_equal 1, @jobs.join_machines('a', 'b')
    assert_nil @machines.find('b')
    assert_equal %w[a b], @machines.jobs('a').map { |j| j[:id] }.sort
    @jobs.step('b', 2, :back)
    assert @machines.find('b')
    assert_equal(%w[a], @machines.jobs('a').map { |j| j[:id] })
  end

  def test_a_machine_goes_with_its_last_job
    @jobs.create(job('a'))
    @jobs.remove('a')
    assert @machines.find('a')
    @jobs.purge('a')
    assert_nil @machines.find('a')
  end

  # What went out leaves the board; what was taken into the bay again is back; both are told by the ticket alone.
  def test_the_board_is_what_stands_in_the_bays
    @jobs.create(job('a'))
    @jobs.change('a', 1, what: 'out') { |d| d.merge('handed_over' => { 'at' => '2026-01-01T00:00:00Z' }) }
    assert_equal 0, @jobs.summaries.board.last
    @jobs.change('a', 2, what: 'back') { |d| d.merge('handed_over' => d['handed_over'].merge('back_at' => '2026-01-02T00:00:00Z')) }
    assert_equal 1, @jobs.summaries.board.last
  end

  def test_what_falls_due_follows_the_job
    due = [{ 'id' => 'r1', 'due_on' => '2026-02-01', 'what' => 'Look' }, { 'id' => 'r2', 'due_on' => '2026-01-01', 'what' => 'Pull' },
      { 'id' => 'r3', 'dropped' => true }]
    @jobs.create(job('a', rechecks: due, handed_over: { 'at' => '2026-01-01T00:00:00Z' }))
    ids = -> { @jobs.rechecks.due.map { |r| r[:id] } }
    assert_equal %w[r2 r1], ids.call
    # Day by day, as they stand; one that is in no calendar is neither overdue nor due.
    assert_equal({ overdue: 1, due: 1, soon: 0 }, @jobs.rechecks.counts('2026-02-01', '2026-02-15'))
    @jobs.create(job('odd', rechecks: [{ 'id' => 'r', 'due_on' => '2026-01-32' }], handed_over: { 'at' => '2026-01-01T00:00:00Z' }))
    assert_equal 1, @jobs.rechecks.counts('2026-02-01', '2026-02-15')[:overdue]
    @jobs.remove('odd')
    @machines.change('a') { |m| m.merge('gone_on' => '2026-01-15') }
    assert_empty ids.call
    assert_equal(%w[r2 r1], @jobs.rechecks.due(gone: true).map { |r| r[:id] })
    @machines.change('a') { |m| m.except('gone_on') }
    @jobs.change('a', 1,
      what: 'done') { |d| d.merge('rechecks' => d['rechecks'].map { |r| r['id'] == 'r2' ? r.merge('done_on' => '2026-01-03') : r }) }
    assert_equal %w[r1], ids.call
    @jobs.remove('a')
    assert_empty ids.call
  end

  # Of each shop the newest counts; taken back, the one before counts again.
  def test_what_others_learnt_is_taken_back_whole
    elsewhere = Store::Elsewhere.new(@db)
    file = lambda { |serial, mean|
      [{ shop: 'a' * 24, made_on: '2026-01-01', serial: serial,
         rows: [{ 'subject' => 'part', 'key' => 'k', 'mean' => mean }] }]
    }
    one = elsewhere.put(file.call(2, 1.0))
    two = elsewhere.put(file.call(3, 2.0))
    means = -> { elsewhere.of('part', 'k').map { |r| r['mean'] } }
    assert_equal [2.0], means.call
    assert elsewhere.take_back(two)
    refute elsewhere.take_back(two)
    assert_equal [1.0], means.call
    elsewhere.take_back(one)
    assert_empty means.call
    assert elsewhere.bring_back(two)
    assert_equal [2.0], means.call
  end
end
