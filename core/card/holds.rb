# frozen_string_literal: true

require_relative '../verdicts/left_open'

module Miser
  module Card
    # What must be the case before the work goes past a hold point; each says what is still in its way.
    class Holds
      # The point that says why a machine was not tried as it came in.
      UNSEEN = 'function/before'

      # @param ticket [Ticket] @param tray [Tray] @param check [FunctionCheck]
      # @param reasons [Hash{String=>String}] why a point is left open
      def initialize(ticket, tray, check, reasons)
        @ticket = ticket
        @tray = tray
        @check = check
        @reasons = reasons
      end

      # @param name [Symbol, nil] @return [String, nil] what is in the way; nil where nothing is
      def of(name) = name && send(name)

      private

      def parts = unanswered(@ticket.outstanding.points).first

      def tried_before
        return if @reasons[UNSEEN]

        @check.begun?('before') || @check.whole?('before') ? @check.unseen_words : 'Nothing was tried yet.'
      end

      def tried_open
        left = unanswered(@check.open_points)
        left.size > 1 ? "#{left.first} And #{left.size - 1} more." : left.first
      end

      def tried_closed
        bad = @check.open_points.select { |key, _| @check.bad('closed').any? { |c| key == "function/#{c.key}" } }
        unanswered(@check.closed_points + bad).first
      end

      def aimed = @ticket.document.beam_unaimed? && !@reasons[Verdicts::LeftOpen::AIM] ? 'The beam is not said to be aimed.' : nil

      def counted = unanswered(@tray.open_points.reject { |key, _| key == Tray::LEFT }).first

      def tray
        left = unanswered(@tray.open_points)
        left.empty? ? nil : left.join(' ')
      end

      # @return [Array<String>] words of points that nobody answered for
      def unanswered(points) = points.reject { |key, _| @reasons[key] }.map(&:last)
    end
  end
end
