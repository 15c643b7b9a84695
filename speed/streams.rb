# frozen_string_literal: true

require 'json'
require 'net/http'
require 'tmpdir'
require 'puma'
require 'puma/server'
require 'ferrum'
require_relative '../instruments/stand_ins'
require_relative '../cli/demo_data'
require_relative '../server/app'
require_relative '../test/support/chromium'

module Miser
  module Speed
    # Two instruments at ten readings a second to two open browsers: every reading
    # counted at both ends, and the server's memory before and after.
    class Streams
      SECONDS = 60
      EVERY_S = 0.1
      WINDOWS = 2

      # Counts what arrives, and asks whether any number was left out.
      LISTEN = <<~JS
        window.seen = { amps: 0, lux: 0, last: 0, gaps: 0 };
        window.source = new EventSource('/api/runs/%s/events');
        for (const kind of ['amps', 'lux', 'state', 'volts', 'gap'])
          window.source.addEventListener(kind, (e) => {
            const number = Number(e.lastEventId);
            if (number !== window.seen.last + 1) window.seen.gaps += 1;
            window.seen.last = number;
            if (kind in window.seen) window.seen[kind] += 1;
          });
      JS

      def run
        Dir.mktmpdir { |folder| measure(folder) }
      end

      private

      def measure(folder)
        bench = StandIns.start
        database = Cli::DemoData.open(File.join(folder, 'streams.db'))
        Store::Shop.new(database)['instruments'] = bench.addresses
        app = Server::App.on(database)
        server = Puma::Server.new(app, nil, min_threads: 1, max_threads: 24)
        port = server.add_tcp_listener('127.0.0.1', 0).addr[1]
        server.run
        runs = app.settings.runs
        follow(runs, port)
      ensure
        runs&.stop_all
        server&.stop(true)
        bench&.stop
        database&.disconnect
      end

      def follow(runs, port)
        browsers = Array.new(WINDOWS) { Ferrum::Browser.new(**Chromium.options) }
        id = begin_run(port)
        browsers.each do |b|
          b.go_to("http://127.0.0.1:#{port}/theme.js")
          b.execute(format(LISTEN, id))
        end
        memory = resident_kb
        peak = SECONDS.times.map { sleep(1) && resident_kb }.max
        run = runs.find(id)
        run.stop
        sleep 0.5
        report(run, browsers.map { |b| b.evaluate('window.seen') }, memory, peak)
      ensure
        browsers&.each(&:quit)
      end

      def begin_run(port)
        body = { job: 'bracken420', load: 'l2', meter: 'bench_meter', light: 'light_meter', every_s: EVERY_S, pace: 1 }
        answer = Net::HTTP.post(URI("http://127.0.0.1:#{port}/api/runs"), JSON.generate(body), 'Content-Type' => 'application/json')
        JSON.parse(answer.body).fetch('id')
      end

      def resident_kb = File.read('/proc/self/status')[/VmRSS:\s+(\d+)/, 1].to_i

      def report(run, windows, memory, peak)
        taken = run.counts.values.sum
        wanted = (2 * SECONDS / EVERY_S).round
        puts format('streams: %<taken>d readings from two instruments in %<s>d s, of %<wanted>d at ten a second   ratio %<ratio>.3f',
          taken: taken, s: SECONDS, wanted: wanted,
          ratio: taken.to_f / wanted)
        windows.each_with_index do |seen, i|
          puts format('  window %<n>d saw %<seen>d, lost %<lost>d, gaps in the numbers %<gaps>d', n: i + 1,
            seen: seen['amps'] + seen['lux'],
            lost: taken - seen['amps'] - seen['lux'],
            gaps: seen['gaps'])
        end
        puts format('  memory: %<before>.0f MB before, at most %<peak>.0f MB   ratio %<ratio>.3f', before: memory / 1024.0,
          peak: peak / 1024.0, ratio: peak.to_f / memory)
      end
    end
  end
end
