# frozen_string_literal: true

require_relative '../../routes/jobs'
require_relative 'sheet'
require_relative 'view'

module Miser
  module Server
    module Routes
      # The sheet on paper, and a machine handed over: from then on its sheet stays as it was signed.
      module HandOver
        def self.registered(app)
          app.get('/api/jobs/:id/hand-over.pdf') do
            document = found(seen).document
            kept = Job::Document.part(document['handed_over'], 'files')['pdf']
            kept = nil if params['now'] == '1'
            content_type 'application/pdf'
            attachment("#{stem(document['name'])}-hand-over.pdf")
            file = kept && jobs.attachments.find(document['id'], kept)
            file ? file.bytes : HandOver.sheet(self, document).pdf
          end

          app.get('/api/jobs/:id/hand-over.json') do
            document = found(seen).document
            kept = Job::Document.part(document['handed_over'], 'files')['data']
            content_type 'application/json'
            attachment("#{stem(document['name'])}-hand-over.json")
            file = kept && jobs.attachments.find(document['id'], kept)
            file ? file.bytes : HandOver.sheet(self, document).data
          end
        end

        def self.sheet(app, document, now: Time.now.utc.iso8601)
          ticket = app.settings.tickets.of(document)
          view = HandOverView.all(ticket)
          SignedSheet.new(ticket, view, on: now, shop: ticket.market.money['heading'],
            pictures: ->(id) { app.jobs.attachments.find(document['id'], id)&.bytes })
        end

        # What goes with the act: the sheet's files, and where the document says that they are.
        # @param document [Hash] handed over
        # @return [Array(Hash, Array<Store::Attachments::Kept>)]
        def self.signed(app, document)
          sheet = sheet(app, document, now: document['handed_over']['at'])
          files = { 'pdf' => [SignedSheet::PDF, sheet.pdf], 'data' => [SignedSheet::DATA, sheet.data] }
          kept = files.transform_values { |type, bytes| Store::Attachments::Kept.new(id: Jobs.fresh_id, type: type, bytes: bytes.b) }
          said = kept.transform_values(&:id).merge('pictures' => sheet.picture_ids)
          [document.merge('handed_over' => document['handed_over'].merge('files' => said)), kept.values]
        end
      end
    end

    StageViews.routes(Routes::HandOver)
    StageViews.signs('hand_over') { |app, document| Routes::HandOver.signed(app, document) }
  end
end
