# frozen_string_literal: true

require_relative '../../formats/budget_report'

module Miser
  # Every figure and verdict of a budget as plain data, to hold one state of the rules against another.
  module BudgetFigures
    module_function

    # @param document [Hash]
    # @return [Hash]
    def of(document)
      budget = Budget::Budget.new(document)
      { lines: Formats::BudgetReport.data(budget).transform_values { |side| side[:scenarios] },
        lasts: sides { |side| by_line(budget, side) { |l| figure(l.lasts) } },
        light: sides { |side| by_line(budget, side) { |l| l.light.to_h { |x| [x[:entry].id, [x[:share].value, x[:life]]] } } },
        changes: budget.changes.to_h { |c| [c.load_id, change(c, budget.scenarios)] },
        accessories: budget.accessories.to_h { |a| [a.load_id, accessory(a)] },
        ride: sides do |side|
          (r = budget.ride(side)) && { net: figure(r.net), start: r.charge_before, end: r.charge_after, rides: r.rides }
        end,
        flags: budget.flags.map { |f| [f.key, f.level, f.side] }, next_reading: next_reading(budget) }
    end

    def sides(&) = Budget::Budget::SIDES.to_h { |side| [side, yield(side)] }

    def by_line(budget, side) = budget.lines(side).to_h { |l| ["#{l.scenario.id}/#{l.circuit.id}", yield(l)] }

    def figure(figure) = figure && { value: figure.value, sigma: figure.sigma, reason: figure.reason, assumed: figure.assumed }

    def change(change, scenarios)
      { saving: figure(change.saving),
        scenarios: scenarios.filter_map { |s| change.in(s) }.to_h { |s| [s[:id], [s[:keeps_delta], s[:break_even].value]] } }
    end

    def accessory(given)
      worst = given.worst
      { fits: given.fits, reason: given.reason, keeps: figure(worst && worst[:keeps]), above: figure(worst && worst[:above_rpm]) }
    end

    def next_reading(budget)
      line, best = budget.next_reading
      line && [line.scenario.id, best.what, best.load_id, best.share, best.sigma_after]
    end
  end
end
