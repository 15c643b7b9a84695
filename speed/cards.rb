# frozen_string_literal: true

require 'json'
require 'net/http'
require 'puma'
require 'puma/server'
require 'tmpdir'
require_relative '../cli/demo_data'
require_relative '../formats/card_pdf'
require_relative '../server/app'

module Miser
  module Speed
    # A long card opened, ticked, caught up with and printed, beside an empty answer of the same server.
    class Cards
      JOB = 'curlew1100'
      # So many steps in all, by a way of opening that is as long as it takes.
      STEPS = 150
      TICKS = 400
      ROUNDS = 40

      def run
        Dir.mktmpdir do |folder|
          database = Cli::DemoData.open(File.join(folder, 'bench.db'))
          @app = Server::App.on(database)
          lengthen
          server = Puma::Server.new(@app, nil, min_threads: 1, max_threads: 4)
          @port = server.add_tcp_listener('127.0.0.1', 0).addr[1]
          server.run
          wire
          paper
        ensure
          server&.stop(true)
          database&.disconnect
        end
      end

      private

      def settings = @app.settings

      def lengthen
        short = settings.tickets.of(document).stage('fit').card.steps.size
        steps = Array.new(STEPS - short + 10) { |i| { 'id' => "s#{i}", 'text' => "Take fastener number #{i} out and lay it in its place" } }
        settings.shop['access'] = [{ 'key' => 'long', 'label' => 'A long way in', 'where' => 'front', 'opens' => %w[head],
                                     'steps' => steps }]
        change { |d| d.merge('card' => { 'access' => [{ 'id' => 'head', 'template' => 'long' }] }) }
      end

      def document = settings.jobs.find(JOB).document

      def change(&) = settings.jobs.change(JOB, settings.jobs.find(JOB).revision, what: 'bench', &)

      def timed
        start = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        answer = yield
        raise "answered #{answer.code}: #{answer.body[0, 300]}" unless answer.is_a?(Net::HTTPSuccess)

        [(Process.clock_gettime(Process::CLOCK_MONOTONIC) - start) * 1000, answer]
      end

      def median(&block)
        5.times { timed(&block) }
        Array.new(ROUNDS) { timed(&block).first }.sort[ROUNDS / 2]
      end

      def wire
        Net::HTTP.start('127.0.0.1', @port) do |http|
          empty = median { http.get('/api/health') }
          view = timed { http.get("/api/jobs/#{JOB}/stages/fit") }.last
          steps = JSON.parse(view.body)['steps']
          opening = median { http.get("/api/jobs/#{JOB}/stages/fit") }
          tick = ticking(http, steps)
          puts format('a card of %<n>d steps: opened %<open>.1f ms, a step ticked %<tick>.1f ms; an empty answer %<empty>.2f ms   ratios %<ro>.1f and %<rt>.1f   (aims: under 20 and 15)',
            n: steps.size, open: opening, tick: tick, empty: empty, ro: opening / empty, rt: tick / empty)
          caught = timed { patch(http, Array.new(TICKS) { |i| row(steps[i % steps.size], "late#{i}") }) }.first
          puts format('  %<n>d ticks of a tablet that was away, caught up in one request: %<ms>.0f ms', n: TICKS, ms: caught)
        end
      end

      def ticking(http, steps)
        count = 0
        median { patch(http, [row(steps[count % steps.size], "tick#{count += 1}")]) }
      end

      def row(step, id)
        value = { id: id, step: step['key'], did: 'done', at: '2026-11-20T08:00:00Z', spent_s: 30, device: 'bench', said: step['said'] }
        { op: 'put', at: '/card/log', value: value }
      end

      def patch(http, edits)
        @revision ||= settings.jobs.find(JOB).revision
        http.patch("/api/jobs/#{JOB}", JSON.generate(revision: @revision, edits: edits),
          'Content-Type' => 'application/json').tap do |answer|
          @revision = JSON.parse(answer.body)['revision'] if answer.is_a?(Net::HTTPSuccess)
        end
      end

      # KiB, of this process.
      def memory = File.read('/proc/self/status')[/VmRSS:\s+(\d+)/, 1].to_i

      def paper
        ticket = settings.tickets.of(document)
        GC.start
        before = memory
        start = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        pdf = Formats::CardPdf.new(ticket.stage('fit').card, ticket, on: '2026-11-20').to_s
        took = Process.clock_gettime(Process::CLOCK_MONOTONIC) - start
        puts format('  on paper, card, tray, joints with their diagram, check: %<s>.2f s, %<kb>d kB, %<mb>.0f MB more memory   (aims: under 1 s and 100 MB)',
          s: took, kb: pdf.bytesize / 1024, mb: (memory - before) / 1024.0)
      end
    end
  end
end
