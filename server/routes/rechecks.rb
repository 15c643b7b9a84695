# frozen_string_literal: true

require 'securerandom'
require_relative '../../formats/calendar'
require_relative '../../formats/photograph'
require_relative '../present/book'
require_relative 'kept_files'

module Miser
  module Server
    module Routes
      # What falls due: the list, the calendar as a file, and a feed under a secret address.
      module Rechecks
        SECRET = 'calendar'
        # Looks that the list shows, and that a calendar does.
        PAGE = 200
        MOST = 2000

        def self.registered(app)
          app.get('/api/rechecks') do
            today = Book.today
            list = settings.jobs.rechecks.due(limit: PAGE).map { |r| Present.due(r, today) }
            soon = Miser::Book::Days.after(today, Miser::Book::Rechecks::SOON)
            answer(200, { today: today, rechecks: list, **settings.jobs.rechecks.counts(today, soon) })
          end

          app.get('/api/rechecks.ics') do
            attachment('rechecks.ics')
            Rechecks.calendar(self)
          end

          # Whoever has the address reads what falls due, and nothing else.
          app.get('/calendar/:secret.ics') do
            kept = settings.shop[SECRET]
            known = kept && kept['secret'] && Rack::Utils.secure_compare(kept['secret'], params['secret'].to_s)
            raise Refusal.new(410, 'This calendar was withdrawn, or never was.', kept: 'Ask the shop for its address now.') unless known

            headers 'Cache-Control' => 'private, max-age=900'
            Rechecks.calendar(self)
          end

          app.get('/api/calendar') { answer(200, Rechecks.view(settings.shop)) }

          # A new address; the one before is withdrawn.
          app.post('/api/calendar') do
            settings.shop[SECRET] = { 'secret' => SecureRandom.urlsafe_base64(24), 'made_at' => Time.now.utc.iso8601 }
            answer(200, Rechecks.view(settings.shop))
          end

          app.delete('/api/calendar') do
            settings.shop[SECRET] = nil
            answer(200, Rechecks.view(settings.shop))
          end

          app.post('/api/jobs/:id/rechecks/:recheck/photographs') do
            answer(200, changed(Rechecks.photograph(self, bytes_of(Formats::Photograph::TYPES, Formats::Photograph::MOST_BYTES))))
          end
        end

        def self.view(shop)
          kept = shop[SECRET]
          { path: kept && "/calendar/#{kept['secret']}.ics", made_at: kept && kept['made_at'] }
        end

        def self.calendar(app)
          app.content_type 'text/calendar;charset=utf-8'
          rows = app.settings.jobs.rechecks.due(limit: MOST)
          Formats::Calendar.new(rows, shop: app.settings.shop.mark, name: app.settings.market.market.money['heading'],
            now: Time.now.utc).to_s
        end

        def self.photograph(app, bytes)
          document = app.found(app.jobs.find(app.params['id'])).document
          app.found(Miser::Job::Document.rows(document, 'rechecks').find { |r| r['id'] == app.params['recheck'] }, 'recheck')
          picture = Formats::Photograph.new(bytes)
          file = Store::Attachments::Kept.new(id: Jobs.fresh_id, type: 'image/jpeg', bytes: picture.jpeg)
          row = { 'id' => file.id, 'name' => app.params['name'].to_s.scrub('?')[0, KeptFiles::MOST_NAME], 'at' => Time.now.utc.iso8601 }
                .merge(picture.facts.slice('width', 'height'))
          KeptFiles.keep(app, app.params['revision'].to_i, "photograph at #{app.params['recheck']}"[0, 400], files: [file]) do |d|
            Miser::Job::Attached.recheck_photograph(d, app.params['recheck'], row)
          end
        rescue Formats::Photograph::Refused => e
          raise KeptFiles.unreadable('photograph', e, Formats::Photograph::ACCEPTS, at: '/file')
        end
      end
    end
  end
end
