# frozen_string_literal: true

require 'securerandom'
require_relative '../../instruments/runs'
require_relative '../../instruments/stand_ins/likeness'
require_relative '../event_hub'

module Miser
  module Server
    module Routes
      # Instruments at the bench and the readings taken through them. Only addresses
      # the shop has entered are ever spoken to: a request names one, never an address.
      module Bench
        FASTEST_S = 0.05

        def self.registered(app)
          app.post('/api/instruments/:id/try') do
            address = Bench.address(self, params['id'])
            unless settings.tries.take?
              raise Refusal.new(429, 'That was tested often just now.', kept: format('Wait a minute: %<n>d tests a minute are made.', n: Instruments::Tries::MOST))
            end

            answer(200, Bench.tried(self, address))
          end

          app.post('/api/instruments/:id/simulate') do
            body = body_of('/api/instruments/{id}/simulate')
            Bench.simulate(Bench.address(self, params['id']), body)
            status 204
          end

          app.post('/api/runs') do
            body = body_of('/api/runs')
            answer(201, Bench.start(self, body).view)
          end

          app.get('/api/runs/:id') { answer(200, found(settings.runs.find(params['id']), 'reading under way').view) }

          app.post('/api/runs/:id/act') do
            run = found(settings.runs.find(params['id']), 'reading under way')
            Bench.act(run, body_of('/api/runs/{id}/act')['act'])
            answer(200, run.view)
          end

          app.get('/api/runs/:id/events') do
            run = found(settings.runs.find(params['id']), 'reading under way')
            play(run.tape, (request.env['HTTP_LAST_EVENT_ID'] || params['after']).to_s.to_i)
          end

          app.error(Instruments::Runs::Busy) { |e| answer(409, Refusal.new(409, e.message).to_h) }
        end

        # @return [Hash] host, port
        def self.address(app, id) = app.found(app.settings.shop.instruments.find { |i| i['id'] == id }, 'instrument')

        # What it said of itself is kept with its address.
        def self.tried(app, address)
          try(address).tap do |said|
            next unless said[:ok]

            list = app.settings.shop.instruments.map do |i|
              if i['id'] == address['id']
                i.except('simulated').merge(said[:simulated] ? { 'simulated' => true } : {})
              else
                i
              end
            end
            app.settings.shop['instruments'] = list
          end
        end

        def self.try(address)
          started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
          meter = Instruments::Meter.new(address)
          { ok: true, identity: meter.identity, simulated: meter.simulated?,
            took_ms: ((Process.clock_gettime(Process::CLOCK_MONOTONIC) - started) * 1000).round(1), message: nil, remedy: nil }
        rescue Instruments::Trouble => e
          { ok: false, identity: nil, simulated: false, took_ms: nil, message: e.message, remedy: e.remedy }
        ensure
          meter&.close
        end

        def self.simulate(address, body)
          commands = body.slice('fault', 'jack', 'source').map { |word, value| "#{word.upcase} #{value}" }
          Instruments::Meter.simulate(address, commands)
        rescue Instruments::Trouble, ArgumentError => e
          raise Refusal.new(422, "The stand-in did not take it: #{e.message}.")
        end

        def self.act(run, act)
          case act
          when 'stop' then run.stop
          when 'again' then run.again
          when 'go_on' then run.go_on unless run.live?
          else run.public_send(act) if run.respond_to?(act)
          end
        end

        def self.start(app, body)
          document = app.found(app.jobs.find(body['job'])).document
          budget = Budget::Budget.new(document)
          load = app.found(budget.thing(body['load'], body['choice']), 'load')
          plan = Draw::Jack.plan(load, unread: budget.unread(body['load'], body['choice']))
          raise Refusal.new(422, plan.words, kept: plan.steps.join(' ')) unless plan.range_a

          run = Instruments::Run.new(id: SecureRandom.alphanumeric(12),
            subject: { job: body['job'], load: body['load'], choice: body['choice'] },
            watch: Draw::Watch.new(expected: plan.amps, slow: load.drifts?, settings: budget.settings),
            meter: address(app, body['meter']), light: body['light'] && address(app, body['light']),
            range: plan.range_a,
            volts: body['volts'] == true, every: [body['every_s'] || 0.2, FASTEST_S].max,
            lamp: StandIns::Likeness.of(load),
            source: body['source'] || 'rest', pace: body['pace'] || 1.0)
          app.settings.runs.start(run)
        end
      end
    end
  end
end
