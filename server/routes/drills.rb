# frozen_string_literal: true

require_relative '../drills'
require_relative '../present/drill'

module Miser
  module Server
    module Routes
      # Drills: begun, played act by act, judged. Each is its player's own.
      module Drills
        # Ended ones that the page lists.
        LATEST = 30

        def self.registered(app)
          app.get('/api/drills') { answer(200, Drills.list(self)) }

          app.post('/api/drills') do
            answer(200, Drills.view(self, Drills.begin(self, body_of('/api/drills'))))
          end

          app.get('/api/drills/:id') { answer(200, Drills.view(self, Drills.mine(self))) }

          app.delete('/api/drills/:id') do
            found(settings.drills.of(person&.id).forget(params['id'].to_s) || nil, 'drill that has not ended')
            answer(200, Drills.list(self))
          end

          app.post('/api/drills/:id/acts') do
            body = body_of('/api/drills/{id}/acts')
            answer(200, Drills.act(self, Drills.mine(self, :fault), body))
          end

          app.post('/api/drills/:id/answer') do
            body = body_of('/api/drills/{id}/answer')
            answer(200, Drills.answer(self, Drills.mine(self, :question), body['answer']))
          end
        end

        # @param kind [Symbol, nil] fault or question, where only one of these will do
        def self.mine(app, kind = nil)
          row = app.settings.drills.of(app.person&.id).find(app.params['id'].to_s)
          row = nil if row && kind && (row.kind == Drill::Code::FAULT) != (kind == :fault)
          app.found(row, 'drill')
        end

        def self.list(app)
          mine = app.settings.drills.of(app.person&.id)
          ended = mine.ended
          level = app.settings.drills.level(ended)
          { open: mine.open.map { |r| listed(r) }, ended: ended.last(LATEST).reverse.map { |r| listed(r) }, curve: curve(ended),
            level: level, levels: Drill::Level.bands, goal: Drill::Level::GOAL,
            solved: { k: ended.count(&:solved), of: ended.size, lately: lately(ended) },
            kinds: [{ key: Drill::Code::FAULT, label: 'Find the fault' }, *Drill::Question::REGISTRY.map { |key, k| { key: key, label: k.title } }],
            machines: app.settings.jobs.names }
        end

        # Of the last ten.
        def self.lately(ended) = ended.last(10).then { |l| { k: l.count(&:solved), of: l.size } }

        # Where somebody stood after each drill, on the scale of the drills themselves.
        def self.curve(ended)
          stood = Drill::Level.abilities(ended.map { |r| [r.difficulty, r.solved] })
          ended.each_with_index.map do |r, i|
            { id: r.id, at: r.ended_at, difficulty: r.difficulty.round(2), solved: r.solved, stands: stood[i + 1].round(2), name: r.name }
          end
        end

        def self.listed(row)
          row.to_h.slice(:id, :kind, :code, :name, :begun_at, :ended_at, :solved, :minutes, :cents, :expected_minutes, :expected_cents)
             .merge(level: row.level, level_label: Drill::Level::NAMES[row.level - 1])
        end

        # @return [Store::Drills::Row]
        def self.begin(app, body)
          drills = app.settings.drills
          mine = drills.of(app.person&.id)
          seed = body['seed'] || SecureRandom.random_number(Drill::Code::SEEDS.end)
          job = body['machine'] && app.found(app.settings.jobs.find(body['machine'])).document
          return drills.of_case(mine, job, body['fault'], seed) if body['fault'] && job

          code = body['code'] ? Drill::Code.read(body['code']) : fresh(mine, drills, body, seed)
          job ||= app.found(app.settings.jobs.find(code.machine)).document if code.machine
          drills.begin(mine, code, job)
        rescue NothingToHide, UnknownName => e
          raise refused(e, body.key?('code') ? 'code' : 'machine')
        end

        def self.fresh(mine, drills, body, seed)
          kind = body['kind'] || Drill::Code::FAULT
          level = body['level'] || drills.level(mine.ended)
          Drill::Code.new(kind: kind, level: level, seed: seed, machine: kind == Drill::Code::FAULT ? body['machine'] : nil)
        end

        def self.view(app, row)
          base = { drill: listed(row), bench: nil, play: nil, question: nil, verdict: nil, answer: nil }
          return base.merge(asked(app, row)) unless row.kind == Drill::Code::FAULT

          session = app.settings.drills.session(row)
          base.merge(bench: Present::Drill.bench(session.exercise), play: Present::Drill.play(session, row.seed))
        rescue UnknownName => e
          # What was hidden is in no library any more.
          raise Refusal.new(410, "This drill can’t be played any more: #{e.words}.", kept: 'What came of others is kept.')
        end

        def self.asked(app, row)
          question = app.settings.drills.asked(row)
          given = row.ended_at && row.acts.last
          { question: Present::Drill.question(question), answer: given, verdict: given && Present::Drill.verdict(question.judge(given)) }
        end

        def self.act(app, row, body)
          mine = app.settings.drills.of(app.person&.id)
          session = app.settings.drills.act(mine, row, Drill::Act.from(body), body['n'])
          { drill: listed(mine.find(row.id)), play: Present::Drill.play(session, row.seed) }
        rescue Store::Drills::Stale
          raise stale
        rescue DomainError => e
          raise refused(e, 'act')
        end

        def self.answer(app, row, given)
          app.settings.drills.answer(app.settings.drills.of(app.person&.id), row, given)
          view(app, app.settings.drills.of(app.person&.id).find(row.id))
        rescue Store::Drills::Stale
          raise stale
        rescue UnknownName => e
          raise refused(e, e.facts[:what])
        end

        # Another window was first: it is said, and this one looks again.
        def self.stale
          Refusal.new(409, 'This drill has gone on in another window.', kept: 'What was done there stands; look again.')
        end

        def self.refused(error, field)
          message, *accepts = error.words.split('; ')
          accepted = accepts.join('; ').sub(/\A(accepted|known): /, '')
          Refusal.new(422, 'That can’t be done.', kept: 'Nothing was spent.',
            fields: [{ at: "/#{field}", field: field.to_s, message: message, accepts: accepted }])
        end
      end
    end
  end
end
