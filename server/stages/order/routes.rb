# frozen_string_literal: true

require_relative '../../../formats/receipt'
require_relative '../../routes/kept_files'
require_relative 'view'

module Miser
  # The library for paper takes most of a second to load: nobody else waits for it.
  Formats.autoload(:OrderPdf, File.expand_path('../../../formats/order_pdf.rb', __dir__))

  module Server
    module Routes
      # The list out as a file, and receipts in.
      module OrderFile
        def self.registered(app)
          app.get('/api/jobs/:id/order/file') do
            saved = found(seen)
            ticket = settings.tickets.of(saved.document)
            name = saved.document['name']
            pdf = params['kind'] == 'pdf'
            attachment("#{stem(name)}-order.#{pdf ? 'pdf' : 'csv'}")
            content_type(pdf ? 'application/pdf' : 'text/csv;charset=utf-8')
            next OrderView.csv(ticket) unless pdf

            Formats::OrderPdf.new(OrderView.view(ticket), machine: name, shop: ticket.market.money['heading'], on: Date.today.iso8601).to_s
          end

          app.post('/api/jobs/:id/receipts') do
            bytes = bytes_of(Formats::Receipt::TYPES, Formats::Photograph::MOST_BYTES)
            answer(200, changed(OrderFile.keep_receipt(self, bytes)))
          end
        end

        # A receipt of some lines: all of them point to the one file.
        def self.keep_receipt(app, bytes)
          rows = app.found(app.jobs.find(app.params['id'])).document['purchases'] || []
          ids = app.params['purchases'].to_s.split(',')
          strange = ids.empty? ? '' : ids.find { |id| rows.none? { |r| r['id'] == id } }
          if strange
            raise Refusal.new(422, 'This receipt can’t be taken.', kept: 'Nothing was changed.',
              fields: [{ at: '/purchases', field: 'Lines', message: "“#{strange[0, 40]}” is no line of this order",
                         accepts: 'ids of lines, with commas between' }])
          end

          kept = Formats::Receipt.new(bytes, app.request.media_type)
          file = Store::Attachments::Kept.new(id: Jobs.fresh_id, type: kept.type, bytes: kept.bytes)
          row = { 'id' => file.id, 'type' => file.type, 'name' => app.params['name'].to_s.scrub('?')[0, KeptFiles::MOST_NAME] }
          KeptFiles.keep(app, app.params['revision'].to_i, "receipt #{file.id}", files: [file]) { |d| Job::Attached.receipt(d, ids, row) }
        rescue Formats::Receipt::Refused => e
          raise KeptFiles.unreadable('receipt', e, Formats::Receipt::ACCEPTS, at: '/file')
        end
      end
    end

    StageViews.routes(Routes::OrderFile)
  end
end
