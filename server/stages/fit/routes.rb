# frozen_string_literal: true

require 'date'
require_relative '../../../formats/photograph'
require_relative '../../routes/kept_files'

module Miser
  # The library for paper takes most of a second to load: nobody else waits for it.
  Formats.autoload(:CardPdf, File.expand_path('../../../formats/card_pdf.rb', __dir__))

  module Server
    module Routes
      # Photographs taken at a step of the card.
      module Fit
        def self.registered(app)
          app.post('/api/jobs/:id/step-photographs') do
            answer(200, changed(Fit.keep(self, bytes_of(Formats::Photograph::TYPES, Formats::Photograph::MOST_BYTES))))
          end

          app.get('/api/jobs/:id/card.pdf') { Fit.paper(self) }
        end

        # @return [String] a PDF of what was asked for, of all four where nothing was
        def self.paper(app)
          ticket = app.settings.tickets.of(app.found(app.seen).document)
          sheets = Fit.asked(app.params['sheet'], Formats::CardPdf::SHEETS, 'sheet')
          paper = Fit.asked(app.params['paper'], Formats::CardPdf::PAPERS, 'paper')
          app.content_type('application/pdf')
          app.attachment("#{app.stem(ticket.document.name)}-#{sheets || 'card'}.pdf")
          Formats::CardPdf.new(ticket.stage('fit').card, ticket, sheets: sheets ? [sheets] : Formats::CardPdf::SHEETS.keys,
            paper: paper || (ticket.units == 'us' ? 'letter' : 'a4'), shop: ticket.market.money['heading'], on: Date.today.iso8601).to_s
        end

        # @return [String, nil] @raise [Refusal] for what is not known
        def self.asked(text, known, name)
          return if text.to_s.empty?
          return text if known.key?(text)

          raise Refusal.new(422, 'This can’t be printed.',
            fields: [{ at: "/#{name}", field: name, message: "“#{text[0, 40]}” is not known", accepts: known.keys.join(', ') }])
        end

        # It goes with whatever stands: a photograph is only ever added.
        def self.keep(app, bytes)
          step = app.params['step'].to_s
          unless step.match?(/\A[^\0]{1,300}\z/)
            raise Refusal.new(422, 'This photograph can’t be taken as it is.',
              fields: [{ at: '/step', field: 'step', message: 'is not named', accepts: 'a step of the card' }])
          end

          picture = Formats::Photograph.new(bytes)
          file = Store::Attachments::Kept.new(id: Fit.id_of(app.params['photograph']), type: 'image/jpeg', bytes: picture.jpeg)
          row = { 'id' => file.id, 'step' => step, 'name' => app.params['name'].to_s.scrub('?')[0, KeptFiles::MOST_NAME], 'at' => Time.now.utc.iso8601 }
                .merge(picture.facts.slice('width', 'height'))
          KeptFiles.keep(app, app.params['revision'].to_i, "photograph at #{step}"[0, 400], files: [file]) { |d| Job::Attached.step_photograph(d, row) }
        rescue Formats::Photograph::Refused => e
          raise KeptFiles.unreadable('photograph', e, Formats::Photograph::ACCEPTS, at: '/file')
        end

        # Named by who takes it, so that one sent twice is one.
        def self.id_of(text) = text.to_s.match?(/\A[A-Za-z0-9_-]{6,40}\z/) ? text : Jobs.fresh_id
      end
    end

    StageViews.routes(Routes::Fit)
  end
end
