# frozen_string_literal: true

require_relative '../card/card'
require_relative '../ticket/stage'

module Miser
  module Stages
    # What the hands do: the job card.
    class FitStage < Stage
      declare 'fit', label: 'Fit', group: 'do', place: 70
      reads :system, :machine, :circuits, :positions, :loads, :choices, :readings, :sums, :signals, :wiring, :bench, :assumptions, :checks,
        :beam, :purchases, :order, :aim, :card, :function, :left_open

      # @return [Card::Card]
      def card = @card ||= Card::Card.new(ticket, ticket.access || Card::Access::EMPTY)

      def wants
        return [] unless touched?

        following = card.next_step or return []
        number = card.steps.index(following) + 1
        held = card.log.tick(following.key) && card.held(following)
        [want('/card/log', "Step #{number} of #{card.steps.size}: #{held ? held.delete_suffix('.') : following.text.delete_suffix('.')}",
          weight: held ? 'wrong' : 'usual')]
      end

      def needed? = card.work.any?

      def touched? = card.log.rows.any?
    end
  end
end
