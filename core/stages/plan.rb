# frozen_string_literal: true

require_relative '../plan/work'
require_relative '../quote/offer'
require_relative '../quote/quotes'
require_relative '../ticket/stage'

module Miser
  module Stages
    # Everything weighed against everything, before anything is bought.
    class PlanStage < Stage
      declare 'plan', label: 'Plan', group: 'decide', place: 67
      reads :plan, :quotes

      # In a quote, what stands for the job as it is.
      AS_IT_STANDS = 'now'
      # Between the plans of a quote.
      AND = '|'

      # A plan taken: every choice at once. See Miser::Plan::Taking for how it is written.
      act('plan_take') do |call|
        PlanStage.reckoned!(call)
        words = Miser::Plan::Taking.read(call.value)
        taken = Miser::Plan::Taking.new(call.ticket, call.ticket.market.parts, call.fresh_id).apply(words)
        taken.merge('plan' => (taken['plan'] || {}).merge('taken' => call.value))
      rescue Miser::Plan::Taking::Unknown => e
        raise Stage::Unavailable.new(field: e.field, given: e.given, accepts: e.accepts)
      end

      # Up to three plans, or the job as it stands, offered to the owner at the prices of now.
      act('quote_make') do |call|
        PlanStage.reckoned!(call)
        keys = call.value.split(AND).uniq
        unless keys.size.between?(1, Quote::Quotes::MOST)
          raise Stage::Unavailable.new(field: 'Plans', given: call.value, accepts: "one to #{Quote::Quotes::MOST} plans, or now, with #{AND} between")
        end

        offers = keys.each_with_index.map { |key, i| PlanStage.offer(call, key, "Plan #{i + 1}") }
        call.document.merge('quotes' => [*call.document['quotes'], PlanStage.quote(call, offers)])
      rescue Miser::Plan::Taking::Unknown => e
        raise Stage::Unavailable.new(field: e.field, given: e.given, accepts: e.accepts)
      end

      # Who said yes, to what: the quote, the offer, the name.
      act('quote_accept') do |call|
        id, offer_id, by = call.value.split('/', 3)
        rows = call.document.fetch('quotes', [])
        Stages.known!(id.to_s, rows.to_h { |r| [r['id'], r] }, 'Quote')
        row = rows.find { |r| r['id'] == id }
        PlanStage.open!(call.ticket, row)
        Stages.known!(offer_id.to_s, row['offers'].to_h { |o| [o['id'], o] }, 'Offer')
        named = by.to_s.strip.length.between?(1, 80)
        raise Stage::Unavailable.new(field: 'Accepted by', given: by.to_s, accepts: 'a name, 80 letters at most') unless named

        accepted = { 'offer_id' => offer_id, 'by' => by.strip, 'on' => call.now[0, 10] }
        call.document.merge('quotes' => rows.map { |r| r['id'] == id ? r.merge('accepted' => accepted) : r })
      end

      # Nothing is planned or offered for a machine that nothing is said of.
      def self.reckoned!(call)
        refusal = call.ticket.budget.refusal
        raise Stage::NotYet.new(field: 'Plan', why: refusal, accepts: 'a machine of 12 V') if refusal
      end

      def self.offer(call, key, name)
        return Quote::Offer.new(call.ticket).row(call.fresh_id.call, name, nil) if key == AS_IT_STANDS

        taken = Miser::Plan::Taking.new(call.ticket, call.ticket.market.parts, call.fresh_id).apply(Miser::Plan::Taking.read(key))
        Quote::Offer.new(call.ticket.beside(taken)).row(call.fresh_id.call, name, key)
      end

      def self.quotes(ticket) = Quote::Quotes.new(ticket.document, ticket.method(:days_until))

      # @raise [Stage::NotYet] where nobody can say yes to it any more
      def self.open!(ticket, row)
        state = quotes(ticket).state(row)
        return if state == 'open'

        expired = state == 'expired'
        raise Stage::NotYet.new(field: 'Quote', why: expired ? 'it no longer holds' : 'it was accepted already',
          accepts: expired ? 'more days for it to hold, or a new quote' : 'a new quote')
      end

      def self.quote(call, offers)
        money = call.ticket.market.money
        number = (call.document['quotes'] || []).map { |q| q['number'].to_i }.max.to_i + 1
        { 'id' => call.fresh_id.call, 'number' => number, 'made_on' => call.now[0, 10],
          'valid_days' => money['quote_days'], **money.slice('currency', 'tax', 'tax_percent', 'rate_cents'),
          'intro' => "Lighting of #{call.document['name']}, as talked over.",
          'notes' => 'Light is what the makers claim. What a machine keeps is reckoned from what was measured on it.', 'offers' => offers }.compact
      end

      def wants
        owed = quotes.owed
        owed ? [want('/quotes', "#{owed['name']} was accepted and is not taken yet")] : []
      end

      def touched? = document.own('plan').any? || quotes.rows.any?

      private

      def quotes = @quotes ||= PlanStage.quotes(ticket)
    end
  end
end
