# frozen_string_literal: true

require 'date'
require 'securerandom'
require_relative '../../plan_run'
require_relative '../../present/plan'
require_relative '../../present/quote'

module Miser
  # The library for paper takes most of a second to load: nobody else waits for it.
  Formats.autoload(:QuotePdf, File.expand_path('../../../formats/quote_pdf.rb', __dir__))

  module Server
    # What the plan's screen is given before anything is searched.
    module PlanView
      module_function

      # @param ticket [Ticket]
      # @return [Hash]
      def view(ticket)
        wanted = Plan::Work.wanted(ticket)
        running = ticket.budget.scenarios.select(&:running?)
        money = ticket.market.money
        { wanted: wanted.slice('aim', 'axis', 'keeps', 'money_cents', 'minutes', 'by', *Plan::Work::TOGGLES),
          aims: Plan::Aim::TABLE.map { |a| { key: a.key, label: a.label } }, scenarios: running.map { |s| { id: s.id, name: s.name } },
          taken: ticket.document.own('plan')['taken'], now: now(ticket, wanted['axis']),
          quotes: QuoteView.all(ticket), cost: QuoteView.now(ticket), currency: money['currency'], rate_cents: money['rate_cents'],
          parts: ticket.market.parts.count { |p| !p['use'] && !p['box'] }, priced: ticket.market.parts.count { |p| priced?(ticket.market, p) } }
      end

      def priced?(market, part)
        return false if part['use'] || part['box']

        market.offers(Buying::Need.new(key: part['id'], part_id: part['id'])).any?
      end

      # The job as it stands, to compare with.
      def now(ticket, axis)
        of_axis = ->(side) { ticket.budget.lines(side).select { |l| l.scenario.id == axis } }
        lines = %w[before after].to_h { |side| [side, of_axis[side].min_by { |l| l.keeps.value || 0.0 }] }
        lines.transform_values { |l| l && { keeps: Present.figure(l.keeps), verdict: l.verdict } }
      end
    end

    StageViews.declare('plan') { |ticket, _look| PlanView.view(ticket) }

    module Routes
      # A search begun; it is followed and stopped as a run.
      module PlanSearch
        # Searches at once: they take a processor each.
        MOST = 2

        # @raise [Refusal] where others are at work
        def self.room!(runs, job)
          others = runs.all { |r| r.is_a?(PlanRun) && r.live? && r.job != job }
          return if others.size < MOST

          raise Refusal.new(409, "#{MOST} searches for other machines are under way.", kept: 'Stop one of them, or try again in a moment.')
        end

        def self.registered(app)
          app.get('/api/jobs/:id/plan') { answer(200, { run: settings.runs.all { |r| r.is_a?(PlanRun) && r.job == params['id'] }.last&.view }) }

          app.post('/api/jobs/:id/plan') do
            body_of('/api/jobs/{id}/plan')
            saved = found(jobs.find(params['id']))
            given = { 'document' => saved.document, 'market' => settings.market.data, 'today' => Date.today.iso8601,
                      'units' => settings.shop.units }
            PlanSearch.room!(settings.runs, saved.document['id'])
            run = PlanRun.new(id: SecureRandom.alphanumeric(12), job: saved.document['id'], revision: saved.revision, given: given)
            answer(201, settings.runs.start(run, instead: true).view)
          end
        end
      end
    end

    module Routes
      # A quote on paper.
      module QuotePaper
        def self.registered(app)
          app.get('/api/jobs/:id/quotes/:quote/file') do
            document = found(seen).document
            row = found((document['quotes'] || []).find { |q| q['id'] == params['quote'] })
            attachment("#{stem(document['name'])}-quote-#{row['number'].to_i}.pdf")
            content_type 'application/pdf'
            QuoteView.paper(settings.tickets.of(document), row, (settings.shop['money'] || {})['heading']).to_s
          end
        end
      end
    end

    StageViews.routes(Routes::PlanSearch)
    StageViews.routes(Routes::QuotePaper)
  end
end
