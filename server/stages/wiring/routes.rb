# frozen_string_literal: true

require_relative '../../../formats/csv_table'
require_relative '../../../formats/wiring_netlist'
require_relative '../../../formats/wiring_svg'
require_relative 'present'

module Miser
  # The library for paper takes most of a second to load: nobody else waits for it.
  Formats.autoload(:WiringPdf, File.expand_path('../../../formats/wiring_pdf.rb', __dir__))

  module Server
    module Routes
      # The wiring with its switches turned, its table, and out as files.
      module Wiring
        def self.registered(app)
          app.get('/api/jobs/:id/wiring') do
            survey = Wiring.survey(self)
            state = Wiring.state(survey, params['on'])
            look = params['full'] == '1' ? survey.truth.full(state) : survey.truth.look(state)
            answer(200, WiringView.look(look, survey.scheme, Formats::TrackDrawing.new(survey, all: params['all'] == '1')))
          end

          app.get('/api/jobs/:id/wiring/table') { answer(200, WiringView.table(Wiring.survey(self).truth)) }

          app.get('/api/jobs/:id/wiring/file') { Wiring.file(self) }
        end

        def self.survey(app) = app.settings.tickets.of(app.found(app.seen).document).wiring

        # @param text [String, nil] switches that are on, joined by a plus or a comma
        # @raise [Refusal] for a switch that it has not
        def self.state(survey, text)
          asked = Miser::Wiring::Switches.listed(text)
          strange = asked - survey.scheme.switches.keys
          return survey.scheme.switches.state(asked) if strange.empty?

          raise Refusal.new(422, 'This can’t be solved.',
            fields: [{ at: 'on', field: 'Switches on', message: "“#{strange.first[0, 40]}” is no switch of this machine",
                       accepts: survey.scheme.switches.keys.join(', ') }])
        end

        def self.file(app)
          survey = survey(app)
          name = app.seen.document['name']
          state = state(survey, app.params['on'])
          base = "#{app.stem(name)}-wiring"
          text, type, ending = made(survey, app.params['kind'], name, state, app.params['all'] == '1')
          app.content_type(type)
          app.attachment("#{base}#{ending}")
          text
        end

        def self.made(survey, kind, name, state, all)
          title = "#{name}, wiring"
          case kind
          when 'svg' then [Formats::WiringSvg.new(title, tracks: Formats::TrackDrawing.new(survey, all: all)).to_s, 'image/svg+xml', '.svg']
          when 'strip' then [Formats::WiringSvg.new(title, strip: Formats::StripDrawing.new(survey)).to_s, 'image/svg+xml', '-strip.svg']
          when 'csv' then [Formats::CsvTable.plain(Formats::StripDrawing.cut_list(survey)), 'text/csv;charset=utf-8', '-cut-list.csv']
          when 'netlist' then [Formats::WiringNetlist.write(survey.truth.look(state), name: name), 'text/plain;charset=utf-8', '.cir']
          else
            rows = Formats::TrackDrawing.rows(survey, all: all).map { |t| Formats::WiringSvg.new(title, tracks: t) }
            [Formats::WiringPdf.write(title, [*rows, Formats::WiringSvg.new(title, strip: Formats::StripDrawing.new(survey))]),
              'application/pdf', '.pdf']
          end
        end
      end
    end

    StageViews.routes(Routes::Wiring)

    StageViews.declare('wiring') { |ticket, look| WiringView.view(ticket.wiring, all: look.params['all'] == '1') }
  end
end
