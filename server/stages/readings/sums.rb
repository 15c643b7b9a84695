# frozen_string_literal: true

require_relative '../../stage_views'

module Miser
  module Server
    # Readings of several loads at once, as the contract has them.
    module SumsView
      extend Present

      module_function

      # @param budget [Budget::Budget]
      def of(budget)
        { things: things(budget), steps: steps(budget), readings: readings(budget.sums), found: found(budget) }
      end

      def things(budget)
        budget.entries('before').map { |e| { key: e.key, name: e.name, figure: figure(e.load.figure(budget.volts_of(e.id))) } }
      end

      # Only what is there to be switched on, and adds something to the step before.
      def steps(budget)
        line = budget.doubtful_line('after')
        seen = nil
        Budget::Sums::SWITCHES.filter_map do |switch|
          plan = budget.sums.plan(switch, line)
          next if plan[:on].empty? || plan[:on] == seen

          seen = plan[:on]
          { key: switch.key, label: switch.label, on: plan[:on], names: plan[:names], expect: figure(plan[:expect]), tells: plan[:tells] }
        end
      end

      def readings(sums) = sums.readings.map { |r| { id: r.id, problem: r.problem, strange: r.strange, adds: r.adds && figure(r.adds) } }

      def found(budget)
        budget.sums.found.map { |f| f.to_h.merge(before: figure(f.before), now: figure(f.now)) }
      end
    end
  end
end
