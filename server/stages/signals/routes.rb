# frozen_string_literal: true

require_relative '../../../formats/netlist'
require_relative '../../../formats/circuit_svg'
require_relative 'present'

module Miser
  module Server
    module Routes
      # The signal circuit: solved, diagnosed, counted, and out as files.
      module Signals
        def self.registered(app)
          app.post('/api/jobs/:id/diagnose') do
            body = body_of('/api/jobs/{id}/diagnose')
            survey = Signals.ready(Signals.survey(self))
            harness = survey.harness(body['side'])
            Signals.looked_at(body['seen'], harness)
            answer(200,
              SignalsView.diagnosis(Miser::Signals::Diagnosis.new(harness, body['seen'], thresholds: survey.thresholds,
                looks: survey.looks(body['side']))))
          end

          app.post('/api/taps') do
            body = body_of('/api/taps')
            count = Miser::Signals::FlashCount.new(body['taps'], body.fetch('releases', []))
            answer(200,
              { rate: Present.finite(count.rate), sigma: Present.finite(count.sigma), on_share: count.on_share, missed: count.missed,
                more: count.more,
                words: count.words })
          end

          app.get('/api/jobs/:id/circuit') { Signals.file(self) }

          app.error(Unsolvable) { |e| answer(422, Refusal.new(422, "The circuit can’t be solved: #{e.message}.").to_h) }
        end

        def self.survey(app)
          app.settings.tickets.of(app.found(app.seen).document).survey
        end

        def self.ready(survey)
          return survey if survey.ready?

          fields = survey.missing.map do |m|
            { at: m[:at], field: m[:text], message: 'is not known', accepts: 'enter it at Intake or Signals' }
          end
          raise Refusal.new(422, 'The signal circuit is not known well enough yet.', fields: fields)
        end

        def self.looked_at(seen, harness)
          gone = Miser::Signals::Observation.strangers(seen, harness.lit_ids)
          return if gone.empty?

          raise Refusal.new(422, 'What was seen does not fit this machine.', kept: 'Nothing was changed.',
            fields: [{ at: '/seen', field: 'lamps', message: "#{gone.join(', ')[0, 80]} is not there",
                       accepts: harness.lit_ids.join(', ') }])
        end

        def self.volts(text)
          return Volts::REST if text.to_s.empty?

          range = Volts::ASKED
          value = Float(text, exception: false)
          unless value && range.cover?(value)
            raise Refusal.new(422, 'This can’t be solved.',
              fields: [{ at: 'volts', field: 'Volts', message: "“#{text[0, 20]}” is not taken",
                         accepts: format('%g to %g V', range.begin, range.end) }])
          end

          value
        end

        def self.file(app)
          survey = ready(survey(app))
          side = app.params['side'] == 'before' ? 'before' : 'after'
          name = app.seen.document['name']
          base = "#{name.gsub(/[^A-Za-z0-9]+/, '-').downcase}-signals-#{side}"
          if app.params['kind'] == 'svg'
            app.attachment("#{base}.svg")
            app.content_type('image/svg+xml')
            return Formats::CircuitSvg.new(Formats::LoopDrawing.new(survey.harness(side), survey.colours), "#{name}, signals, #{side}").to_s
          end

          app.content_type('text/plain;charset=utf-8')
          app.attachment("#{base}.cir")
          command = Miser::Signals::COMMANDS.include?(app.params['command']) ? app.params['command'] : 'left'
          Formats::Netlist.write(survey.harness(side),
            Miser::Signals::State.new(command: command, closed: command != 'off', lights: true, volts: Volts::REST),
            name: name)
        end
      end
    end

    StageViews.routes(Routes::Signals)

    StageViews.declare('signals') do |ticket, look|
      given = look.params
      SignalsView.signals(ticket.survey, volts: Routes::Signals.volts(given['volts']), lights: given['lights'] != '0',
        faults: given['faults'].to_s.split(','), with_cures: given['cures'] != '0')
    end
  end
end
