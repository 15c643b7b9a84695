# frozen_string_literal: true

require_relative '../../stage_views'

module Miser
  module Server
    module Routes
      # Parts tried in a lamp's place: those held against it, and the shelf's.
      module Choose
        def self.registered(app)
          app.get('/api/jobs/:id/options') do
            ticket = settings.tickets.of(found(seen).document)
            lamp = found(ticket.document.lamp(params['lamp']), 'lamp')
            scenario, = Present.look(ticket.budget, params['scenario'], nil)
            tried, shelf = ticket.offers(lamp, settings.parts.offered, scenario)
            book = settings.learnt.offered
            known = book.known_parts
            answer(200, { lamp: lamp.id, tried: tried.map { |o| Choose.offer(o, book, known) },
              shelf: shelf.map { |o| Choose.offer(o, book, known) } })
          end
        end

        # @param offer [Shelf::Offers::Offer] @param known [Set<String>] names of parts that anything was learnt of
        def self.offer(offer, learnt, known)
          option = offer.option
          { part: offer.part.except(*Store::Parts::OWN), shelf_id: offer.part['shelf_id'] || offer.part['id'], choice: offer.choice,
            fit: offer.fit.verdict, reasons: offer.fit.reasons, functions: option.functions.map { |f| function(f) },
            keeps: Present.figure(option.keeps), verdict: option.verdict, learnt: Choose.findings(offer.part, learnt, known) }
        end

        def self.findings(part, learnt, known)
          return [] unless known.include?(Miser::Book::Key.of(part['name']))

          learnt.part(part['name'], part['shelf_id'] || part['id'])&.findings.to_a.map(&:to_h)
        end

        def self.function(said)
          said.to_h.merge(amps: Present.figure(said.amps), saving: Present.figure(said.saving))
        end
      end
    end

    StageViews.routes(Routes::Choose)
  end
end
