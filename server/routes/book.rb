# frozen_string_literal: true

require 'date'
require_relative '../../core/book/book'
require_relative '../../formats/typed_edits'
require_relative '../present/book'
require_relative 'jobs'

# The library for paper takes most of a second to load: nobody else waits for it.
Miser::Formats.autoload(:FleetPdf, File.expand_path('../../formats/fleet_pdf.rb', __dir__))

module Miser
  module Server
    module Routes
      # The book: machines with all that was done on them, their owners' fleets, what falls due.
      module Book
        PAGE = 100
        # Machines that one sheet of a fleet shows.
        MOST_OF_FLEET = 400
        # What a machine's page may change, by the place in a job that says the same.
        FIELDS = %r{\A/(name|fleet|note|machine/(kind|engine|model|year|frame|distance_km|hours))\z}
        GONE = { 'gone_on' => 'Gone on', 'gone_to' => 'Gone to' }.freeze

        def self.registered(app)
          app.get('/api/book') { answer(200, Book.page(self)) }
          app.get('/api/machines/:id') { answer(200, Book.view(self, found(settings.learnt.machine(params['id']), 'machine'))) }
          app.patch('/api/machines/:id') { answer(200, Book.view(self, found(Book.edit(self, params['id'], body_of('/api/machines/{id}')), 'machine'))) }

          app.post('/api/machines/:id/join') do
            Book.join(self, params['id'], body_of('/api/machines/{id}/join')['with'])
            answer(200, Book.view(self, found(settings.learnt.machine(params['id']), 'machine')))
          end

          app.get('/api/fleet') { answer(200, Book.fleet(self, params['owner'].to_s)) }

          app.get('/api/fleet.pdf') do
            sheet = Book.fleet(self, params['owner'].to_s)
            content_type 'application/pdf'
            attachment("#{stem(sheet[:owner])}-fleet.pdf")
            Formats::FleetPdf.new(sheet, shop: settings.market.market.money['heading'], on: Date.today.iso8601).to_s
          end
        end

        def self.today = Date.today.iso8601

        def self.page(app)
          word = app.params['q'].to_s.strip[0, 100]
          ids = word.empty? ? nil : app.settings.jobs.summaries.finding.search(word, PAGE, kinds: ['machine']).map(&:ref)
          order = Store::Machines::ORDERS.key?(app.params['order']) ? app.params['order'] : 'name'
          rows, count = app.settings.learnt.machines.page(owner: given(app, 'owner'),
            model: given(app, 'model')&.then { |m| Miser::Book::Key.of(m) }, order: order,
            from: app.params['from'].to_i.clamp(0, 1_000_000), limit: PAGE, today: today, ids: ids)
          { machines: rows.map { |r| Present.book_row(r) }, count: count, owners: app.settings.learnt.machines.owners,
            all: app.settings.learnt.machines.count }
        end

        def self.given(app, name) = app.params[name].to_s.strip[0, 100].then { |text| text.empty? ? nil : text }

        # A machine's page.
        def self.view(app, machine)
          learnt = app.settings.learnt
          id = machine['id']
          jobs = learnt.machines.jobs(id)
          app.jobs.catch_up(Jobs::BEHIND_MOST)
          lines = app.jobs.summaries.lines(jobs.map { |j| j[:id] })
          series = Miser::Book::MachineBook.new(learnt.read(learnt.lessons.of_machine(id))).series
          { machine: machine, twins: twins(learnt, machine), jobs: jobs.map { |j| job(app, j, lines[j[:id]]) },
            open: jobs.find { |j| j[:handed_at].nil? }&.fetch(:id),
            series: series.map { |s| Present.series(s) }, rechecks: rechecks(app, jobs, machine) }
        end

        def self.twins(learnt, machine)
          frame = Miser::Book::Key.frame((machine['machine'] || {})['frame'])
          frame ? learnt.twins(frame, machine['id']) : []
        end

        def self.job(app, row, line)
          { id: row[:id], name: row[:name], came_in: row[:came_in] || row[:created_at][0, 10], handed_at: row[:handed_at],
            distance_km: row[:distance_km], hours: row[:hours],
            before: line && line['before'], after: line && line['after'], verdict: line && line['verdict'], **cost(app, row, line),
            bay: line && line['bay'] }
        end

        # What went out cost what it did; what stands in the bay is reckoned at the prices of now.
        # @return [Hash] cents, at_least
        def self.cost(app, row, line)
          return { cents: nil, at_least: true } unless line
          return line.slice('cents', 'at_least').transform_keys(&:to_sym) if row[:handed_at] || line['cents'].nil?

          job = app.jobs.find(row[:id])
          job ? app.settings.tickets.cost_now(job, line) : { cents: nil, at_least: true }
        end

        # Of the jobs that went out, the last first: what is due, what was found.
        def self.rechecks(app, jobs, machine)
          gone = !machine['gone_on'].nil?
          rows = jobs.select { |j| j[:handed_at] }.flat_map do |j|
            document = app.jobs.find(j[:id])&.document or next []
            looks = Miser::Book::Rechecks.new(Miser::Job::Document.new(document))
            wanted = looks.rows.reject { |r| r['dropped'] }
            wanted.map { |r| { job: j[:id], **Present.recheck(looks.find(r['id']), today, gone: gone) } }
          end
          rows.sort_by { |r| [r[:done_on] ? 1 : 0, r[:due_on] || '9999'] }
        end

        # Edits as of a job's own machine: what is typed is read in its unit; tickets of it that stand in the bay hear of it.
        # @return [Hash, nil]
        def self.edit(app, id, body)
          edits, errors = Formats::TypedEdits.read(body['edits'] || [])
          errors += (body['edits'] || []).reject { |e| FIELDS.match?(e['at']) && %w[set unset].include?(e['op']) }.map do |e|
            Formats::FieldError.new(at: e['at'], field: e['at'].split('/').last.to_s,
              message: 'is nothing that the book keeps of a machine', accepts: 'its name, owner, model, year, frame number, counters, note')
          end
          refuse(errors) if errors.any?
          changed = app.settings.learnt.machines.change(id) { |machine| checked(machine, edits, body) }
          changed && app.settings.learnt.machines.jobs(id).select { |j| j[:handed_at].nil? }.each { |j| tell(app, j, edits) }
          changed
        end

        def self.checked(machine, edits, body)
          own = machine.slice('gone_on', 'gone_to').merge(body.slice(*GONE.keys)).compact
          probe = Miser::Job::Template.job(id: 'probe', name: machine['name']).merge(machine.slice('name', 'fleet', 'machine',
            'note').compact)
          edited = Miser::Job::Edit.apply(probe, edits)
          errors = Formats::JobSchema.errors(edited)
          refuse(errors) if errors.any?
          if own['gone_on'] && !Miser::Book::Days.number(own['gone_on'])
            refuse([Formats::FieldError.new(at: '/gone_on', field: GONE['gone_on'], message: 'is in no calendar',
              accepts: 'a day, as 2026-01-31')])
          end
          edited.slice('name', 'fleet', 'machine', 'note').merge(own).compact
        end

        # A ticket that somebody is working on is changed like by any other hand.
        def self.tell(app, row, edits)
          list = edits.reject { |e| e['at'] == '/note' }
          return if list.empty?

          app.jobs.change(row[:id], row[:revision], what: 'the machine, in the book') { |d| Jobs.check(Miser::Job::Edit.apply(d, list), was: d) }
        end

        def self.refuse(errors)
          raise Refusal.new(422, 'This was not saved.', fields: errors, kept: 'What you typed stays in the field.')
        end

        # Two books of one machine become one: all jobs of the other are done on this.
        def self.join(app, id, other)
          machines = app.settings.learnt.machines
          app.found(machines.find(id), 'machine')
          app.found(machines.find(other), 'machine')
          if id == other
            raise Refusal.new(422, 'A machine can’t be joined with itself.',
              fields: [{ at: '/with', field: 'Machine', message: 'is the same', accepts: 'another machine of the book' }])
          end

          app.jobs.join_machines(id, other)
        end

        # All machines of an owner: what each keeps, what was spent, what is open.
        def self.fleet(app, owner)
          machines = app.settings.learnt.machines.of_owner(owner).first(MOST_OF_FLEET)
          raise Refusal.new(404, 'There is no such owner (any more).') if machines.empty?

          app.jobs.catch_up(Jobs::BEHIND_MOST)
          due = app.jobs.rechecks.due(machines: machines.map { |m| m['id'] }).group_by { |r| r[:machine_id] }
          rows = machines.map { |m| fleet_row(app, m, due.fetch(m['id'], [])) }
          { owner: owner, on: today, machines: rows, **all(rows),
            currency: app.settings.market.market.money['currency'],
            open: rows.sum { |r| r[:rechecks].size }, short: rows.count { |r| r[:verdict] == 'owes' } }
        end

        # @param costs [Array<Hash>] cents, at_least
        def self.all(costs) = { cents: costs.sum { |c| c[:cents] || 0 }, at_least: costs.any? { |c| c[:at_least] } }

        def self.fleet_row(app, machine, due)
          jobs = app.settings.learnt.machines.jobs(machine['id'])
          lines = app.jobs.summaries.lines(jobs.map { |j| j[:id] })
          last = lines[jobs.first && jobs.first[:id]]
          costs = jobs.map { |j| cost(app, j, lines[j[:id]]) }
          said = machine['machine'] || {}
          { id: machine['id'], name: machine['name'], model: said['model'], year: said['year'], frame: said['frame'],
            jobs: jobs.size, job: jobs.first && jobs.first[:id], in_bay: jobs.any? { |j| j[:handed_at].nil? },
            before: lines[jobs.last && jobs.last[:id]]&.fetch('before'), after: last && last['after'],
            scenario: last && last['scenario'], verdict: last && last['verdict'], **all(costs),
            rechecks: due.map { |r| Present.due(r, today).slice(:due_on, :label, :what, :standing, :words, :job, :id) } }
        end
      end
    end
  end
end
