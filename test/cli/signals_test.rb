# frozen_string_literal: true

require 'json'
require 'net/http'
require 'socket'
require 'tmpdir'
require 'timeout'
require_relative '../test_helper'

# Miser ends when it is told to, whichever way that is said, and lets port and file go.
class SignalsTest < Miser::Test
  ROOT = File.expand_path('../..', __dir__)
  # s: far beyond what it takes, far below for ever.
  LONGEST_S = 60

  def free_port = TCPServer.open('127.0.0.1', 0) { |s| s.addr[1] }

  # Ctrl-C, an end that a system asks for, a terminal that was closed; in a locale without UTF-8 too.
  def test_it_ends_in_one_process_and_in_several
    [['INT', 2, 'C'], ['HUP', 2, 'C.UTF-8'], ['TERM', 1, 'C']].each do |signal, processes, locale|
      Dir.mktmpdir { |folder| started_and_ended(folder, signal, processes, locale) }
    end
  end

  # Told to begin anew it goes on as it is: the same shop on the same port.
  def stays(pid, port)
    %w[USR1 USR2].each { |signal| Process.kill(signal, pid) }
    sleep 1.5
    jobs = Net::HTTP.get(URI("http://127.0.0.1:#{port}/api/jobs"))
    assert_equal 0, JSON.parse(jobs)['count'], 'an empty shop stays one'
  end

  def started_and_ended(folder, signal, processes, locale)
    port = free_port
    said = IO.popen([{ 'LC_ALL' => locale }, File.join(ROOT, 'bin/miser'), 'serve', '--data', folder, '--port', port.to_s,
      '--processes', processes.to_s, { err: %i[child out], pgroup: true }])
    Timeout.timeout(LONGEST_S) { assert_match(/Miser is at/, said.gets, "#{locale}, #{processes} processes") }
    stays(said.pid, port)
    Process.kill(signal, said.pid)
    Timeout.timeout(LONGEST_S) { said.read }
    assert_raises(Errno::ECONNREFUSED) { TCPSocket.new('127.0.0.1', port) }
  rescue Timeout::Error
    flunk "#{signal} with #{processes} processes: it goes on"
  ensure
    begin
      Process.kill('KILL', -said.pid)
    rescue Errno::ESRCH
      nil # It has ended.
    end
    said.close
  end
end
