# frozen_string_literal: true

require_relative '../../core/job/plain'
require_relative '../../core/quote/offer'
require_relative '../../core/quote/quotes'
require_relative '../days'

module Miser
  module Server
    # What was offered for a job, on the wire.
    module QuoteView
      module_function

      # @param ticket [Ticket]
      # @return [Array<Hash>] the latest first
      def all(ticket)
        quotes = Stages::PlanStage.quotes(ticket)
        taken = ticket.document.own('plan')['taken']
        quotes.rows.map do |row|
          last = Days.after(row['made_on'], row['valid_days']&.to_i)
          offers = row['offers'].map { |o| offer(o, taken) }
          wire(row).merge(state: quotes.state(row), words: quotes.words(row), valid_until: last, offers: offers)
        end
      end

      # Whole numbers whole, whatever the store made of them.
      def wire(row) = Job::Plain.of(row).transform_keys(&:to_sym)

      def offer(row, taken)
        { **wire(row), taken: !row['key'].nil? && row['key'] == taken, keeps: (row['keeps'] || []).map { |k| keep(k) } }
      end

      def keep(row)
        side = ->(name) { row["#{name}_a"] && { value: row["#{name}_a"], sigma: row["#{name}_sigma_a"], unit: 'A', assumed: false } }
        { label: row['label'], before: side['before'], after: side['after'], verdict: row['after'] }
      end

      # The job as it stands, as it would be offered now.
      def now(ticket)
        offer = Quote::Offer.new(ticket)
        { cents: offer.total, minutes: offer.minutes.round, missing: offer.missing, missing_times: offer.missing_times, light: Plan::Light.times(ticket.document)&.round(2) }
      end

      # @return [Formats::QuotePdf]
      def paper(ticket, row, shop)
        view = all(ticket).find { |q| q[:id] == row['id'] }
        Formats::QuotePdf.new(Job::Plain.of(row), machine: ticket.document.to_h['name'], shop: shop, valid_until: view[:valid_until], state: view[:words])
      end
    end
  end
end
