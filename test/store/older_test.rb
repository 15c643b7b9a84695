# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../../cli/kept'

# A shop's file as an older Miser left it: jobs and every state that undo can reach are made what they are now, once.
class OlderTest < Miser::Test
  KEPT = JSON.parse(File.read(File.expand_path('../fixtures/version_1.json', __dir__))).first(8)

  # The database as the version before the lamps had it.
  def older(path)
    database = Sequel.sqlite(path)
    Sequel.extension :migration
    Sequel::Migrator.run(database, Miser::Store::Database::MIGRATIONS, target: 3)
    KEPT.each { |kept| keep(database, kept['document']) }
    database[:parts].insert(id: 'p', name: 'Old part', body: JSON.generate('id' => 'p', 'name' => 'Old part', 'law' => 'driver'))
    database.disconnect
  end

  def keep(database, document)
    lists = %w[circuits loads readings choices scenarios ride]
    body = JSON.generate(document.except(*lists, 'assumptions', 'id', 'name', 'bay', 'system').merge('#keys' => document.keys))
    head = document.slice('id', 'name', 'bay', 'system').transform_keys(&:to_sym)
    database[:jobs].insert(**head, revision: 2, body: body, created_at: 'x', changed_at: 'x')
    lists.each do |list|
      document[list].each_with_index do |row, i|
        more = { 'loads' => row.slice('name', 'role'), 'readings' => row.slice('load_id'), 'choices' => row.slice('load_id') }.fetch(list,
          {})
        database[list.to_sym].insert(job_id: document['id'], id: row['id'], place: i, body: JSON.generate(row), **more.transform_keys(&:to_sym))
      end
    end
    (document['assumptions'] || {}).each { |k, v| database[:assumptions].insert(job_id: document['id'], key: k, value: JSON.generate(v)) }
    [[1, document.merge('name' => 'Before')], [2, document]].each do |revision, state|
      database[:history].insert(job_id: document['id'], revision: revision, document: JSON.generate(state), back: revision == 2 ? 1 : nil, what: 'x', at: Time.now.utc.iso8601)
    end
  end

  def test_jobs_and_their_history_come_forward_once
    Dir.mktmpdir do |folder|
      older(path = File.join(folder, 'shop.db'))
      database = Miser::Cli::Kept.open(path)
      jobs = Miser::Store::Jobs.new(database)
      KEPT.each do |kept|
        id = kept.dig('document', 'id')
        expected = Miser::Formats::JobFile.take(kept['document']).document
        assert_equal expected, jobs.find(id).document
        undone = jobs.step(id, 2, :back).document
        assert_equal [2, 'Before', expected['positions']], undone.values_at('version', 'name', 'positions')
      end
      assert_equal 'driver', Miser::Store::Parts.new(database).find('p')['functions'][0]['law']
      assert_equal 0, jobs.bring_forward(Miser::Job::Template::VERSION) { flunk 'once is enough' }
    end
  end

  # A shop's file of each older form, with rows that hang on others.
  def of_form(path, form)
    database = Sequel.sqlite(path, foreign_keys: true)
    Sequel.extension :migration
    Sequel::Migrator.run(database, Miser::Store::Database::MIGRATIONS, target: form)
    database.transaction { 400.times { |i| rows(database, i, form) } }
    database.disconnect
  end

  def rows(database, i, form)
    database[:jobs].insert(id: "j#{i}", revision: 1, name: 'x', system: 'battery_dc', body: '{}', created_at: 'x', changed_at: 'x')
    database[:loads].insert(job_id: "j#{i}", id: 'l', place: 0, name: 'x', role: 'tail', body: '{}')
    database[:history].insert(job_id: "j#{i}", revision: 1, document: '{}', what: 'x', at: 'x')
    database[:choices].insert({ job_id: "j#{i}", id: 'c', place: 0, body: '{}', (form < 4 ? :load_id : :position_id) => 'l' })
  end

  COUNTED = %i[jobs loads history choices].freeze

  # The plug pulled at some moment of the upgrade, again and again: it opens afterwards, whole, and a copy as it was lies beside it.
  def test_a_kill_during_an_upgrade_loses_nothing
    random = Random.new(Minitest.seed)
    Dir.mktmpdir do |folder|
      (1...Miser::Store::Database.newest).each do |form|
        made = File.join(folder, "made-#{form}.db")
        of_form(made, form)
        FileUtils.cp(made, whole = File.join(folder, 'whole.db'))
        took = timed { upgraded(whole) }
        3.times do |n|
          path = File.join(folder, "#{form}-#{n}.db")
          FileUtils.cp(made, path)
          child = fork { upgraded(path) && exit!(0) }
          sleep(random.rand * took)
          Process.kill('KILL', child)
          Process.wait(child)
          assert_equal [400] * COUNTED.size, upgraded(path), "form #{form}"
        end
        assert_path_exists File.join(folder, "whole.db.form-#{form}")
        FileUtils.rm_f(Dir[File.join(folder, 'whole.db*')])
      end
    end
  end

  def upgraded(path)
    database = Miser::Store::Database.open(path)
    COUNTED.map { |table| database[table].count }
  ensure
    database&.disconnect
  end

  def timed
    started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    yield
    Process.clock_gettime(Process::CLOCK_MONOTONIC) - started
  end

  # A step that drops rows is taken back, and says which.
  def test_a_step_that_loses_rows_is_taken_back
    Dir.mktmpdir do |folder|
      of_form(path = File.join(folder, 'shop.db'), Miser::Store::Database.newest)
      steps = File.join(folder, 'steps')
      FileUtils.cp_r(Miser::Store::Database::MIGRATIONS, steps)
      form = Miser::Store::Database.newest + 1
      step = lambda do |body|
        File.write(File.join(steps, format('%03d_bad.rb', form)), "Sequel.migration { up { #{body} } }")
        Miser::Store::Upgrade.new(path, steps, 1.0).run(form - 1, form)
      end
      error = assert_raises(Miser::Store::Upgrade::Lossy) { step.call("self[:choices].where(id: 'c').delete") }
      assert_match(/found 400 rows in choices and left 0/, error.message)
      astray = assert_raises(Miser::Store::Upgrade::Lossy) { step.call("self[:loads].where(job_id: 'j0').update(job_id: 'nobody')") }
      assert_match(/belong to nothing/, astray.message)
      assert_equal [400] * COUNTED.size, upgraded(path)
      # Children of a table that is altered by copying it stay.
      step.call('drop_column :jobs, :removed_by; add_column :jobs, :other, :integer; set_column_type :jobs, :bay, :text')
      file = Sequel.sqlite(path)
      assert_equal([400] * COUNTED.size, COUNTED.map { |table| file[table].count })
      file.disconnect
    end
  end
end
