# frozen_string_literal: true

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

      def parts
        waits = @ticket.purchases.waits
        waits && "Waits for #{waits}."
      end

      def tried_before
        left = @check.untried('before')
        return if left.empty? || @reasons[UNSEEN]

        @check.begun?('before') ? "#{left.size} of #{@check.cells('before').size} not tried yet." : 'Nothing was tried yet.'
      end

      def tried_open
        left = @check.open_points.reject { |key, _| @reasons[key] }
        return if left.empty?

        left.size == 1 ? left.first.last : "#{left.first.last} And #{left.size - 1} more."
      end

      def counted
        problems = @tray.problems
        problems.empty? || @reasons['tray'] ? nil : "#{problems.join('. ')}."
      end

      def tray
        left = @tray.left_over + @tray.problems
        left.empty? || @reasons['tray'] ? nil : "#{left.join('. ')}."
      end
    end
  end
end
