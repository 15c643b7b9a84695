# frozen_string_literal: true

require_relative '../ticket/stage'
require_relative '../verdicts/hand_over'

module Miser
  module Stages
    # The sheet that leaves with the machine.
    class HandOverStage < Stage
      declare 'hand_over', label: 'Hand over', group: 'over', place: 900
      # It reads all there is: a change anywhere may overtake the sheet.

      act('hand_over') do |call|
        call.document.merge('handed_over' => { 'at' => call.now, 'keeps_a' => Verdicts::HandOver.mark(call.ticket.budget) })
      end

      def wants
        return [] if touched? && !stale?

        [want('/handed_over', stale? ? 'Changed since it was handed over' : 'Not handed over yet')]
      end

      def touched? = !document.handed_over.nil?

      # The mark left at hand-over says what was kept then.
      def stale?
        return false unless touched?

        @stale = document.handed_over['keeps_a'] != Verdicts::HandOver.mark(budget) if @stale.nil?
        @stale
      end
    end
  end
end
