# frozen_string_literal: true

require 'net/http'
require 'socket'
require 'tmpdir'
require 'timeout'
require_relative '../test_helper'
require_relative '../support/program'
require_relative '../../cli/program'
require_relative '../../cli/stand_in_instruments'

# Several processes serve one shop: what can't be in several is found from each, and none outlives the others.
class ProcessesTest < Miser::Test
  BIN = Miser::Program::CALL

  def setup
    @folder = Dir.mktmpdir
    @port = TCPServer.new('127.0.0.1', 0).then { |s| s.addr[1].tap { s.close } }
    start
  end

  def teardown
    Process.kill(:TERM, @server.pid)
    @server.close
  rescue Errno::ESRCH, IOError
    nil
  ensure
    FileUtils.rm_rf(@folder)
  end

  def start
    @server = IO.popen([*BIN, 'demo', '--data', @folder, '--port', @port.to_s, '--processes', '2'], err: File::NULL)
    assert_match(/:#{@port}/, @server.gets.to_s)
  end

  # Each call by a connection of its own, so that any process may answer it.
  def ask(verb, path, body = nil)
    request = Net::HTTP.const_get(verb.to_s.capitalize).new(path, 'Content-Type' => 'application/json')
    request.body = JSON.generate(body) if body
    answer = Net::HTTP.start('127.0.0.1', @port) { |http| http.request(request) }
    [answer.code.to_i, JSON.parse(answer.body || 'null')]
  end

  def note(id, text) = ask(:patch, "/api/jobs/#{id}", { revision: 1, edits: [{ op: 'set', at: '/note', value: text }] })

  # @return [Thread::Queue] of a stream's lines
  def follow(path)
    lines = Thread::Queue.new
    Thread.new do
      Net::HTTP.start('127.0.0.1', @port) do |http|
        rest = +''
        http.request(Net::HTTP::Get.new(path)) do |answer|
          answer.read_body do |part|
            rest << part
            lines << rest.slice!(/\A[^\n]*\n/) while rest.include?("\n")
          end
        end
      end
    rescue IOError, SystemCallError
      nil
    end
    lines
  end

  def wait_for(lines, pattern)
    heard = []
    Timeout.timeout(60) { loop { lines.pop.then { |line| pattern.match?(line) ? (return line) : heard << line } } }
  rescue Timeout::Error
    flunk "#{pattern.inspect} was not heard, but #{heard.last(20).join}"
  end

  # @return [Array<Integer>] pids under a process, itself too
  def family(pid)
    children = Dir['/proc/[0-9]*'].map { |path| path[/\d+/].to_i }.select { |child| stat(child)[/\) \S (\d+)/, 1].to_i == pid }
    [pid, *children.flat_map { |child| family(child) }]
  end

  # @return [String] empty where it has ended
  def stat(pid)
    File.read("/proc/#{pid}/stat")
  rescue SystemCallError
    ''
  end

  def gone?(pid) = stat(pid).empty? || stat(pid).match?(/\) Z/)

  def eventually(seconds = 20)
    give_up = Process.clock_gettime(Process::CLOCK_MONOTONIC) + seconds
    until (found = yield)
      flunk 'waited in vain' if Process.clock_gettime(Process::CLOCK_MONOTONIC) > give_up
      sleep 0.1
    end
    found
  end

  def place = family(@server.pid).find { |pid| pid != @server.pid && File.read("/proc/#{pid}/cmdline").include?("miser.rb\0place") }

  def test_what_is_in_one_place_is_found_from_any
    floors = Array.new(6) { follow('/api/events') }
    floors.each { |lines| wait_for(lines, /retry/) }
    six = Array.new(6) { |i| Thread.new { note(%w[wren125 dunlin250 bracken420][i % 3], "no. #{i}") } }.map(&:value)
    assert_equal ([200] * 3) + ([409] * 3), six.map(&:first).sort, 'two on one revision: one is in, the other is told'
    floors.each { |lines| 3.times { wait_for(lines, /"revision":2/) } }
    ask(:post, '/api/here', { window: 'w1', job: 'wren125', stage: 'budget' })
    assert_equal [1] * 4, Array.new(4) { |i| ask(:post, '/api/here', { window: 'w1', job: 'wren125', stage: "s#{i}" })[1]['windows'].size }

    code, run = ask(:post, '/api/runs', { job: 'bracken420', load: 'l2', meter: 'bench_meter', every_s: 0.05, pace: 60 })
    assert_equal 201, code
    assert_equal [200] * 6, Array.new(6) { ask(:get, "/api/runs/#{run['id']}").first }
    assert_equal 409, ask(:post, '/api/runs', { job: 'bracken420', load: 'l2', meter: 'bench_meter' }).first
    streams = Array.new(4) { follow("/api/runs/#{run['id']}/events") }
    firsts = streams.map { |lines| wait_for(lines, /^id: 1$/) && wait_for(lines, /^data/) }
    assert_equal 1, firsts.uniq.size, 'each hears all of it, from the first'
    late = follow("/api/runs/#{run['id']}/events?after=5")
    assert_equal "id: 6\n", wait_for(late, /^id/)
    eventually { ask(:get, "/api/runs/#{run['id']}")[1]['watch'] == 'settled' }
    assert_equal 'stopped', ask(:post, "/api/runs/#{run['id']}/act", { act: 'stop' })[1]['state']
    streams.each { |lines| wait_for(lines, /^event: end/) }
    assert_equal 404, ask(:get, '/api/runs/none').first
    assert_equal 403, Net::HTTP.get_response('127.0.0.1', '/inside/tape/floor', listening(place)).code.to_i,
      'the one place speaks to its own alone'
  end

  # @return [Integer] the port that a process listens on and no other of its family does
  def listening(pid)
    inodes = Dir["/proc/#{pid}/fd/*"].filter_map { |fd| File.readlink(fd)[/socket:\[(\d+)\]/, 1] rescue nil } # rubocop:disable Style/RescueModifier -- it may just have been closed
    File.readlines('/proc/net/tcp').drop(1).map(&:split).select { |row| row[3] == '0A' && inodes.include?(row[9]) }
        .map { |row| row[1].split(':')[1].to_i(16) }.find { |port| port != @port && !Miser::Cli::StandInInstruments::PORTS.include?(port) }
  end

  def test_the_one_place_comes_again_and_nobody_is_left_behind
    lines = follow('/api/events')
    wait_for(lines, /retry/)
    # Only who has heard of it once can tell that it has begun anew.
    assert_equal 200, note('dunlin250', 'before it').first
    wait_for(lines, /"revision":2/)
    Process.kill(:KILL, place)
    # A window is told to look at everything anew, and then goes on hearing.
    wait_for(lines, /event: gap/)
    eventually { ask(:get, '/api/copies').first == 200 }
    code, answer = eventually { note('wren125', 'after it').then { |said| said if said.first != 503 } }
    assert_equal 200, code, answer.inspect
    wait_for(lines, /"revision":2/)
    all = family(@server.pid)
    assert_operator all.size, :>, 3
    Process.kill(:KILL, @server.pid)
    eventually(40) { all.all? { |pid| gone?(pid) } }
    @server.close
    start
    assert_equal 'after it', ask(:get, '/api/jobs/wren125')[1]['document']['note']
  end
end
