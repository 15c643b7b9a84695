# frozen_string_literal: true

require 'json'
require 'net/http'
require 'tmpdir'
require 'puma'
require 'puma/server'
require_relative 'large_job'
require_relative '../cli/demo_data'
require_relative '../server/app'

module Miser
  module Speed
    # A whole shop: a board of thousands, a search over it, and many bays at work at once,
    # each against an empty answer of the same server in the same run.
    class House
      JOBS = 5000
      BAYS = 20
      SECONDS = 60
      # Boards open beside them, each looking anew whenever it hears of a change, as a window does.
      BOARDS = 5
      BOARD_S = 0.5
      # Twice the bays, for a while.
      MANY = 40
      MANY_S = 20
      ROUNDS = 30

      def run
        Dir.mktmpdir do |folder|
          path = File.join(folder, 'house.db')
          fill(path)
          serve(path) do |port, child|
            lists(port)
            bays(port, child)
          end
        end
      end

      private

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC) * 1000

      def timed
        start = now
        answer = yield
        raise "answered #{answer.code}: #{answer.body[0, 200]}" unless answer.is_a?(Net::HTTPSuccess)

        now - start
      end

      def median(&block)
        5.times { timed(&block) }
        Array.new(ROUNDS) { timed(&block) }.sort[ROUNDS / 2]
      end

      # Twenty large jobs; and thousands that lists show, each the summary of one of the demo's under a name of its own.
      def fill(path)
        database = Cli::DemoData.open(path)
        app = Server::App.on(database)
        MANY.times { |i| app.settings.jobs.create(LargeJob.document("bay#{i}")) }
        kept = database[:summaries].all
        rows = database[:jobs].all.to_h { |row| [row[:id], row] }
        copies = Array.new(JOBS) { |i| copy(kept[i % kept.size], rows, i) }
        database[:jobs].multi_insert(copies.map(&:first))
        database[:summaries].multi_insert(copies.map(&:last))
        database.disconnect
      end

      def copy(summary, rows, number)
        row = rows.fetch(summary[:job_id])
        id = "many#{number}"
        name = "#{row[:name]} no #{number}"
        bay = JSON.parse(summary[:bay]).merge('id' => id, 'name' => name)
        finds = JSON.parse(summary[:finds]).map { |f| f.merge('job' => id) }
        [row.merge(id: id, name: name),
          summary.merge(job_id: id, bay: JSON.generate(bay), names: name.downcase, finds: JSON.generate(finds))]
      end

      # The server has a process of its own, as it has in a shop.
      def serve(path)
        mine, theirs = IO.pipe
        child = fork { served(path, theirs) }
        theirs.close
        yield mine.gets.to_i, child
      ensure
        Process.kill('TERM', child) if child
        Process.wait(child) if child
      end

      def served(path, out)
        database = Store::Database.open(path)
        server = Puma::Server.new(Server::App.on(database), nil, min_threads: 1, max_threads: 12)
        port = server.add_tcp_listener('127.0.0.1', 0).addr[1]
        trap('TERM') { exit!(0) }
        out.puts port
        out.flush
        server.run.join
      end

      def lists(port)
        Net::HTTP.start('127.0.0.1', port) do |http|
          empty = median { http.get('/api/health') }
          board = median { http.get('/api/jobs') }
          later = median { http.get("/api/jobs?from=#{JOBS - 200}") }
          find = median { http.get('/api/search?q=no%204321') }
          load = median { http.get('/api/search?q=tail') }
          puts format('a board of %<n>d jobs: %<board>.1f ms, its last page %<later>.1f ms; an empty answer %<empty>.1f ms   ratios ' \
                      '%<r>.0f and %<s>.0f   (aim: under 50 ms)',
            n: JOBS, board: board, later: later, empty: empty, r: board / empty, s: later / empty)
          puts format('finding over them: a machine %<find>.1f ms, a lamp %<load>.1f ms   ratios %<r>.0f and %<s>.0f   (aim: under 50 ms)',
            find: find, load: load, r: find / empty, s: load / empty)
        end
      end

      # One bay alone, then all of them: an edit a second each, everyone in a job of 40 loads.
      def bays(port, child)
        alone = worked(port, 1, SECONDS / 4)
        before = resident_mb(child)
        seen, all = watched(port) { worked(port, BAYS, SECONDS) }
        after = resident_mb(child)
        many = worked(port, MANY, MANY_S)
        puts format('one bay, an edit a second: middle %<m>.0f ms, p99 %<p>.0f ms', m: alone[alone.size / 2], p: percentile(alone))
        puts format('%<n>d bays, an edit a second each for %<s>d s, %<edits>d edits, no error: middle %<m>.0f ms, p99 %<p>.0f ms   ratios to ' \
                    'one bay %<r>.1f and %<q>.1f   (aim: p99 under 200 ms)',
          n: BAYS, s: SECONDS, edits: all.size, m: all[all.size / 2], p: percentile(all),
          r: all[all.size / 2] / alone[alone.size / 2], q: percentile(all) / percentile(alone))
        puts format('  %<b>d boards live beside them: heard of %<heard>d changes each, looked %<looked>d times; memory %<before>.0f MB before, ' \
                    '%<after>.0f MB after   ratio %<m>.2f', b: BOARDS, heard: seen.map(&:first).min, looked: seen.sum(&:last), before: before,
          after: after, m: after / before)
        puts format('%<n>d bays for %<s>d s: %<edits>d edits, no error, middle %<m>.0f ms, p99 %<p>.0f ms', n: MANY, s: MANY_S, edits: many.size,
          m: many[many.size / 2], p: percentile(many))
      end

      def resident_mb(pid) = File.read("/proc/#{pid}/status")[/VmRSS:\s+(\d+)/, 1].to_i / 1024.0

      # @return [Array(Array<Array(Integer, Integer)>, Object)] changes heard of and looks, by board; and what the block gives
      def watched(port)
        boards = Array.new(BOARDS) { board(port) }
        result = yield
        [boards.map { |thread, ear| ear.close.then { thread.value } }, result]
      end

      def board(port)
        ear = TCPSocket.new('127.0.0.1', port)
        ear.write("GET /api/events HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n")
        [Thread.new { Net::HTTP.start('127.0.0.1', port) { |http| listen(ear, http) } }, ear]
      end

      def listen(ear, http)
        heard = looked = 0
        last = 0.0
        loop do
          heard += 1 if ear.gets.to_s.start_with?('event: job')
          next if now - last < BOARD_S * 1000

          timed { http.get('/api/jobs') }
          looked += 1
          last = now
        end
      rescue IOError
        [heard, looked]
      end

      def percentile(sorted) = sorted[(sorted.size * 0.99).ceil - 1]

      # @return [Array<Float>] ms of every edit, sorted
      # @raise [RuntimeError] where one is refused
      def worked(port, bays, seconds)
        Array.new(bays) { |i| Thread.new { bay(port, i, seconds, bays) } }.flat_map(&:value).sort
      end

      def bay(port, number, seconds, of)
        Net::HTTP.start('127.0.0.1', port) do |http|
          revision = JSON.parse(http.get("/api/jobs/bay#{number}").body).fetch('revision')
          sleep number.to_f / of
          Array.new(seconds) do |second|
            body = JSON.generate(revision: revision,
              edits: [{ op: 'set', at: '/circuits/main/alternator/rated_w', value: (300 + second).to_s }])
            took = timed do
              http.patch("/api/jobs/bay#{number}", body, 'Content-Type' => 'application/json').tap do |answer|
                revision = JSON.parse(answer.body).fetch('revision')
              end
            end
            sleep [1 - (took / 1000), 0].max
            took
          end
        end
      end
    end
  end
end
