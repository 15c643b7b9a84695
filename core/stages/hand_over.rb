# frozen_string_literal: true

require_relative '../book/rechecks'
require_relative '../ticket/stage'
require_relative '../verdicts/hand_over'

module Miser
  module Stages
    # The sheet that leaves with the machine.
    class HandOverStage < Stage
      declare 'hand_over', label: 'Hand over', group: 'over', place: 900
      # It reads all there is: a change anywhere may overtake the sheet.

      act('hand_over') do |call|
        left = call.ticket.left_open.unanswered
        if left.any?
          more = left.size > 1 ? " And #{left.size - 1} more." : ''
          raise Stage::NotYet.new(field: 'Hand over', why: "still open: #{left.first.text}#{more}",
            accepts: 'each open point mended, or why it is left so')
        end
        looks = Book::Rechecks.new(call.ticket.document).written(call.now[0, 10])
        call.document.merge('handed_over' => { 'at' => call.now, 'keeps_a' => Verdicts::HandOver.mark(call.ticket.budget) },
          **(looks.any? ? { 'rechecks' => Job::Plain.of(looks) } : {}))
      end

      # A machine that went out and stands in the bay again, on the same ticket.
      act('back_in_bay') do |call|
        at = call.document['handed_over']
        unless at && at['at']
          raise Stage::NotYet.new(field: 'Back in the bay', why: 'it was never handed over',
            accepts: 'a machine that was')
        end

        call.document.merge('handed_over' => at.merge('back_at' => call.now))
      end

      # A look again, done: every lamp that it is about was looked at.
      act('recheck_done') do |call|
        looks = Book::Rechecks.new(call.ticket.document)
        look = looks.find(call.value)
        Stages.known!(call.value, looks.rows.to_h { |r| [r['id'], r] }, 'Recheck')
        unseen = Book::Rechecks.unseen(look)
        if unseen.any?
          raise Stage::NotYet.new(field: 'Done', why: "not looked at yet: #{unseen.map(&:name).first(4).join(', ')}",
            accepts: 'what was seen at each lamp')
        end
        call.document.merge('rechecks' => Job::Plain.of(looks.done(call.value, call.now[0, 10])))
      end

      def wants
        return [] if touched? && !stale?

        [want('/handed_over', stale? ? 'Changed since it was handed over' : waiting)]
      end

      # Handed over, and not taken into the bay again since.
      def touched? = !document.handed_over.nil? && document.handed_over['back_at'].nil?

      # The mark left at hand-over says what was kept then.
      def stale?
        return false unless touched?

        @stale = document.handed_over['keeps_a'].to_h.compact != Verdicts::HandOver.mark(budget) if @stale.nil?
        @stale
      end

      private

      def waiting
        left = ticket.left_open.unanswered.size
        return 'Not handed over yet' if left.zero?

        left == 1 ? 'One open point to mend or to answer for' : "#{left} open points to mend or to answer for"
      end
    end
  end
end
