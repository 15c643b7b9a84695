# frozen_string_literal: true

require 'net/http'
require 'open3'
require 'socket'
require 'tmpdir'
require_relative '../test_helper'
require_relative '../support/program'
require_relative '../../cli/demo_data'
require_relative '../../store/backup'

# The whole shop as one file, taken while it is served, looked at, and put back whole or not at all.
class BackupTest < Miser::Test
  BIN = Miser::Program::CALL

  def setup
    @top = Dir.mktmpdir
    @folder = File.join(@top, 'shop')
    @copy = File.join(@top, 'copy.db')
    Miser::Cli::DemoData.open(path).disconnect
  end

  def teardown = FileUtils.rm_rf(@top)

  def path(folder = @folder) = File.join(folder, 'demo.db')

  def miser(*words, folder: @folder) = Miser::Program.run(*words, '--demo', '--data', folder)

  def jobs(folder = @folder)
    database = Miser::Store::Database.open(path(folder))
    yield Miser::Store::Jobs.new(database), database
  ensure
    database&.disconnect
  end

  def rename(name, folder = @folder)
    jobs(folder) { |list| list.change('wren125', list.find('wren125').revision, what: 'name') { |d| d.merge('name' => name) } }
  end

  def test_taken_while_it_is_served_it_has_all_that_was_saved_before
    port = TCPServer.new('127.0.0.1', 0).then { |s| s.addr[1].tap { s.close } }
    server = IO.popen([*BIN, 'demo', '--data', @folder, '--port', port.to_s], err: File::NULL)
    assert_match(/:#{port}/, server.gets.to_s)
    said = 1
    typing = Thread.new do
      Net::HTTP.start('127.0.0.1', port) do |http|
        loop do
          body = JSON.generate(revision: said, edits: [{ op: 'set', at: '/note', value: "no. #{said}" }])
          said = JSON.parse(http.patch('/api/jobs/wren125', body, 'Content-Type' => 'application/json').body).fetch('revision')
        end
      end
    end
    sleep 0.02 until said > 5
    before = said
    # From nothing, as it is typed: that takes long enough for others to save meanwhile.
    out, err, status = Open3.capture3(*BIN, 'backup', '--to', @copy, '--demo', '--data', @folder)
    assert status.success?, err
    assert_match(/5 jobs, last changed 20/, out)
    assert_operator said, :>, before, 'it was in use meanwhile'
    assert_match(/stop that one first/, miser('restore', @copy, '--over')[1])
    typing.kill
    Process.kill(:TERM, server.pid)
    server.close
    other = File.join(@top, 'other')
    assert miser('restore', @copy, folder: other).last.success?
    jobs(other) do |list, database|
      assert_includes before..said, list.find('wren125').revision
      jobs { |_, here| %i[attachments parts].each { |table| assert_equal here[table].count, database[table].count, table } }
    end
    assert_equal '600', format('%o', File.stat(@copy).mode & 0o777)
  end

  def test_what_would_be_lost_is_said_first_and_what_was_there_is_kept
    jobs { |_, database| database[:sessions].insert(account_id: database[:people].insert(name: 'Osk'), session_id: 'x') }
    assert miser('backup', '--to', @copy).last.success?
    rename('Siskin 90')
    out, err, status = miser('restore', @copy)
    assert_equal 1, status.exitstatus
    assert_match(/later here: Siskin 90/, out)
    assert_match(/1 jobs would be set back/, err)
    jobs { |list| assert_equal 'Siskin 90', list.find('wren125').document['name'] }
    assert miser('restore', @copy, '--over').last.success?
    jobs do |list, database|
      assert_equal 'Wren 125', list.find('wren125').document['name']
      assert_equal [1, 0], [database[:people].count, database[:sessions].count], 'who was put out since is not let in by it'
    end
    kept = Dir["#{path}.before-*"]
    assert_equal 1, kept.size
    assert_equal 'Siskin 90', Miser::Store::Backup.contents(kept.first).jobs['wren125'][:name]
    # Over a damaged file it goes as well, and the damaged one is kept as it was.
    File.write(path, 'no shop any more')
    assert_match(/can’t be read/, miser('restore', @copy)[1])
    assert_equal 'no shop any more', File.read(path)
    assert miser('restore', @copy, '--over').last.success?
    jobs { |list| assert_equal 5, list.all.size }
    3.times { assert miser('restore', @copy, '--over').last.success?, 'as quickly as one can' }
    assert_equal 5, Dir["#{path}.before-*"].size
    { 'nowhere' => /is not there/, path => /own file/, __FILE__ => /no file of Miser/ }.each { |from, words| assert_match words, miser('restore', from)[1] }
    assert_match(/is there already/, miser('backup', '--to', @copy)[1])
  end

  # Stopped at any moment, what is there is the one or the other, whole.
  def test_killed_while_restoring_it_is_the_old_or_the_new
    assert miser('backup', '--to', @copy).last.success?
    names = []
    random = Random.new(11)
    10.times do
      rename('Siskin 90')
      restoring = IO.popen([*BIN, 'restore', @copy, '--over', '--demo', '--data', @folder], err: File::NULL, pgroup: true)
      assert restoring.gets, 'it has looked, and begins'
      sleep random.rand(0.0..0.25)
      Process.kill(:KILL, -restoring.pid)
      restoring.close
      jobs do |list, database|
        assert_equal 'ok', database.fetch('PRAGMA integrity_check').single_value
        names << list.find('wren125').document['name']
      end
    end
    assert_empty names - ['Siskin 90', 'Wren 125']
  end
end
