# frozen_string_literal: true

require_relative '../card/function_check'
require_relative '../ticket/stage'

module Miser
  module Stages
    # Every lamp in every state, before, while open, and closed.
    class FunctionStage < Stage
      declare 'function', label: 'Function check', group: 'do', place: 74
      reads :system, :positions, :loads, :choices, :wiring, :signals, :function, :left_open

      # @param side [String] before or after the change @return [Boolean] whether every lamp was tried in every state
      def tried?(side)
        at = side == 'before' ? side : 'open'
        check.begun?(at) && check.whole?(at)
      end

      # @return [Card::FunctionCheck]
      def check = @check ||= Card::FunctionCheck.new(document)

      def wants
        Card::FunctionCheck::SIDES.keys.select { |side| check.begun?(side) && !check.whole?(side) }.map do |side|
          want("/function/#{side}", "#{check.untried(side).size} of #{check.cells(side).size} not tried, #{Card::FunctionCheck::SIDES.fetch(side)}", subject: side)
        end
      end

      def needed? = check.lamps('open').any?

      def touched? = Card::FunctionCheck::SIDES.keys.any? { |side| check.begun?(side) }
    end
  end
end
