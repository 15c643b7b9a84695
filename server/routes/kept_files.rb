# frozen_string_literal: true

require_relative '../../core/job/attached'
require_relative '../../formats/job_file'
require_relative 'jobs'

module Miser
  module Server
    module Routes
      # A change of a job that may bring a file with it: photographs, photometry, receipts.
      module KeptFiles
        # Letters of a file's name.
        MOST_NAME = 120

        def self.unreadable(what, error, accepts, at: '/text')
          Refusal.new(422, "This #{what} can’t be taken: #{error.message}.", kept: 'Nothing was changed.',
            fields: [{ at: at, field: 'file', message: error.message,
                       accepts: accepts }])
        end

        def self.keep(app, revision, what, files: [], &)
          app.found(app.jobs.change(app.params['id'], revision, what: what,
            files: files) do |d|
            Jobs.check(yield(d),
              was: d).tap do |new|
              room!(app, new, files)
            end
          end)
        end

        # A job must fit its own file, or it could never be opened elsewhere.
        def self.room!(app, document, files)
          others = Job::Attached.ids(document) - files.map(&:id)
          taken = app.jobs.attachments.bytes(document['id'], others) + files.sum { |f| f.bytes.bytesize }
          most = Formats::JobFile::FILES_MOST_BYTES
          return if files.empty? || taken <= most

          raise Refusal.new(422, format('With this the job’s files come to %<taken>.1f MB, and its job file holds %<most>d MB of them.',
            taken: taken / 1_048_576.0, most: most / 1_048_576),
            kept: 'Nothing was changed.',
            fields: [{ at: '/file', field: 'file', message: 'has no room left',
                       accepts: 'remove a photograph, a photometry file or a receipt first' }])
        end
      end
    end
  end
end
