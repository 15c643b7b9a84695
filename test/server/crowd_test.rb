# frozen_string_literal: true

require 'net/http'
require 'puma'
require 'puma/server'
require 'tmpdir'
require_relative '../test_helper'
require_relative '../support/demo_shop'

# A shop full of windows: several write, each to its own machine and all to one, others read.
# Every answer is an answer, and every write that was taken is there.
class CrowdTest < Miser::Test
  ROUNDS = 8
  MACHINES = %w[wren125 dunlin250 bracken420 ptarmigan550].freeze

  def setup
    @folder = Dir.mktmpdir
    @database = Miser::DemoShop.at(File.join(@folder, 'shop.db'))
    @server = Puma::Server.new(Miser::Server::App.on(@database), nil, min_threads: 8, max_threads: 16)
    @port = @server.add_tcp_listener('127.0.0.1', 0).addr[1]
    @server.run
  end

  def teardown
    @server.stop(true)
    @database.disconnect
    FileUtils.rm_rf(@folder)
  end

  def window(&) = Thread.new { Net::HTTP.start('127.0.0.1', @port, &) }

  def write(http, job, name)
    revision = JSON.parse(http.get("/api/jobs/#{job}").body)['revision']
    http.patch("/api/jobs/#{job}", JSON.generate(revision: revision, edits: [{ op: 'set', at: '/note', value: name }]),
      'Content-Type' => 'application/json')
  end

  def test_many_windows_at_once
    answers = Queue.new
    writers = MACHINES.map { |job| window { |http| ROUNDS.times { |i| answers << [job, write(http, job, "#{job} #{i}").code] } } }
    rivals = Array.new(3) do |n|
      window do |http|
        ROUNDS.times do |i|
          answers << ['curlew1100', write(http, 'curlew1100', "#{n}/#{i}").code]
        end
      end
    end
    readers = Array.new(2) do
      window do |http|
        ROUNDS.times do
          %w[/api/jobs /api/jobs/dunlin250/stages/beam
            /api/jobs/dunlin250/stages/signals].each do |path|
            answers << [path, http.get(path).code]
          end
        end
      end
    end
    [*writers, *rivals, *readers].each(&:join)
    codes = Array.new(answers.size) { answers.pop }
    assert_empty(codes.reject { |where, code| code == '200' || (where == 'curlew1100' && code == '409') }.tally)
    MACHINES.each { |job| assert_equal "#{job} #{ROUNDS - 1}", Miser::Store::Jobs.new(@database).find(job).document['note'] }
    taken = codes.count(%w[curlew1100 200])
    assert_operator taken, :>=, ROUNDS, 'of rivals one always comes through'
    assert_equal taken + 1, Miser::Store::Jobs.new(@database).find('curlew1100').revision
  end

  # Whoever listens hears of each change that was kept, as it happens, and of none that was not.
  def test_what_is_kept_is_heard_of_at_once
    ear = TCPSocket.new('127.0.0.1', @port)
    ear.write("GET /api/events HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n")
    nil until ear.gets == "\r\n"
    made = window do |http|
      write(http, 'wren125', 'heard')
      http.patch('/api/jobs/wren125', JSON.generate(revision: 2, edits: [{ op: 'set', at: '/loads/l1/name', value: '' }]),
        'Content-Type' => 'application/json')
      http.patch('/api/jobs/wren125', JSON.generate(revision: 1, edits: [{ op: 'set', at: '/note', value: 'late' }]),
        'Content-Type' => 'application/json')
      made = JSON.parse(http.post('/api/jobs', '{"name":"New"}', 'Content-Type' => 'application/json').body).dig('document', 'id')
      http.delete("/api/jobs/#{made}")
      http.post("/api/jobs/#{made}/restore", '', 'Content-Type' => 'application/json')
      made
    end.value
    heard = []
    heard << JSON.parse(ear.gets.then { |line|
      line.start_with?('data:') ? line.delete_prefix('data: ') : 'null'
    }) while heard.compact.size < 4
    assert_equal([['wren125', 2], [made, 1], [made, nil], [made, 1]], heard.compact.map { |e| e.values_at('id', 'revision') })
  ensure
    ear&.close
  end

  # Another program holds the file: those who save wait, and are told; those who read don't notice.
  def test_savers_behind_a_lock_hold_up_no_reader
    path = File.join(@folder, 'shop.db')
    @server.stop(true)
    @database.disconnect
    @database = Miser::Store::Database.open(path, wait_s: 1.0)
    @server = Puma::Server.new(Miser::Server::App.on(@database), nil, min_threads: 16, max_threads: 16)
    @port = @server.add_tcp_listener('127.0.0.1', 0).addr[1]
    @server.run
    other = Miser::Store::Database.open(path)
    reads = []
    codes = other.transaction(mode: :immediate) do
      savers = Array.new(12) { |i| window { |http| write(http, MACHINES[i % MACHINES.size], "held #{i}").code } }
      sleep 0.2
      reads = Array.new(3) { window { |http| [http.get('/api/jobs/bracken420').code, savers.count(&:alive?)] } }.map(&:value)
      savers.map(&:value)
    end
    assert_equal [['200', 12]] * 3, reads, 'read while all who save still wait'
    assert_equal ['503'], codes.uniq
    assert_equal('200', window { |http| write(http, 'wren125', 'free').code }.value)
  ensure
    other&.disconnect
  end
end
