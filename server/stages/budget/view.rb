# frozen_string_literal: true

require_relative '../../stage_views'

module Miser
  module Server
    # The budget: every scenario, what each change brings, what is to be known.
    module BudgetView
      extend Present

      module_function

      def scenario(budget, scenario)
        lines = Budget::Budget::STEPS.flat_map do |step|
          budget.ledgers(step).values.filter_map { |l| l.line(scenario) }.map { |l| line(l).merge(burns: figure(l.burns, l.path('burns'))) }
        end
        { id: scenario.id, name: scenario.name, engine: scenario.engine, rpm: scenario.rpm, reason: scenario.reason, lines: lines }
      end

      # Light and flicker where they are looked at.
      def light(line)
        path = "line/#{line.ledger.side}/#{line.scenario.id}/#{line.circuit.id}/light"
        { flicker_hz: line.flicker_hz, lamps: line.light.map { |l| lit(l[:entry], l[:share], l[:life_words], path) } }
      end

      def lit(entry, share, life, path)
        { load: entry.id, name: entry.part_name || entry.name, life: life, share: figure(share, "#{path}/#{entry.id}") }
      end

      def change(change, scenario)
        here = scenario && change.in(scenario)
        { load_id: change.load_id, name: change.name, from: change.from, to: change.to, circuit: change.circuit,
          saving: figure(change.saving, "change/#{change.load_id}"),
          break_even: here && figure(here[:break_even]) }
      end

      def ride(side, ride)
        ride && { net: figure(ride.net, "ride/#{side}"), charge_before: ride.charge_before, charge_after: ride.charge_after,
                  rides: ride.rides, reason: ride.reason }
      end
    end

    StageViews.declare('budget') do |ticket, look|
      budget = ticket.budget
      here = Budget::Budget::SIDES.to_h { |side| [side, look.scenario && budget.ledgers(side)[look.circuit].line(look.scenario)] }
      { circuits: Present.circuits(budget), scenarios: budget.scenarios.map { |s| BudgetView.scenario(budget, s) },
        light: here.transform_values { |l| l && BudgetView.light(l) },
        changes: budget.changes.map { |c| BudgetView.change(c, look.scenario) },
        accessories: budget.accessories.map { |a| Present.accessory(a) },
        ride: Budget::Budget::SIDES.to_h { |side| [side, BudgetView.ride(side, budget.ride(side))] },
        flags: budget.flags.reject { |f| f.key == 'curve' }.map { |f| Present.flag(f) },
        verdict: { kind: ticket.overall.kind, headline: ticket.overall.headline, notes: ticket.overall.notes,
                   break_even: Verdicts::BreakEven.sentence(here['before'], here['after']) } }
    end
  end
end
