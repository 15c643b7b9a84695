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
end
