# frozen_string_literal: true

require_relative '../stage_views'

module Miser
  module Server
    module Routes
      # Looks at a job: what a stage's screen shows, the sampled curve, how a figure was reached.
      module Looks
        def self.registered(app)
          app.get('/api/jobs/:id/stages/:stage') do
            ticket = settings.tickets.of(found(seen).document)
            answer(200, found(StageViews.of(params['stage'], ticket, params), 'stage'))
          end

          app.get('/api/jobs/:id/curve') do
            budget = settings.tickets.of(found(seen).document).budget
            scenario, circuit = Present.look(budget, params['scenario'], params['circuit'])
            raise Refusal.new(404, 'Nothing is earned in this scenario.') unless scenario&.running?

            answer(200, { scenario: scenario.id, circuit: circuit, **Present.curve(budget.curve(scenario.id, circuit)) })
          end

          app.get('/api/jobs/:id/working') do
            ticket = settings.tickets.of(found(seen).document)
            answer(200, Present.working(found(ticket.figure(params['figure'].to_s), 'figure')))
          end
        end
      end
    end
  end
end
