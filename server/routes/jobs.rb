# frozen_string_literal: true

require 'securerandom'
require_relative '../../formats/job_file'
require_relative '../../formats/typed_edits'
require_relative '../present/job'

module Miser
  module Server
    module Routes
      # Jobs: the board, one job, its edits and larger acts.
      module Jobs
        def self.registered(app)
          app.get('/api/jobs') { answer(200, { jobs: settings.jobs.all.map { |s| Present.bay(s) }, removed: settings.jobs.removed }) }

          app.post('/api/jobs') do
            body = body_of('/api/jobs')
            document = Job::Template.job(id: Jobs.fresh_id, name: body['name'].strip, system: body['system'] || 'battery_dc',
                                         assumptions: settings.shop['assumptions'] || {})
            document['bay'] = body['bay'] if body['bay']
            Jobs.check(document)
            answer(201, Present.job(settings.jobs.create(document)))
          end

          app.get('/api/jobs/:id') { answer(200, Present.job(found(settings.jobs.find(params['id'])), **view)) }

          app.patch('/api/jobs/:id') do
            body = body_of('/api/jobs/{id}')
            edits, errors = Formats::TypedEdits.read(body['edits'])
            raise Refusal.new(422, 'This was not saved.', fields: errors, kept: 'What you typed stays in the field.') if errors.any?

            what = edits.map { |e| "#{e['op']} #{e['at']}" }.uniq.join(', ')[0, 400]
            saved = settings.jobs.change(params['id'], body['revision'], what: what) { |document| Jobs.check(Job::Edit.apply(document, edits), was: document) }
            answer(200, Present.job(found(saved), **view(body)))
          end

          app.delete('/api/jobs/:id') do
            found(settings.jobs.remove(params['id']) || nil)
            status 204
          end

          app.post('/api/jobs/:id/restore') do
            found(settings.jobs.restore(params['id']) || nil)
            answer(200, Present.job(settings.jobs.find(params['id'])))
          end

          app.post('/api/jobs/:id/act') do
            body = body_of('/api/jobs/{id}/act')
            answer(200, Present.job(found(Jobs.act(settings.jobs, params['id'], body)), **view(body)))
          end
        end

        # @return [Store::Jobs::Saved, nil]
        def self.act(jobs, id, body)
          revision = body['revision']
          value = body['value']
          # Each act is a step of its own to undo, however quickly the next follows.
          case body['act']
          when 'undo' then jobs.step(id, revision, :back)
          when 'redo' then jobs.step(id, revision, :forth)
          when 'system'
            known(value, Job::Systems::BY_KEY, 'Electrical system')
            jobs.change(id, revision, what: "system #{value}"[0, 400]) { |d| check(Job::Reshape.system(d, value)) }
          when 'engine'
            known(value, Job::EngineKinds::BY_KEY, 'Engine')
            jobs.change(id, revision, what: "engine #{value}"[0, 400]) { |d| check(Job::Reshape.engine(d, value) { SecureRandom.alphanumeric(10) }) }
          when 'headlight'
            jobs.change(id, revision, what: "headlight #{value}"[0, 400]) { |d| check(headlight(d, value.to_s)) }
          when 'cure'
            jobs.change(id, revision, what: "cure #{value}"[0, 400]) { |d| check(cure(d, value.to_s)) }
          when 'hand_over'
            jobs.change(id, revision, what: 'hand over') { |d| d.merge('handed_over' => { 'at' => Time.now.utc.iso8601, 'keeps_a' => Ticket.mark(Budget::Budget.new(d)) }) }
          end
        end

        # A headlight by its id; an empty word takes it back.
        def self.headlight(document, id)
          judged = Present.candidates(document, Beam::Beams.new(document, ->(_) {})).all.find { |c| c.id == id }
          known(id, (document.dig('headlight', 'candidates') || []).to_h { |c| [c['id'], c] }, 'Headlight') unless judged || id.empty?
          Job::HeadlightChoice.take(document, judged) { fresh_id }
        end

        # A cure by its remedies, joined with +; an empty word takes it back.
        def self.cure(document, word)
          survey = Miser::Signals::Survey.new(Budget::Budget.new(document))
          keys = word.split('+')
          found = survey.ready? && survey.cures.ranked.find { |c| c.keys.sort == keys.sort }
          unless found || keys.empty?
            raise Refusal.new(422, 'This was not saved.', fields: [{ at: '/value', field: 'Cure', message: "“#{word[0, 60]}” is none here",
                                                                     accepts: survey.ready? ? survey.cures.ranked.map { |c| c.keys.join('+') }.join(', ') : 'the wiring first' }])
          end
          circuit = document['loads'].find { |l| l['role'] == 'signal_left' }&.fetch('circuit', nil) || document['circuits'].first['id']
          Job::Cure.take(document, found || nil, circuit: circuit, volts: Miser::Signals::Survey::CURE_V)
        end

        def self.known(value, table, field)
          return if table.key?(value)

          raise Refusal.new(422, 'This was not saved.',
                            fields: [{ at: '/value', field: field, message: "“#{value}” is not known", accepts: table.keys.join(', ') }])
        end

        # @param was [Hash, nil] the valid document it was made from
        # @return [Hash] the document, when it is valid
        # @raise [Refusal] naming the fields
        def self.check(document, was: nil)
          errors = was ? Formats::JobSchema.errors_since(document, was) : Formats::JobSchema.errors(document)
          raise Refusal.new(422, 'This was not saved.', fields: errors, kept: 'What you typed stays in the field.') if errors.any?

          broken = Job::Consistency.broken(document)
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
