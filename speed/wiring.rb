# frozen_string_literal: true

require 'ferrum'
require 'puma'
require 'puma/server'
require 'tmpdir'
require_relative 'batch'
require_relative '../cli/demo_data'
require_relative '../core/miser'
require_relative '../formats/job_file'
require_relative '../formats/track_drawing'
require_relative '../formats/wiring_netlist'
require_relative '../server/app'
require_relative '../test/support/chromium'

module Miser
  module Speed
    # Every state of the switches of the largest demo solved and drawn, beside ngspice running the same list as one batch.
    class Wiring
      JOB = 'curlew1100'

      def run
        document = Formats::JobFile.read(Cli::DemoData.texts.fetch(JOB)).document
        2.times { solved(document) }
        ours, truth = Batch.timed { solved(document) }
        looks = truth.states.map { |s| truth.look(s) }
        theirs, = Batch.timed { Batch.run(netlists(looks), 'bat') }
        puts format('wiring: %<n>d switch positions solved and drawn, %<ours>.0f ms; ngspice the same list as one batch %<theirs>.0f ms   ratio %<ratio>.2f   (aim: under 0.5)',
          n: truth.states.size, ours: ours * 1000, theirs: theirs * 1000, ratio: ours / theirs)
        turns
      end

      TURNS = 16
      # From the touch of a switch to the lamps drawn as they are then.
      TURN = <<~JS
        new Promise((done) => {
          const start = performance.now()
          const drawn = document.querySelector('[data-testid=tracks]')
          const seen = new MutationObserver(() => requestAnimationFrame(() => done(performance.now() - start)))
          seen.observe(drawn, { subtree: true, attributes: true, attributeFilter: ['data-looks'] })
          document.querySelector('[data-switch=high]').click()
        })
      JS

      private

      def turns
        Dir.mktmpdir do |folder|
          database = Cli::DemoData.open(File.join(folder, 'bench.db'))
          server = Puma::Server.new(Server::App.on(database), nil, min_threads: 1, max_threads: 4)
          port = server.add_tcp_listener('127.0.0.1', 0).addr[1]
          server.run
          said(in_browser(port))
        ensure
          server&.stop(true)
          database&.disconnect
        end
      end

      def in_browser(port)
        browser = Ferrum::Browser.new(**Chromium.options)
        browser.go_to("http://127.0.0.1:#{port}/job/#{JOB}/wiring")
        browser.network.wait_for_idle(connections: 1) # the stream of changes goes on
        100.times { browser.at_css('[data-testid=tracks] [data-looks=on]') ? break : sleep(0.05) }
        Array.new(TURNS) { browser.evaluate_async("#{TURN}.then(arguments[0])", 5).tap { sleep 0.05 } }.sort
      ensure
        browser&.quit
      end

      def said(times)
        puts format('a switch turned to the lamps seen: median %<m>.0f ms, worst %<w>.0f ms   (aim: under 100 ms)', m: times[TURNS / 2], w: times.last)
      end

      # From the document on, nothing known before.
      def solved(document)
        survey = Miser::Wiring::Survey.new(Budget::Budget.new(document))
        drawing = Formats::TrackDrawing.new(survey, all: true)
        survey.truth.states.each do |state|
          look = survey.truth.look(state)
          look.seen
          drawing.closed(look)
        end
        survey.truth
      end

      # Both phases where the flasher is at work.
      def netlists(looks)
        looks.flat_map do |look|
          [true, *(look.flashing? ? [false] : [])].map { |flash| Formats::WiringNetlist.write(look, name: 'bench', flash: flash) }
        end
      end
    end
  end
end
