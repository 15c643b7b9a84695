# frozen_string_literal: true

require_relative '../ticket/stage'

module Miser
  module Stages
    # What is earned, spent and kept.
    class BudgetStage < Stage
      declare 'budget', label: 'Budget', group: 'decide', place: 30
      reads :machine, :system, :circuits, :positions, :loads, :readings, :sums, :choices, :scenarios, :bench, :assumptions
      figures :line, :load, :circuit, :reading, :accessory, :change, :ride

      def wants
        budget.lines('after').reject(&:known?).map do |l|
          # What it waits for is wanted where it is entered: here it is only said.
          want("/scenarios/#{l.scenario.id}", "#{l.scenario.name}: #{l.keeps.reason}", weight: 'spare')
        end
      end

      def touched? = budget.lines('after').any?(&:known?)

      def figure(kind, *rest) = budget.figure([kind, *rest].join('/'))
    end
  end
end
