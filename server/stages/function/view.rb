# frozen_string_literal: true

require_relative '../../../core/card/function_findings'
require_relative '../../stage_views'

module Miser
  module Server
    # Every lamp in every state, one side at a time.
    module FunctionView
      module_function

      def all(ticket, side)
        check = ticket.stage('function').check
        expected = Card::FunctionCheck::SIDES.keys.to_h { |s| [s, Card::Expected.new(ticket, check, s)] }
        { side: side, sides: sides(check), states: check.states.map { |s| { key: s.key, label: s.label } },
          saw: Card::FunctionCheck::SAW.map { |key, label| { key: key, label: label } }, words: Card::Expected::WORDS, may: Card::FunctionCheck::MAY,
          lamps: lamps(check, expected.fetch(side), side), points: points(ticket, check, side),
          findings: Card::FunctionFindings.new(check, expected).all.map(&:to_h) }
      end

      # What is not tried, or wrong, with why it is left so.
      def points(ticket, check, side)
        return ticket.left_open.points.select { |p| p.key.start_with?('function') }.map(&:to_h) unless side == 'before'

        text = check.unseen_words or return []
        [{ key: Card::Holds::UNSEEN, text: text, reason: ticket.stage('fit').card.reasons[Card::Holds::UNSEEN] }]
      end

      def sides(check)
        Card::FunctionCheck::SIDES.map do |key, label|
          { key: key, label: label, total: check.cells(key).size, untried: check.untried(key).size, bad: check.bad(key).size }
        end
      end

      def lamps(check, expected, side)
        check.cells(side).group_by(&:lamp).map do |lamp, cells|
          { id: lamp.id, name: lamp.name, lamp: lamp.lamp_id, new: lamp.new,
            cells: cells.map do |c|
              { key: c.key, state: c.state.key, expected: expected.of(lamp, c.state), foretold: expected.foretold(lamp, c.state),
                wrong: expected.wrong?(lamp, c.state), saw: c.saw, bad: c.bad? }
            end }
        end
      end
    end

    StageViews.declare('function') do |ticket, look|
      side = look.params['side']
      FunctionView.all(ticket, Card::FunctionCheck::SIDES.key?(side) ? side : 'before')
    end
  end
end
