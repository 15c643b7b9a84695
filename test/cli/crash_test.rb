# frozen_string_literal: true

require 'json'
require 'net/http'
require 'socket'
require 'tmpdir'
require_relative '../test_helper'
require_relative '../support/program'
require_relative '../../store/database'
require_relative '../../store/jobs'
require_relative '../../formats/job_schema'

# The plug is pulled while somebody types and photographs: what was said to be saved is saved, and nothing half.
class CrashTest < Miser::Test
  BIN = Miser::Program::CALL
  ROUNDS = 3

  def test_killed_while_saving_it_keeps_what_it_said_it_kept
    Dir.mktmpdir do |folder|
      random = Random.new(5)
      said = { revision: 1, name: nil }
      ROUNDS.times do |round|
        serve(folder) do |server, port|
          killer = Thread.new { sleep(0.8 + random.rand(0.7)).then { Process.kill(:KILL, server.pid) } }
          said = type(port, said, round)
          killer.join
        end
        check(folder, said)
      end
      assert_operator said[:revision], :>, ROUNDS, 'something was being saved'
    end
  end

  private

  # @yieldparam server [IO] @yieldparam port [Integer]
  def serve(folder)
    port = TCPServer.new('127.0.0.1', 0).then { |s| s.addr[1].tap { s.close } }
    server = IO.popen([*BIN, '--data', folder, '--port', port.to_s], err: File::NULL)
    assert_match(/:#{port}/, server.gets.to_s)
    yield server, port
  ensure
    server&.close
  end

  # Renames without pause, until nobody answers.
  # @return [Hash] revision and name of the last answer
  def type(port, said, round)
    http = Net::HTTP.start('127.0.0.1', port)
    found = JSON.parse(http.get('/api/jobs/wren125').body)
    # What came through unsaid in the round before stands now.
    revision = found['revision']
    said = { revision: revision, name: revision > 1 ? found['document']['name'] : nil }
    1000.times do |i|
      name = "Wren 125, round #{round} no. #{i}"
      body = JSON.generate(revision: revision,
        edits: [{ op: 'set', at: '/name', value: name },
          { op: 'set', at: '/note', value: name * 20 }])
      answer = http.patch('/api/jobs/wren125', body, 'Content-Type' => 'application/json')
      assert_equal '200', answer.code, answer.body[0, 200]
      revision = JSON.parse(answer.body)['revision']
      said = { revision: revision, name: name }
    end
    flunk 'it was not killed'
  rescue IOError, Errno::ECONNRESET, Errno::EPIPE, Errno::ECONNREFUSED
    said
  end

  def check(folder, said)
    path = Dir[File.join(folder, '**/*.db')].first
    database = Miser::Store::Database.open(path)
    assert_equal 'ok', database.fetch('PRAGMA integrity_check').single_value
    assert_empty database.fetch('PRAGMA foreign_key_check').all
    kept = Miser::Store::Jobs.new(database).find('wren125')
    # The write under way may be in or not; it is never half in.
    assert_includes [said[:revision], said[:revision] + 1], kept.revision
    assert_equal said[:name], kept.document['name'] if said[:name] && kept.revision == said[:revision]
    assert_equal kept.document['name'] * 20, kept.document['note'] if said[:name]
    assert_empty Miser::Formats::JobSchema.errors(kept.document).map(&:to_s)
  ensure
    database&.disconnect
  end
end
