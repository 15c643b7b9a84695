# frozen_string_literal: true

require_relative '../../formats/history_words'

module Miser
  module Server
    module Routes
      # What was: a job's history, and jobs that are off the board.
      module Past
        # Steps of a history at once.
        STEPS = 30

        def self.registered(app)
          app.get('/api/jobs/:id/history') do
            found(jobs.find(params['id']))
            answer(200, Past.history(self, params['id'], params['before']&.to_i))
          end

          app.delete('/api/removed/:id') do
            found(jobs.purge(params['id']) || nil)
            status 204
          end
        end

        # @return [Array<Hash>] jobs off the board, and who took them off
        def self.removed(app)
          names = app.settings.people.names
          app.jobs.removed.map { |job| job.slice(:id, :name, :removed_at).merge(by: names[job[:removed_by]]) }
        end

        # What was changed, when, by whom.
        def self.history(app, id, before)
          names = app.settings.people.names
          steps = app.jobs.history(id, before: before, limit: STEPS)
          { steps: steps.map do |step|
            words = step[:was] ? Formats::HistoryWords.of(step[:was], step[:document]) : { lines: [], more: 0 }
            { revision: step[:revision], at: step[:at], by: names[step[:by]], kind: kind(step), **words }
          end, earlier: steps.size == STEPS ? steps.last[:revision] : nil }
        end

        # @return [String] what sort of a step it was, where its lines alone don't say
        def self.kind(step)
          case step[:what]
          when 'made' then 'made'
          when 'back' then 'undone'
          when 'forth' then 'done again'
          when /\Aback to (\d+)\z/ then "taken back to state #{Regexp.last_match(1)}"
          else step[:was] ? 'changed' : 'as it was first kept'
          end
        end
      end
    end
  end
end
