# frozen_string_literal: true

require_relative '../../formats/photograph'
require_relative '../../formats/shelf_csv'
require_relative '../../formats/typed_edits'
require_relative 'jobs'

module Miser
  module Server
    module Routes
      # The shop's shelf: parts put on it, edited, retired, thrown away; as a table; with their pictures.
      module Shelf
        # What a part says only within a job.
        OF_JOBS = %w[shelf_id photometry].freeze
        # Where an edit's place stands in the job's schema.
        PLACE = '/choices/x'

        def self.registered(app)
          app.get('/api/parts') { answer(200, Shelf.view(settings.parts, settings.market.market, settings.market.stock.pieces)) }
          app.post('/api/parts') { answer(200, Shelf.shown(self, Shelf.put(settings.parts, body_of('/api/parts')))) }

          app.delete('/api/parts') do
            settings.parts.clear_starters
            answer(200, Shelf.view(settings.parts, settings.market.market, settings.market.stock.pieces))
          end

          app.patch('/api/parts/:id') do
            answer(200,
              Shelf.shown(self, Shelf.edit(settings.parts, params['id'], body_of('/api/parts/{id}')) || found(nil, 'part')))
          end

          app.delete('/api/parts/:id') do
            found(settings.parts.remove(params['id']) || nil, 'part')
            status 204
          end

          app.get('/api/parts/:id/picture') do
            bytes = found(settings.parts.picture(params['id']), 'picture')
            content_type 'image/jpeg'
            headers 'Cache-Control' => 'private, max-age=31536000, immutable'
            bytes
          end

          app.post('/api/parts/:id/picture') do
            found(settings.parts.find(params['id']), 'part')
            bytes = bytes_of(Formats::Photograph::TYPES, Formats::Photograph::MOST_BYTES)
            answer(200,
              Shelf.shown(self, found(settings.parts.put_picture(params['id'], Shelf.photograph(bytes), Jobs.fresh_id), 'part')))
          end

          app.get('/api/shelf/file') do
            attachment('shelf.csv')
            content_type 'text/csv;charset=utf-8'
            Formats::ShelfCsv.write(settings.parts.all)
          end

          app.post('/api/shelf/table') { answer(200, Shelf.table(settings.parts, body_of('/api/shelf/table'))) }
        end

        # @param market [Buying::Market] @param stock [Hash{String=>Integer}]
        def self.view(parts, market, stock) = { parts: parts.all.map { |p| part(p, market, stock) } }

        # What a piece is to be had for at the least, of whomever.
        def self.cents(kept, market) = market.unit_cents(Buying::Need.new(key: kept['id'], part_id: kept['id'])) || kept['price_cents']

        # @param kept [Hash] as the store has it
        def self.part(kept, market, stock)
          { id: kept['id'], part: kept.except(*Store::Parts::OWN), retired: kept['retired'] || false, starter: kept['starter'] || false,
            picture: kept['picture'], cents: cents(kept, market), pieces: stock.fetch(kept['id'], 0),
            draws: (kept['functions'] || []).map { |f| Miser::Job::Functions.words(f) } }
        end

        # @param app [Sinatra::Base] @param kept [Hash]
        def self.shown(app, kept) = part(kept, app.settings.market.market, app.settings.market.stock.pieces)

        def self.put(parts, body)
          id = body['id']
          raise Refusal.new(404, 'There is no such part.') if id && !parts.find(id)

          room!(parts) unless id
          own = id ? parts.find(id).slice(*Store::Parts::OWN) : { 'id' => Jobs.fresh_id }
          parts.put(checked({ **body['part'].except(*Store::Parts::OWN, *OF_JOBS), **own.except('starter') }))
        end

        def self.room!(parts, more = 1)
          most = Formats::ShelfCsv::MOST_PARTS
          return if parts.all.size + more <= most

          raise Refusal.new(422, 'The shelf is full.', kept: 'Nothing was changed.',
            fields: [{ at: '/part', field: 'Part', message: 'has no room left', accepts: "at most #{most} parts" }])
        end

        # Edits as of a job's part: what is typed is read in its unit. A part that somebody changed is the shop's own.
        # @return [Hash, nil]
        def self.edit(parts, id, body)
          edits, errors = Formats::TypedEdits.read((body['edits'] || []).map { |e| e.merge('at' => "#{PLACE}#{e['at']}") })
          refuse(errors) if errors.any?
          parts.change(id) do |kept|
            edited = edits.any? ? edited(kept, edits) : kept
            body.key?('retired') ? checked(edited).merge('retired' => body['retired']) : checked(edited)
          end
        end

        def self.edited(kept, edits)
          own = kept.slice(*Store::Parts::OWN)
          whole = { 'choices' => [{ 'id' => 'x', 'part' => kept.except(*own.keys) }] }
          { **Job::Edit.apply(whole, edits)['choices'].first.fetch('part'), **own.except('starter') }
        end

        def self.checked(part)
          errors = Formats::ShelfCsv.errors_of(part.except(*Store::Parts::OWN))
          refuse(errors) if errors.any?
          part
        end

        def self.refuse(errors)
          fields = errors.map { |e| Formats::FieldError.new(at: e.at.sub(%r{\A/choices/[^/]+}, ''), field: e.field, message: e.message, accepts: e.accepts) }
          raise Refusal.new(422, 'This was not saved.', fields: fields, kept: 'What you typed stays in the field.')
        end

        def self.photograph(bytes)
          Formats::Photograph.new(bytes).jpeg
        rescue Formats::Photograph::Refused => e
          raise Refusal.new(422, "This picture can’t be taken: #{e.message}.", kept: 'Nothing was changed.',
            fields: [{ at: '/picture', field: 'picture', message: e.message, accepts: Formats::Photograph::ACCEPTS }])
        end

        def self.table(parts, body)
          preview = Formats::ShelfCsv.preview(body['text'], parts.all)
          rows = preview[:rows].map { |r| r.merge(errors: r[:errors].map(&:to_h)) }
          result = { rows: rows, good: rows.count { |r| r[:errors].empty? }, bad: rows.count { |r| r[:errors].any? }, accepted: false }
          return result unless body['accept']

          room!(parts, preview[:parts].size)
          preview[:parts].each { |part| parts.put(part.except('starter')) }
          result.merge(accepted: true)
        rescue Formats::CsvTable::Unreadable => e
          raise Refusal.new(422, "The table can’t be read: #{e.message}.", kept: 'Nothing was changed.',
            fields: [{ at: '/text', field: 'file', message: e.message, accepts: 'CSV with a first line of column names' }])
        end
      end
    end
  end
end
