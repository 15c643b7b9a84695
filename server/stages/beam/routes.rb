# frozen_string_literal: true

require_relative '../../../formats/lm63'
require_relative '../../../formats/photograph'
require_relative '../../../formats/receipt'
require_relative '../../../formats/wall_csv'
require_relative '../../../instruments/wall_run'
require_relative '../../routes/jobs'
require_relative '../../routes/kept_files'
require_relative '../../routes/instruments'
require_relative 'present'

module Miser
  module Server
    module Routes
      # The beam on the wall, and the files that go with it.
      module Beams
        def self.registered(app)
          app.post('/api/jobs/:id/photometry') { answer(200, changed(Beams.keep_photometry(self, body_of('/api/jobs/{id}/photometry')))) }

          app.get('/api/jobs/:id/wall-photometry') do
            document, wall, measured = Beams.measured(self)
            content_type 'text/plain;charset=us-ascii'
            attachment("#{Beams.stem(document, wall)}.ies")
            Formats::Lm63.write(measured, name: document['name'])
          end

          app.get('/api/jobs/:id/wall-table') do
            document, wall, measured = Beams.measured(self)
            content_type 'text/csv;charset=utf-8'
            attachment("#{Beams.stem(document, wall)}.csv")
            Formats::WallCsv.write(measured)
          end

          app.post('/api/jobs/:id/wall-table') { answer(200, changed(Beams.keep_table(self, body_of('/api/jobs/{id}/wall-table')))) }

          app.post('/api/jobs/:id/photographs') do
            answer(200, changed(Beams.keep_photograph(self, bytes_of(Formats::Photograph::TYPES, Formats::Photograph::MOST_BYTES))))
          end

          app.post('/api/wall-runs') { answer(201, Beams.start_run(self, body_of('/api/wall-runs')).view) }

          app.get('/api/jobs/:id/attachments/:attachment') do
            file = found(jobs.attachments.find(params['id'], params['attachment']), 'file')
            content_type file.type
            attachment("#{file.id}.pdf") if file.type == Formats::Receipt::PDF
            headers 'Cache-Control' => 'private, max-age=31536000, immutable'
            file.bytes
          end
        end

        # A wall read mark by mark through the shop's light meter.
        def self.start_run(app, body)
          document = Job::Document.of(app.found(app.jobs.find(body['job'])).document)
          entered = app.found(document.wall(body['wall']), 'wall')
          wall = Beam::Wall.new(entered)
          run = Instruments::WallRun.new(id: SecureRandom.alphanumeric(12), subject: { job: body['job'], wall: body['wall'] },
            light: Bench.address(app, body['light']), marks: wall.marks(from: body['from']),
            steady: Beam::Steady.new(document.settings),
            beam: StandIns::Likeness.beam(StandIns::Likeness.lumens(document, entered['side']), wall.distance),
            every: [body['every_s'] || 0.2, Bench::FASTEST_S].max, pace: body['pace'] || 1.0)
          app.settings.runs.start(run)
        rescue UnreadyWall => e
          raise Refusal.new(422, "The #{e.message}.", kept: 'Enter it, and the marks can be read.')
        end

        def self.measured(app)
          document = app.found(app.seen).document
          wall = app.found(Job::Document.of(document).wall(app.params['wall']), 'wall')
          entry = Beam::Beams.entry(wall)
          raise Refusal.new(422, entry.reason) unless entry.wall

          [document, wall, entry.wall]
        end

        def self.stem(document, wall) = "#{document['name'].gsub(/[^A-Za-z0-9]+/, '-').downcase}-#{wall['beam']}-#{wall['side']}"

        def self.keep_photometry(app, body)
          Formats::Lm63.read(body['text'])
          file = Store::Attachments::Kept.new(id: Jobs.fresh_id, type: 'text/plain', bytes: body['text'].b)
          row = { 'id' => file.id, 'name' => body['name'] }
          KeptFiles.keep(app, body['revision'], "photometry #{file.id}", files: [file]) { |d| Job::Attached.photometry(d, row, part: body['part']) }
        rescue Formats::Lm63::Malformed => e
          raise KeptFiles.unreadable('photometry file', e, 'IES LM-63 of 1995 or 2002')
        end

        def self.keep_photograph(app, bytes)
          beam, side = %w[beam side].zip([%w[low high], %w[before after]]).map do |name, allowed|
            value = app.params[name]
            next value if allowed.include?(value)

            raise Refusal.new(422, 'This photograph can’t be taken as it is.',
              fields: [{ at: "/#{name}", field: name, message: 'is not known', accepts: allowed.join(', ') }])
          end
          picture = Formats::Photograph.new(bytes)
          file = Store::Attachments::Kept.new(id: Jobs.fresh_id, type: 'image/jpeg', bytes: picture.jpeg)
          row = { 'id' => file.id, 'beam' => beam, 'side' => side,
                  'name' => app.params['name'].to_s.scrub('?')[0, KeptFiles::MOST_NAME] }.merge(picture.facts)
          KeptFiles.keep(app, app.params['revision'].to_i, "photograph #{file.id}", files: [file]) { |d| Job::Attached.photograph(d, row) }
        rescue Formats::Photograph::Refused => e
          raise KeptFiles.unreadable('photograph', e, Formats::Photograph::ACCEPTS, at: '/file')
        end

        # Cells of a wall from a table; those it leaves empty stay as they are.
        def self.keep_table(app, body)
          KeptFiles.keep(app, body['revision'], "readings from a table #{Jobs.fresh_id}") do |document|
            wall = app.found(Job::Document.of(document).wall(body['wall']), 'wall')
            cells, errors = Formats::WallCsv.read(body['text'], columns: wall['columns'].to_i, rows: wall['rows'].to_i)
            if errors.any?
              raise Refusal.new(422, 'The table can’t be taken as it is.', kept: 'Nothing was changed.',
                fields: errors.first(20).map(&:to_h))
            end

            Job::WallCells.take(document, body['wall'], cells)
          end
        rescue Formats::CsvTable::Unreadable => e
          raise KeptFiles.unreadable('table', e, 'lux, a line a row from the top; empty where not read')
        end
      end
    end

    StageViews.routes(Routes::Beams)
    StageViews.declare('beam') { |ticket, _look| BeamView.beam(ticket.beams) }
  end
end
