# frozen_string_literal: true

require_relative '../../stage_views'

module Miser
  module Server
    module Routes
      # Parts of the shelf tried in a lamp's place.
      module Choose
        def self.registered(app)
          app.get('/api/jobs/:id/options') do
            ticket = settings.tickets.of(found(settings.jobs.find(params['id'])).document)
            row = found(ticket.document.load(params['load']), 'load')
            scenario, = Present.look(ticket.budget, params['scenario'], nil)
            answer(200, { load: row['id'], options: ticket.budget.options(row, settings.parts.all, scenario).map { |o| Choose.option(o) } })
          end
        end

        def self.option(option)
          { part: option.part, fits_base: option.fits_base, amps: Present.figure(option.amps), saving: Present.figure(option.saving),
            keeps: Present.figure(option.keeps), verdict: option.verdict }
        end
      end
    end

    StageViews.routes(Routes::Choose)
  end
end
