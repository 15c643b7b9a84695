# frozen_string_literal: true

require 'json'
require 'net/http'
require 'open3'
require 'tempfile'
require 'tmpdir'
require 'puma'
require 'puma/server'
require 'ferrum'
require_relative 'large_job'
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
      # Screens that show the whole budget between them.
      BUDGET_SCREENS = %w[budget intake choose].freeze

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
        recompute = median { whole(job) }
        point_set = points
        ours = median { solve(point_set) }
        theirs = ngspice(point_set)
        puts format('recompute, 40 loads, 12 scenarios, both sides, %<n>d-point curve   %<ms>8.1f ms   (aim: under 20 ms)',
          n: budget_curve.rpm.size, ms: recompute)
        puts format('operating points along the curve, %<n>d: core %<ours>.1f ms, ngspice %<theirs>.0f ms   ratio %<ratio>.4f',
          n: point_set.size, ours: ours, theirs: theirs, ratio: ours / theirs)
        puts format('the whole recompute against ngspice’s operating points alone   ratio %.2f   (aim: under 0.3, or 20 ms)', recompute / theirs)
        fits
        wire
      end

      private

      # A curve from five points with what is believed beforehand, its doubt and its check of the points.
      def fits
        settings = Assumptions.new
        points = [[1300, 2.9], [1500, 6.4], [2000, 12.9], [3000, 17.2], [5000, 19.3]].map do |rpm, amps|
          Charging::EarnFit::Point.new(rpm: rpm.to_f, volts: 14.0, amps: amps, cold: false, sigma: 0.02 * amps)
        end
        took = median do
          fit = Charging::EarnFit.new(form: Charging::Form::THREE_PHASE, v_ref: 14.0, settings: settings, points: points,
            cut_in: Charging::EarnFit::Known.new(1000.0, 0.2))
          [fit.miss, fit.curve(basis: :points)]
        end
        puts format('the fit of an earn curve with priors, five points   %.2f ms   (aim: under 3 ms)', took)
      end

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

      def job = @job ||= LargeJob.document('bench')

      # Everything any screen shows of the budget, and where the ticket stands.
      def whole(document)
        ticket = Ticket.new(document)
        BUDGET_SCREENS.each { |stage| Server::StageViews.of(stage, ticket, {}) }
        ticket.budget.curve('idle_night', 'main')
        Tally.new(ticket)
      end

      def budget_curve = @budget_curve ||= Budget::Budget.new(job).curve('idle_night', 'main')

      # The idle scenario's operating points along the curve, both sides.
      def points
        budget = Budget::Budget.new(job)
        Budget::Budget::SIDES.flat_map do |side|
          budget_curve.rpm.select(&:positive?).map do |n|
            [budget.ledgers(side)['main'], budget.scenario('idle_night'), n]
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
          revision = JSON.parse(http.get('/api/jobs/bench').body)['revision']
          watts = 300
          bytes = 0
          edit = lambda do
            body = JSON.generate(revision: revision,
              edits: [{ op: 'set', at: '/circuits/main/alternator/rated_w', value: (watts += 1).to_s }])
            answer = http.patch('/api/jobs/bench', body, 'Content-Type' => 'application/json')
            bytes = answer.body.bytesize
            revision = JSON.parse(answer.body).fetch('revision')
          end
          bare, read, save = in_turn(-> { http.get('/api/health') }, -> { http.get('/api/jobs/bench') }, edit)
          puts format('over the wire: read %<read>.1f ms, edit to answer %<save>.1f ms; an empty answer %<bare>.1f ms   ratios %<r>.0f and ' \
                      '%<s>.1f   (aim: under 20)', read: read, save: save, bare: bare, r: read / bare, s: save / bare)
          puts format('an edit’s answer: %.1f kB   (aim: under 8 kB)', bytes / 1000.0)
        end
      end

      # What is set against each other is timed in turn, so that a busy machine weighs on all alike.
      # @return [Array<Float>] ms each, in the middle
      def in_turn(*deeds)
        5.times { deeds.each(&:call) }
        times = Array.new(2 * ROUNDS) do
          deeds.map do |deed|
            start = now
            deed.call
            now - start
          end
        end
        times.transpose.map { |list| list.sort[list.size / 2] }
      end

      def paint(port)
        browser = Ferrum::Browser.new(**Chromium.options)
        browser.go_to("http://127.0.0.1:#{port}/job/bench/budget")
        browser.network.wait_for_idle(connections: 1) # the stream of changes goes on
        first = painted(browser)
        blank = blank_paint(browser, port)
        sent = browser.evaluate(<<~JS)
          performance.getEntriesByType('resource').filter((e) => !/woff2|[/]api[/]/.test(e.name)).reduce((s, e) => s + e.encodedBodySize, 0)
        JS
        puts format('Budget stage: first paint %<first>.0f ms, beside a page of plain text %<blank>.0f ms   ratio %<ratio>.1f',
          first: first, blank: blank, ratio: first.fdiv(blank))
        puts format('bytes shipped, gzipped, without fonts: %.0f kB   (aim: under 250 kB)', sent / 1024.0)
        browser.go_to("http://127.0.0.1:#{port}/job/bench/intake")
        browser.network.wait_for_idle(connections: 1) # the stream of changes goes on
        strokes = Array.new(15) { browser.evaluate_async("#{KEYSTROKE}.then(arguments[0])", 5).tap { sleep 0.05 } }
        puts format('keystroke to moved rail, 40 loads: median %<m>.0f ms, worst %<w>.0f ms   (aim: under 60 ms in the middle)', m: strokes.sort[7],
          w: strokes.max)
      ensure
        browser&.quit
      end

      # @return [Float] ms to the first paint, as soon as there was one
      def painted(page)
        250.times do
          paint = page.evaluate("performance.getEntriesByName('first-contentful-paint')[0]?.startTime")
          return paint if paint

          sleep 0.02
        end
        raise 'nothing was painted'
      end

      def blank_paint(browser, port)
        page = browser.create_page
        page.go_to("http://127.0.0.1:#{port}/theme.js")
        painted(page)
      ensure
        page&.close
      end
    end
  end
end
