# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../store/database'
require_relative '../../store/jobs'

# What lists read: kept with each save, of one revision and by the rules of now, made anew where it is behind.
class SummariesTest < Miser::Test
  Store = Miser::Store
  Summary = Store::Summaries::Summary

  def setup
    @folder = Dir.mktmpdir
    @database = Store::Database.open(File.join(@folder, 'shop.db'))
    @made = []
  end

  def teardown
    @database.disconnect
    FileUtils.rm_rf(@folder)
  end

  def jobs(rules: 'one')
    Store::Jobs.new(@database, rules: rules, summarize: lambda { |document, _, _|
      @made << document['id']
      find = { 'kind' => 'machine', 'label' => document['name'], 'words' => document['name'].downcase }
      bay = { id: document['id'], name: document['name'], by: rules }
      Summary.new(tally: {}, bay: bay, names: "#{document['name']}\n#{document['bay']}",
        words: document['loads'].map { |l| l['name'] }.join("\n"), finds: [find])
    })
  end

  def machine(id, name: id, bay: nil) = Miser::Job::Template.job(id: id, name: name).merge({ 'bay' => bay }.compact)

  def board(jobs, **page) = jobs.board(**page).then { |lines, count| [lines.map { |l| JSON.parse(l)['name'] }, count] }

  def test_the_board_pages_by_bay_and_name
    store = jobs
    %w[d c b a].each_with_index { |id, i| store.create(machine(id, bay: "Bay #{i / 2}")) }
    assert_equal [%w[c d a b], 4], board(store)
    assert_equal [%w[d a], 4], board(store, from: 1, limit: 2)
    assert_equal [%w[a b], 2], board(store, word: 'bay 1')
    store.remove('a')
    assert_equal [%w[b], 1], board(store, word: 'bay 1')
    assert_equal [[], 0], board(store, word: '%')
  end

  def test_a_save_keeps_the_summary_of_its_revision
    store = jobs
    store.create(machine('a'))
    store.change('a', 1, what: 'name') { |document| document.merge('name' => 'Other') }
    assert_equal [%w[Other], 1], board(store)
    assert_equal %w[a a], @made
    assert_equal({}, store.summaries.tally('a', 2))
    assert_nil store.summaries.tally('a', 1)
  end

  # Written by a program without summaries, or by other rules: what is shown is made first, the rest a few at a time.
  def test_what_is_behind_is_made_anew
    plain = Store::Jobs.new(@database)
    %w[a b c].each { |id| plain.create(machine(id)) }
    store = jobs
    assert_equal [%w[b], 3], board(store, from: 1, limit: 1)
    assert_equal %w[b], @made
    assert_equal 2, store.catch_up(10)
    assert_equal 0, store.catch_up(10)
    newer = jobs(rules: 'two')
    assert_nil newer.summaries.tally('a', 1)
    assert_equal(%w[two two two], newer.board.first.map { |line| JSON.parse(line)['by'] })
    assert_equal 0, newer.catch_up(10)
  end

  def test_a_save_that_fails_leaves_nothing_behind
    store = jobs
    store.create(machine('a'))
    broken = Store::Jobs.new(@database, rules: 'one', clock: -> { Time.at(0).utc }, summarize: ->(*) { raise 'no summary' })
    assert_raises(RuntimeError) { broken.change('a', 1, what: 'name') { |document| document.merge('name' => 'Lost') } }
    assert_equal(['a', 1], broken.find('a').then { |saved| [saved.document['name'], saved.revision] })
    store.change('a', 1, what: 'name') { |document| document.merge('name' => 'Kept') }
    assert_equal 'Kept', broken.find('a').document['name']
  end

  # Rules changed, and one machine fails by them: the others are shown, and it beside them.
  def test_a_machine_that_cannot_be_summarized_hides_no_other
    %w[a b c].each { |id| jobs.create(machine(id)) }
    told = []
    rule = lambda do |document, *|
      raise ZeroDivisionError, 'b' if document['id'] == 'b'

      Summary.new(tally: {}, bay: document.slice('id', 'name'), names: document['name'], words: '', finds: [])
    end
    plain = lambda do |document, error|
      told << error.message
      Summary.new(bay: { name: "#{document['id']} fails" }, names: '', words: '', finds: [])
    end
    store = Store::Jobs.new(@database, rules: 'new', summarize: rule, without: plain)
    assert_equal 3, store.catch_up(10)
    assert_equal [['a', 'b fails', 'c'], 3], board(store)
    assert_equal ['b'], told
    assert_nil store.summaries.tally('b', 1)
    assert_raises(ZeroDivisionError) { store.change('b', 1, what: 'name') { |document| document.merge('name' => 'B') } }
    assert_equal 'b', store.find('b').document['name']
  end

  # Two programs on one file: neither is shown what its memory has and the file no longer.
  def test_memory_never_stands_before_the_file
    one, two = Array.new(2) { jobs }
    one.create(machine('a'))
    20.times do |i|
      writer, reader = [one, two].rotate(i)
      writer.change('a', i + 1, what: "step #{i}") { |document| document.merge('name' => "Name #{i}") }
      assert_equal "Name #{i}", reader.find('a').document['name']
    end
    back = two.step('a', 21, :back)
    assert_equal back.document, one.find('a').document
    assert_predicate one.find('a').document, :frozen?
  end

  def test_what_was_not_asked_for_longest_is_forgotten
    memo = Store::Memo.new(2)
    memo[:a] = 1
    memo[:b] = 2
    assert_equal 1, memo[:a]
    memo[:c] = 3
    assert_equal [1, nil, 3], [memo[:a], memo[:b], memo[:c]]
  end
end
