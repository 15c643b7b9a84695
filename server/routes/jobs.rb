# frozen_string_literal: true

require 'date'
require 'securerandom'
require_relative '../../formats/job_file'
require_relative '../../formats/typed_edits'
require_relative '../present/ticket'
require_relative 'past'

module Miser
  module Server
    module Routes
      # Jobs: the board, one job, its edits and larger acts.
      module Jobs
        # Machines a board shows at once; summaries made anew before one is shown.
        PAGE = 100
        BEHIND_MOST = 60

        def self.registered(app)
          app.get('/api/jobs') do
            jobs.catch_up(BEHIND_MOST)
            order = Store::Summaries::ORDERS.key?(params['order']) ? params['order'] : 'bay'
            lines, count = jobs.board(word: params['only'].to_s.strip[0, 100], order: order, waiting: params['waiting'] == '1',
              from: params['from'].to_s.to_i.clamp(0, 1_000_000), limit: PAGE)
            content_type :json
            # The lines are kept as they go out.
            halt 200, %({"jobs":[#{lines.join(',')}],"count":#{count},"removed":#{JSON.generate(Past.removed(self))}})
          end

          app.post('/api/jobs') do
            body = body_of('/api/jobs')
            document = body['machine'] ? Jobs.again(self, body) : Jobs.fresh(self, body)
            Jobs.check(document)
            answer(201, opened(jobs.create(document)))
          end

          app.get('/api/jobs/:id') { answer(200, opened(found(seen), **view)) }

          app.patch('/api/jobs/:id') do
            body = body_of('/api/jobs/{id}')
            edits, errors = Formats::TypedEdits.read(body['edits'])
            raise Refusal.new(422, 'This was not saved.', fields: errors, kept: 'What you typed stays in the field.') if errors.any?

            edits = Jobs.signed(edits, person)
            what = edits.map { |e| "#{e['op']} #{e['at']}" }.uniq.join(', ')[0, 400]
            saved = jobs.change(params['id'], body['revision'],
              what: what) { |document| Jobs.check(Job::Edit.apply(document, edits), was: document) }
            answer(200, changed(found(saved), **view(body)))
          end

          app.delete('/api/jobs/:id') do
            found(jobs.remove(params['id']) || nil)
            status 204
          end

          app.post('/api/jobs/:id/restore') do
            found(jobs.restore(params['id']) || nil)
            answer(200, opened(jobs.find(params['id'])))
          end

          app.post('/api/jobs/:id/act') do
            body = body_of('/api/jobs/{id}/act')
            answer(200, changed(found(Jobs.act(self, params['id'], body)), **view(body)))
          end
        end

        # Where it is written down who did what: whoever is signed in, whatever the client says.
        LOG = '/card/log'
        AUTHOR = %r{\A/card/log/[^/]+/by\z}

        # @param edits [Array<Hash>] @param person [Store::People::Person, nil] nil where nobody signs in
        # @return [Array<Hash>] with that person's name at what was done
        def self.signed(edits, person)
          author = person ? { 'by' => person.name } : {}
          edits.reject { |e| AUTHOR.match?(e['at']) }.map do |e|
            at_log = e['at'] == LOG && e['value'].is_a?(Hash)
            at_log ? e.merge('value' => e['value'].except('by').merge(author)) : e
          end
        end

        # A ticket for a machine that the book does not know.
        def self.fresh(app, body)
          document = Job::Template.job(id: fresh_id, name: body['name'].strip, system: body['system'] || 'battery_dc',
            assumptions: app.settings.shop.assumptions)
          document['bay'] = body['bay'] if body['bay']
          document['came_in'] = Date.today.iso8601
          document = usual(document, body['usual']) if body['usual']
          model = body['model'].to_s.strip
          model.empty? ? document : document.merge('machine' => document['machine'].merge('model' => model))
        end

        # A machine of the book comes in again.
        def self.again(app, body)
          machine = app.found(app.settings.learnt.machine(body['machine']), 'machine')
          if machine['gone_on']
            raise Refusal.new(422, 'This machine is gone.', kept: 'What you typed stays in the field.',
              fields: [{ at: '/machine', field: 'Machine in the book', message: "is gone since #{machine['gone_on']}",
                         accepts: 'a machine that is here; its page in the book brings it back' }])
          end
          last = app.settings.learnt.machines.jobs(machine['id']).first
          document = app.found(last && app.jobs.find(last[:id]), 'job on this machine').document
          Miser::Job::Plain.of(Miser::Book::Again.new(document, machine).job(id: fresh_id, machine_id: machine['id'],
            today: Date.today.iso8601, bay: body['bay'], &method(:fresh_id)))
        end

        # @raise [Stage::Unavailable]
        def self.usual(document, key)
          Stages.known!(key, Job::Usual::MACHINE_BY_KEY, 'Kind of machine')
          Job::Usual.machine(document, key) { fresh_id }
        end

        # Undo, redo and a return to an earlier state are the store's; all other acts belong to a stage.
        # @return [Store::Jobs::Saved, nil]
        def self.act(app, id, body)
          jobs = app.jobs
          act, value, revision = body.values_at('act', 'value', 'revision')
          step = { 'undo' => :back, 'redo' => :forth }[act]
          return jobs.step(id, revision, step) if step
          return app.found(jobs.take_back(id, revision, value.to_i), 'state') if act == 'return'

          # Each act is a step of its own to undo, however quickly the next follows.
          files = []
          jobs.change(id, revision, what: "#{act} #{value}"[0, 400], files: files) do |document|
            call = Stage::Call.new(ticket: app.settings.tickets.of(document), document: document, value: value.to_s,
              fresh_id: method(:fresh_id), now: Time.now.utc.iso8601)
            done, kept = StageViews.signed(act, app, Stage.any_act(act).call(call))
            files.concat(kept)
            check(done)
          end
        end

        # @param was [Hash, nil] the valid document it was made from
        # @return [Hash] the document, when it is valid
        # @raise [Refusal] naming the fields
        def self.check(document, was: nil)
          errors = was ? Formats::JobSchema.errors_since(document, was) : Formats::JobSchema.errors(document)
          raise Refusal.new(422, 'This was not saved.', fields: errors, kept: 'What you typed stays in the field.') if errors.any?

          broken = Verdicts::Consistency.broken(document)
          broken += Quote::Quotes.rewritten(document, was) if was
          if broken.any?
            raise Refusal.new(422, 'This was not saved.', fields: broken.map { |p|
              { at: p.at, field: p.at, message: p.message, accepts: p.accepts }
            })
          end

          document
        end

        def self.fresh_id = SecureRandom.alphanumeric(12)
      end
    end
  end
end
