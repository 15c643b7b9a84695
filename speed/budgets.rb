# frozen_string_literal: true

require 'json'
require 'net/http'
require 'open3'
require 'tempfile'
require 'tmpdir'
require 'puma'
require 'puma/server'
require 'ferrum'
require_relative '../core/miser'
require_relative '../cli/demo_data'
require_relative '../server/app'
require_relative '../test/support/chromium'
require_relative '../test/support/ngspice'

module Miser
  # Figures of speed, to compare and not to test against.
  module Speed
    # A job of 40 loads and 12 scenarios, before and after, with its curve: how
    # long the core takes, beside ngspice solving the same operating points; the
    # same over the wire; a keystroke to the moved rail; the first paint.
    class Budgets
      ROUNDS = 30

      KEYSTROKE = <<~JS
        (() => new Promise((done) => {
          const field = document.querySelector("[data-at='/circuits/main/alternator/rated_w']");
          const rail = document.querySelector('[data-testid=rail-verdict]');
          const start = performance.now();
          new MutationObserver((_, o) => { o.disconnect(); requestAnimationFrame(() => done(performance.now() - start)) }).observe(rail, { subtree: true, characterData: true, childList: true });
          field.value = String(Number(field.value) + 20);
          field.dispatchEvent(new Event('input', { bubbles: true }));
        }))()
      JS

      def run
        recompute = median { whole(Budget::Budget.new(job)) }
        point_set = points
        ours = median { solve(point_set) }
        theirs = ngspice(point_set)
        puts format('recompute, 40 loads, 12 scenarios, both sides, %<n>d-point curve   %<ms>8.1f ms   (aim: under 20 ms)',
          n: budget_curve.rpm.size, ms: recompute)
        puts format('operating points along the curve, %<n>d: core %<ours>.1f ms, ngspice %<theirs>.0f ms   ratio %<ratio>.4f',
          n: point_set.size, ours: ours, theirs: theirs, ratio: ours / theirs)
        puts format('the whole recompute against ngspice’s operating points alone   ratio %.2f', recompute / theirs)
        wire
      end

      private

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC) * 1000

      # Median of several rounds, ms, after a few to warm up.
      def median(rounds = ROUNDS, &)
        5.times(&)
        times = Array.new(rounds) do
          start = now
          yield
          now - start
        end
        times.sort[rounds / 2]
      end

      def job
        @job ||= begin
          roles = %w[head_low tail brake signal_left signal_right telltale plate position dash_light grips]
          document = Job::Template.job(id: 'bench', name: 'Bench')
          document['machine'] = { 'idle_rpm' => 1300, 'cruise_rpm' => 4500, 'redline_rpm' => 8000 }
          document['circuits'][0]['alternator'] = { 'rated_w' => 420, 'rated_rpm' => 5000, 'cut_in_rpm' => 1100, 'points' => [] }
          document['circuits'][0]['battery'] = { 'capacity_ah' => 12, 'rest_v' => 12.6 }
          document['loads'] = Array.new(40) { |i| load(i, roles[i % roles.size]) }
          document['choices'] = document['loads'].first(20).map { |l| choice(l) }
          extra = document['scenarios'].first(5).map { |s| s.merge('id' => "#{s['id']}_2", 'name' => "#{s['name']} 2", 'rpm' => 2600) }
          document.merge('scenarios' => document['scenarios'] + extra,
            'ride' => [{ 'id' => 'a', 'minutes' => 30, 'scenario' => 'slow_trail' }])
        end
      end

      def load(index, role)
        { 'id' => "l#{index}", 'name' => "Load #{index}", 'group' => 'lamp', 'role' => role,
          'law' => role == 'grips' ? 'heater' : 'filament',
          'figures' => [{ 'id' => 'f', 'origin' => 'maker', 'amps' => 0.2 + (0.03 * index), 'volts' => 12.5 }] }
      end

      def choice(row)
        part = { 'name' => 'LED', 'law' => 'driver', 'min_v' => 8,
                 'figures' => [{ 'id' => 'f', 'origin' => 'maker', 'amps' => 0.15, 'volts' => 13.5 }] }
        { 'id' => "c#{row['id']}", 'load_id' => row['id'], 'action' => 'swap', 'part' => part }
      end

      def whole(budget)
        Server::Present.budget(budget)
        Ticket.new(budget).missing
      end

      def budget_curve = @budget_curve ||= Budget::Budget.new(job).curve('idle_night', 'main')

      # The idle scenario's operating points along the curve, both sides.
      def points
        budget = Budget::Budget.new(job)
        Budget::Budget::SIDES.flat_map do |side|
          budget_curve.rpm.select(&:positive?).map do |n|
            [budget.ledgers(side)['main'],
              budget.scenario('idle_night'), n]
          end
        end
      end

      def solve(list) = list.each { |ledger, scenario, rpm| ledger.point(scenario, rpm) }

      # The same points as ngspice likes them best: one netlist with both sides in
      # it, engine speed as a source that is swept.
      def ngspice(list)
        parts = list.map(&:first).uniq.each_with_index.map do |ledger, i|
          loads = ledger.blocks(list[0][1]).map do |b|
            law = b.entry.load.law
            [{ amps: law.amps, volts: law.volts, exponent: law.exponent, min: law.min_v }, b.duty]
          end
          Ngspice.machine(i.to_s, ledger.circuit.curve, 'V(rpm)', loads, held: 14.0,
            battery: { rest: 12.6, ohms: 0.0125, acceptance: 0.6, most: 3.6 })
        end
        speeds = list.map(&:last).uniq
        sweep = "dc Vrpm #{speeds.first} #{speeds.last} #{speeds[1] - speeds[0]}\nmeas dc last FIND v(bus0) AT=#{speeds.last}"
        netlist = "points\nVrpm rpm 0 #{speeds.last}\n#{parts.join("\n")}\n.nodeset V(bus0)=13 V(bus1)=13\n.control\n#{sweep}\nquit\n.endc\n.end\n"
        median(5) { Ngspice.run(netlist) }
      end

      def wire
        Dir.mktmpdir do |folder|
          database = Cli::DemoData.open(File.join(folder, 'bench.db'))
          Store::Jobs.new(database).create(job)
          server = Puma::Server.new(Server::App.on(database), nil, min_threads: 1, max_threads: 4)
          port = server.add_tcp_listener('127.0.0.1', 0).addr[1]
          server.run
          round_trips(port)
          paint(port)
        ensure
          server&.stop(true)
          database&.disconnect
        end
      end

      def round_trips(port)
        Net::HTTP.start('127.0.0.1', port) do |http|
          read = median { http.get('/api/jobs/bench') }
          bare = median { http.get('/api/health') }
          revision = JSON.parse(http.get('/api/jobs/bench').body)['revision']
          watts = 300
          save = median do
            body = JSON.generate(revision: revision,
              edits: [{ op: 'set', at: '/circuits/main/alternator/rated_w',
                        value: (watts += 1).to_s }])
            answer = http.patch('/api/jobs/bench', body, 'Content-Type' => 'application/json')
            revision = JSON.parse(answer.body).fetch('revision')
          end
          puts format('over the wire: read and recompute %<read>.1f ms, save and recompute %<save>.1f ms; an empty answer %<bare>.1f ms   ratios %<r>.0f and %<s>.0f',
            read: read, save: save, bare: bare, r: read / bare, s: save / bare)
        end
      end

      def paint(port)
        browser = Ferrum::Browser.new(**Chromium::OPTIONS)
        browser.go_to("http://127.0.0.1:#{port}/job/bench/budget")
        browser.network.wait_for_idle
        first = browser.evaluate("performance.getEntriesByName('first-contentful-paint')[0].startTime")
        blank = blank_paint(browser, port)
        sent = browser.evaluate(<<~JS)
          performance.getEntriesByType('resource').filter((e) => !/woff2|[/]api[/]/.test(e.name)).reduce((s, e) => s + e.encodedBodySize, 0)
        JS
        puts format('Budget stage: first paint %<first>.0f ms, beside a page of plain text %<blank>.0f ms   ratio %<ratio>.1f',
          first: first, blank: blank, ratio: first / blank)
        puts format('bytes shipped, gzipped, without fonts: %.0f kB   (aim: under 250 kB)', sent / 1024.0)
        browser.go_to("http://127.0.0.1:#{port}/job/bench/intake")
        browser.network.wait_for_idle
        strokes = Array.new(15) { browser.evaluate_async("#{KEYSTROKE}.then(arguments[0])", 5).tap { sleep 0.05 } }
        puts format('keystroke to moved rail, 40 loads: median %<m>.0f ms, worst %<w>.0f ms   (aim: under 100 ms)', m: strokes.sort[7],
          w: strokes.max)
      ensure
        browser&.quit
      end

      def blank_paint(browser, port)
        page = browser.create_page
        page.go_to("http://127.0.0.1:#{port}/theme.js")
        sleep 0.3
        page.evaluate("performance.getEntriesByName('first-contentful-paint')[0]?.startTime") || raise('the plain page did not paint')
      ensure
        page&.close
      end
    end
  end
end
