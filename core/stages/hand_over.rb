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
        left = Verdicts::LeftOpen.new(call.ticket).unanswered
        if left.any?
          raise Stage::NotYet.new(field: 'Hand over', why: "still open: #{left.first.text}",
            accepts: 'each open point mended, or why it is left so')
        end
        call.document.merge('handed_over' => { 'at' => call.now, 'keeps_a' => Verdicts::HandOver.mark(call.ticket.budget) })
      end

      def wants
        return [] if touched? && !stale?

        [want('/handed_over', stale? ? 'Changed since it was handed over' : waiting)]
      end

      def touched? = !document.handed_over.nil?

      # The mark left at hand-over says what was kept then.
      def stale?
        return false unless touched?

        @stale = document.handed_over['keeps_a'] != Verdicts::HandOver.mark(budget) if @stale.nil?
        @stale
      end

      private

      def waiting
        left = Verdicts::LeftOpen.new(ticket).unanswered.size
        return 'Not handed over yet' if left.zero?

        left == 1 ? 'One open point to mend or to answer for' : "#{left} open points to mend or to answer for"
      end
    end
  end
end
