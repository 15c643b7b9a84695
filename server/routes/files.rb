# frozen_string_literal: true

require_relative '../../core/job/copied'
require_relative '../../formats/job_file'
require_relative '../../formats/loads_csv'
require_relative '../../formats/readings_csv'
require_relative '../../formats/meter_log'
require_relative 'jobs'

module Miser
  module Server
    module Routes
      # Files in and out: job files, and loads and readings as CSV.
      module Files
        TABLES = { 'loads' => Formats::LoadsCsv, 'readings' => Formats::ReadingsCsv }.freeze
        MOST_DIFFERENCES = 500

        def self.registered(app)
          app.get('/api/jobs/:id/file') do
            document = found(seen).document
            name = stem(document['name'])
            kind = params['kind']
            next Files.series(self, document, name) if kind == 'series'

            table = TABLES[kind]
            unless table || kind == 'job'
              raise Refusal.new(404, 'There is no such file.',
                fields: [{ at: 'kind', field: 'kind', message: 'is not known', accepts: 'job, loads, readings, series' }])
            end

            attachment(table ? "#{name}-#{kind}.csv" : "#{name}.miser.json")
            content_type(table ? 'text/csv;charset=utf-8' : :json)
            if table
              table.write(document)
            else
              Formats::JobFile.write(document, jobs.attachments.of(document['id'], Job::Attached.ids(document)))
            end
          end

          app.post('/api/jobs/:id/table') do
            body = body_of('/api/jobs/{id}/table')
            saved = found(jobs.find(params['id']))
            answer(200, Files.table(self, saved, body))
          end

          app.post('/api/jobs/:id/log') do
            body = body_of('/api/jobs/{id}/log')
            answer(200, Files.log(self, found(jobs.find(params['id'])), body))
          end

          app.post('/api/files') do
            body = body_of('/api/files')
            answer(200, Files.job(jobs, body))
          end
        end

        def self.series(app, document, name)
          reading = app.found(document['readings'].find { |r| r['id'] == app.params['reading'] }, 'reading')
          app.attachment("#{name}-series.csv")
          app.content_type('text/csv;charset=utf-8')
          Formats::MeterLog.write(reading)
        end

        def self.table(app, saved, body)
          preview = TABLES.fetch(body['kind']).preview(body['text'], saved.document)
          rows = preview[:rows].map { |r| r.slice(:line, :name, :change).merge(errors: r[:errors].map(&:to_h)) }
          result = { rows: rows, good: preview[:rows].count { |r| r[:errors].empty? }, bad: preview[:rows].count { |r| r[:errors].any? },
                     accepted: false }
          return result unless body['accept']

          edited = app.jobs.change(saved.document['id'], body['revision'] || saved.revision,
            what: "#{body['kind']} from a table") { |d| Jobs.check(Job::Edit.apply(d, preview[:edits])) }
          result.merge(accepted: true, change: app.changed(edited))
        rescue Formats::CsvTable::Unreadable => e
          raise unreadable(e, 'CSV with a first line of column names')
        end

        def self.unreadable(error, accepts)
          Refusal.new(422, "The table can’t be read: #{error.message}.", kept: 'Nothing was changed.',
            fields: [{ at: '/text', field: 'file', message: error.message,
                       accepts: accepts }])
        end

        # A meter's log as a series of one load: what would come in, then in.
        def self.log(app, saved, body)
          unless saved.document['loads'].any? { |l| l['id'] == body['load'] }
            raise Refusal.new(422, 'This can’t be taken.', kept: 'Nothing was changed.',
              fields: [{ at: '/load', field: 'load', message: 'is no load of this job',
                         accepts: 'the id of a load' }])
          end

          log = Formats::MeterLog.new(body['text'], body['mapping'])
          thing = Budget::Budget.new(saved.document).thing(body['load'], body['choice'])
          warm = Draw::WarmUp.new(log.samples, drifts: thing.nil? || thing.drifts?)
          preview = { columns: log.columns, mapping: log.mapping, first_rows: log.sample_rows, rows: log.rows, taken: log.samples.size,
                      errors: log.errors.first(50).map(&:to_h),
                      samples: log.samples.map { |t, a| { t_s: t, amps: a } }, settled: warm.settled, cold: warm.cold, words: warm.reason,
                      accepted: false }
          return preview unless body['accept'] && log.samples.any?

          id = Jobs.fresh_id
          reading = { 'id' => id, 'load_id' => body['load'], 'choice_id' => body['choice'], 'kind' => 'series', 'volts_at' => 'lamp',
                      'taken_on' => 'this_machine',
                      'samples' => log.samples.each_with_index.map do |(t, a), i|
                        { 'id' => "s#{i + 1}", 't_s' => t, 'amps' => a }
                      end }.compact
          edited = app.jobs.change(saved.document['id'], body['revision'] || saved.revision,
            what: 'a meter’s log') do |d|
            Jobs.check(Job::Edit.apply(d,
              [{ 'op' => 'add', 'at' => '/readings',
                 'value' => reading }]), was: d)
          end
          preview.merge(accepted: true, change: app.changed(edited))
        rescue Formats::CsvTable::Unreadable => e
          raise unreadable(e, 'CSV with a column of times and one of amps')
        end

        def self.job(jobs, body)
          read = Formats::JobFile.read(body['text'])
          document = read.document
          old = jobs.find(document['id'])
          differences = old ? Formats::JobFile.differences(old.document, document).first(MOST_DIFFERENCES) : []
          accepted = accept(jobs, read, old, body)
          { name: document['name'], unknown: read.unknown, migrated_from: read.migrated_from, exists: !old.nil?, revision: old&.revision,
            differences: differences, accepted: accepted }
        rescue Formats::JobFile::Refused => e
          raise Refusal.new(422, 'This file can’t be taken.', fields: e.errors, kept: 'Nothing was changed.')
        end

        # @return [String, nil] id of the job it went into
        def self.accept(jobs, read, old, body)
          document = read.document
          case body['accept']
          when 'over'
            raise Refusal.new(422, 'There is no job to lay it over.', kept: 'Nothing was changed.') unless old

            jobs.change(document['id'], body['revision'] || old.revision, what: 'file laid over', files: read.attachments) { document }
            document['id']
          when 'new'
            document = Miser::Job::Copied.of(document, Jobs.fresh_id) if jobs.taken?(document['id'])
            jobs.create(document, files: read.attachments).document['id']
          end
        end
      end
    end
  end
end
