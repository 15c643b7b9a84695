# frozen_string_literal: true

require 'date'
require_relative '../../formats/learnt_file'
require_relative '../present/book'
require_relative 'jobs'

module Miser
  module Server
    module Routes
      # What the shop has learnt: records of parts and models with the jobs behind them; and what goes to other shops and comes from them.
      module Learnt
        # Records that a list shows.
        PAGE = 60

        def self.registered(app)
          app.get('/api/learnt') { answer(200, Learnt.list(self)) }

          app.get('/api/learnt/part') do
            record = settings.learnt.part(params['name'].to_s[0, 200], Book.given(self, 'shelf'))
            answer(200, Present.part_record(found(record, 'part in the book')))
          end

          app.get('/api/learnt/model') { answer(200, Present.model_record(found(settings.learnt.model(Miser::Book::Key.of(params['name'].to_s)), 'model in the book'))) }

          app.get('/api/learnt/file') do
            attachment("learnt-#{Date.today.iso8601}.json")
            content_type :json
            Formats::LearntFile.write(settings.learnt.shared(Time.now.utc))
          end

          app.get('/api/learnt/exchange') { answer(200, Learnt.exchange(settings.learnt)) }
          app.post('/api/learnt/file') { answer(200, Learnt.take(settings.learnt, body_of('/api/learnt/file'))) }

          app.post('/api/learnt/batches/:id/:act') do
            number = params['id'].to_i
            done = case params['act']
                   when 'take_back' then settings.learnt.elsewhere.take_back(number)
                   when 'bring_back' then settings.learnt.elsewhere.bring_back(number)
                   end
            found(done || nil, 'file')
            answer(200, Learnt.exchange(settings.learnt))
          end
        end

        def self.list(app)
          learnt = app.settings.learnt
          word = app.params['q'].to_s.strip.downcase[0, 100]
          found = %w[part model work].to_h do |subject|
            [subject,
              learnt.keys(subject).select { |k| word.empty? || k[:label].to_s.downcase.include?(word) }]
          end
          parts = found['part'].first(PAGE).filter_map { |k| part(learnt, k) }
          { parts: parts, models: found['model'].first(PAGE).map { |k| k.slice(:key, :label, :rows, :jobs) },
            work: found['work'].filter_map { |k| work(learnt, k) }, counts: found.transform_values(&:size) }
        end

        def self.part(learnt, row)
          record = learnt.part(row[:label], row[:shelf_id]) or return
          draw = record.draws.max_by { |d| d.spread.n }
          { key: row[:key], label: row[:label], jobs: row[:jobs], fitted: record.fitted, disappoints: record.disappoints?,
            says: record.findings.first&.text, mean: draw&.spread&.mean, claimed: draw&.claimed, n: draw ? draw.spread.n : 0 }
        end

        # Minutes foretold and spent of a kind of step.
        def self.work(learnt, row)
          lessons = learnt.read(learnt.lessons.of('work', row[:key]))
          spent = Miser::Book::Spread.of(lessons.map(&:value))
          reckoned = lessons.filter_map(&:claimed)
          return if lessons.empty?

          { key: row[:key], label: Card::Step::KINDS.fetch(row[:key], row[:label]), **Present.spread(spent, 'min'),
            reckoned: reckoned.sum / [reckoned.size, 1].max,
            rows: lessons.last(PAGE).map { |l| Present.lesson(l) } }
        end

        def self.exchange(learnt)
          { batches: learnt.elsewhere.batches.map { |b| b.merge(rows: b[:rows].to_i) },
            shops: learnt.elsewhere.shops.map { |s| s.merge(shop: s[:shop][0, 8]) } }
        end

        # Rows of a file that are shown before it is taken.
        SAMPLE = 40
        SHOWN = %w[subject label what item n mean].freeze
        def self.sample(shops) = shops.flat_map { |s| s[:rows] }.first(SAMPLE).map { |r| r.slice(*SHOWN) }

        # What would come in, then in: of each shop the newest, never one's own.
        def self.take(learnt, body)
          read = Formats::LearntFile.read(body['text'])
          fresh, older = learnt.fresh(read.shops)
          batch = body['accept'] && fresh.any? ? learnt.elsewhere.put(fresh) : nil
          { shops: fresh.map { |s| { shop: s[:shop][0, 8], made_on: s[:made_on], rows: s[:rows].size } }, older: older,
            good: fresh.sum { |s| s[:rows].size }, bad: read.refused,
            errors: read.errors.map(&:to_h), sample: sample(fresh), batch: batch }
        rescue Formats::LearntFile::Refused => e
          raise Refusal.new(422, "This file can’t be taken: #{e.message}.", kept: 'Nothing was changed.', fields: [e.error])
        end
      end
    end
  end
end
