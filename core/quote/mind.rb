# frozen_string_literal: true

require_relative '../job/pairs'
require_relative '../plan/light'
require_relative '../verdicts/cautions'

module Miser
  module Quote
    # What the owner is to know before he says yes: what may be worse than it was, what must be looked up, what it will
    # not tell him any more.
    module Mind
      # Stands under every offer.
      LAW = Verdicts::Cautions::TABLE.fetch('law')
      NO_WARNING = Verdicts::Cautions::TABLE.fetch('no_lamp_warning')
      # Faults of the signals that are told one by one.
      MOST = 2

      module_function

      # @param ticket [Ticket] of the job with all of it taken
      # @return [Array<String>] the gravest first
      def of(ticket) = [*flags(ticket), *signals(ticket), *lamps(ticket), *marks(ticket)].uniq

      def flags(ticket) = ticket.flags.select { |f| %w[danger warning].include?(f.level) && f.side != 'before' }.map(&:text)

      def signals(ticket)
        survey = ticket.survey
        return [] unless survey.ready? && ticket.document.signal_lamps?

        costs = survey.remedies.map(&:cost)
        [*wrong(survey), *costs.flat_map(&:notes), *(costs.any?(&:loses_warning) ? [NO_WARNING] : [])]
      rescue Unsolvable => e
        ["Turn signals: #{e.message}"]
      end

      def wrong(survey)
        texts = survey.judgement('after').problems.map { |p| "Turn signals: #{p.text}" }
        more = texts.size - MOST
        [*texts.first(MOST), *(more.positive? ? ["Turn signals: #{more} more of such faults."] : [])]
      end

      def lamps(ticket)
        heads(ticket).select { |l| Plan::Light.blinds?(l.part) }.map { |l| "#{l.name}: #{Plan::Light::BLINDS}." }
      end

      def marks(ticket)
        heads(ticket).reject { |l| Plan::Light.marked?(l.part) }.map { |l| "#{l.name}: no mark of approval is known of #{l.part['name']}." }
      end

      def heads(ticket) = ticket.document.lamps.select { |l| l.head? && l.part }
      private_class_method :flags, :signals, :wrong, :lamps, :marks, :heads
    end
  end
end
