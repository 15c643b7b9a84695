# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../store/database'
require_relative '../../store/jobs'
require_relative '../../formats/job_file'

class JobsTest < Miser::Test
  include Miser

  def setup
    @now = Time.utc(2026, 11, 1)
    @db = Store::Database.open(':memory:')
    @jobs = Store::Jobs.new(@db, clock: -> { @now })
  end

  def edit(revision, *edits, what: edits.to_s)
    @now += 10
    @jobs.change('plain', revision, what: what) { |d| Job::Edit.apply(d, edits) }
  end

  def named(name) = { 'op' => 'set', 'at' => '/name', 'value' => name }

  def test_every_demo_job_comes_back_as_it_went_in
    DEMO.each do |path|
      document = Formats::JobFile.read(File.read(path)).document.merge('oddity' => { 'kept' => [1, 2] })
      document['loads'][0]['oddity'] = true
      @jobs.create(document)
      assert_equal document, @jobs.find(document['id']).document
      assert_equal document.keys, @jobs.find(document['id']).document.keys
    end
  end

  # A photograph outlives its row for as long as undo can bring the row back.
  def test_an_attachment_goes_with_the_last_state_that_speaks_of_it
    file = Store::Attachments::Kept.new(id: 'p_1', type: 'image/jpeg', bytes: "\xFF\xD8\0pixels".b)
    @jobs.create(plain_job)
    saved = @jobs.change('plain', 1, what: 'photograph',
      files: [file]) do |d|
      d.merge('beam' => { 'photographs' => [{ 'id' => 'p_1', 'beam' => 'low', 'side' => 'before' }] })
    end
    saved = @jobs.change('plain', saved.revision, what: 'away') { |d| d.except('beam') }
    assert_equal file.bytes, @jobs.attachments.find('plain', 'p_1').bytes
    (Store::Jobs::HISTORY + 20).times { |i| saved = edit(saved.revision, named("Name #{i}")) }
    assert_nil @jobs.attachments.find('plain', 'p_1')
  end

  # Property: after any edits the tables hold just the document.
  def test_random_edits_keep_tables_and_document_alike
    random = Random.new(4)
    saved = @jobs.create(plain_job(loads: [lamp('a'), lamp('b')]))
    60.times do |i|
      ids = saved.document['loads'].map { |l| l['id'] }
      edits = [{ 'op' => 'add', 'at' => '/loads', 'value' => lamp("n#{i}"), 'before' => ids.sample(random: random) },
        { 'op' => 'set', 'at' => "/loads/#{ids.sample(random: random)}/rated_w", 'value' => random.rand(50) },
        { 'op' => 'move', 'at' => "/loads/#{ids.sample(random: random)}", 'before' => ids.sample(random: random) },
        { 'op' => 'add', 'at' => '/readings', 'value' => { 'id' => "r#{i}", 'load_id' => ids.sample(random: random), 'kind' => 'cold' } },
        { 'op' => 'set', 'at' => '/assumptions/peukert', 'value' => 1 + random.rand.round(3) }]
      edits << { 'op' => 'remove', 'at' => "/loads/#{ids.sample(random: random)}" } if ids.size > 2 && random.rand < 0.4
      wanted = Job::Edit.apply(saved.document, edits = [edits.sample(random: random)])
      saved = edit(saved.revision, *edits)
      assert_equal wanted, saved.document
      assert_equal wanted, @jobs.find('plain').document
    end
    assert_empty @db.fetch('PRAGMA foreign_key_check').all
  end

  def test_a_stale_write_is_refused_and_says_what_stands
    @jobs.create(plain_job)
    edit(1, named('Mine'))
    error = assert_raises(Store::Jobs::Stale) { edit(1, named('Yours')) }
    assert_equal 'Mine', error.current.document['name']
    assert_equal 2, @jobs.find('plain').revision
  end

  def test_undo_and_redo_walk_back_and_forth
    @jobs.create(plain_job)
    %w[A B C].each_with_index { |n, i| edit(i + 1, named(n)) }
    names = []
    walk = ->(direction) { @jobs.step('plain', @jobs.find('plain').revision, direction).then { |s| names << s.document['name'] } }
    3.times { walk[:back] }
    walk[:back] # nothing further back
    2.times { walk[:forth] }
    edit(@jobs.find('plain').revision, named('D'))
    walk[:forth] # a new edit ends redo
    walk[:back]
    assert_equal %w[B A Plain Plain A B D B], names
  end

  def test_keystrokes_in_one_field_are_one_undo
    @jobs.create(plain_job)
    '280'.chars.each_with_index { |_, i| @jobs.change('plain', i + 1, what: 'set /name') { |d| d.merge('name' => '280'[0..i]) } }
    assert_equal 'Plain', @jobs.step('plain', 4, :back).document['name']
  end

  def test_removing_and_bringing_back
    @jobs.create(plain_job)
    assert @jobs.remove('plain')
    assert_nil @jobs.find('plain')
    assert_equal(['plain'], @jobs.removed.map { |r| r[:id] })
    assert @jobs.restore('plain')
    assert_equal 'Plain', @jobs.find('plain').document['name']
    refute @jobs.restore('plain')
  end

  def test_tables_are_strict_and_the_journal_is_written_ahead
    Dir.mktmpdir do |folder|
      db = Store::Database.open(File.join(folder, 'deep/er/shop.db'))
      assert_equal 'wal', db.fetch('PRAGMA journal_mode').single_value
      assert_equal 1, db.fetch('PRAGMA foreign_keys').single_value
      tables = db[:sqlite_master].where(type: 'table').exclude(name: 'schema_info').select_map(%i[name sql])
      # What full text is found by is the library's own.
      tables.reject { |name, _| name.to_s.start_with?('finding') }.each { |name, sql| assert_match(/STRICT/i, sql, name) }
      assert_raises(Sequel::DatabaseError) { db[:history].insert(job_id: 'nobody', revision: 1, document: '', what: '', at: '') }
      db.disconnect
      Store::Database.open(File.join(folder, 'deep/er/shop.db')).disconnect # a second start migrates nothing
    end
  end

  # A write waits for another's to end; the rest of the program does not wait with it.
  def test_a_write_waits_and_holds_nobody_up
    Dir.mktmpdir do |folder|
      first, second = Array.new(2) { Store::Database.open(File.join(folder, 'shop.db')) }
      held = Queue.new
      holder = Thread.new { first.transaction(mode: :immediate) { (held << true) && sleep(0.4) } }
      held.pop
      ticks = 0
      clock = Thread.new { loop { sleep(0.01) && ticks += 1 } }
      Store::Jobs.new(second).create(plain_job)
      clock.kill
      holder.join
      assert_operator ticks, :>, 5, 'others went on'
      assert_equal 'Plain', Store::Jobs.new(first).find('plain').document['name']
      [first, second].each(&:disconnect)
    end
  end

  SAVER = <<~RUBY
    require 'bundler/setup'
    require '%<root>s/store/database'
    require '%<root>s/store/jobs'
    jobs = Miser::Store::Jobs.new(Miser::Store::Database.open(ARGV[0]))
    loop do
      saved = jobs.find('plain')
      jobs.change('plain', saved.revision, what: saved.revision.to_s) { |d| d.merge('loads' => d['loads'].map { |l| l.merge('name' => "n\#{saved.revision}") }) }
      $stdout.write('.')
      $stdout.flush
    end
  RUBY

  def test_a_process_killed_while_saving_leaves_a_whole_job
    Dir.mktmpdir do |folder|
      path = File.join(folder, 'shop.db')
      Store::Jobs.new(Store::Database.open(path)).create(plain_job(loads: Array.new(40) { |i| lamp("l#{i}") }))
      4.times do |round|
        saver = IO.popen(['ruby', '-e', format(SAVER, root: File.expand_path('../..', __dir__)), path])
        saver.read(3 + (round * 5))
        sleep 0.003 * round
        Process.kill(:KILL, saver.pid)
        saver.close
        db = Store::Database.open(path)
        saved = Store::Jobs.new(db).find('plain')
        assert_equal 1, saved.document['loads'].map { |l| l['name'] }.uniq.size, 'half a save was kept' if saved.revision > 1
        assert_equal 'ok', db.fetch('PRAGMA integrity_check').single_value
        assert_operator saved.revision, :>=, 3
        db.disconnect
      end
    end
  end
end
