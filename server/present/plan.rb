# frozen_string_literal: true

require_relative '../../core/plan/work'
require_relative 'figure'

module Miser
  module Server
    # What a search for a plan says, on the wire.
    module PlanWords
      module_function

      # @param work [Plan::Work] @param word [String] @param said [Hash] see Plan::Work
      # @return [Hash]
      def of(work, word, said)
        case word
        when 'ready' then said.merge(axis: said[:axis].label, scenario: said[:axis].scenario)
        when 'best', 'point' then { plan: plan(work, said[:found]) }
        when 'settled' then { plan: plan(work, said[:found]), reading: work.outcome(said[:found]).reading }
        when 'stuck' then { text: said[:standing].words, ways: said[:standing].ways.map(&:to_h) }
        when 'done' then { left_out: said[:left_out].map(&:to_h), cheaper: said[:cheaper]&.to_h }
        else said
        end
      end

      # @param found [Plan::Search::Found]
      # @return [Hash] a plan as it is shown, compared, taken
      def plan(work, found)
        outcome = work.outcome(found)
        problem = work.problem
        axis = outcome.keep(problem.axis)
        { key: outcome.key, cents: outcome.total_cents, parts_cents: outcome.parts_cents, work_cents: outcome.work_cents,
          minutes: found.minutes.round,
          keeps: Present.figure(axis), verdict: Budget::Verdict.of(axis.value, axis.sigma),
          light: outcome.light&.round(2), cuts: found.cuts,
          changes: outcome.changes, left_out: outcome.left_out, notes: outcome.notes,
          missing: outcome.missing.words, missing_times: outcome.missing.times,
          lines: work.conditions.keeps.map { |i| line(outcome, problem.lines[i], i) } }
      end

      def line(outcome, line, index)
        keep = outcome.keep(index)
        { scenario: line.scenario, label: line.label, keeps: Present.figure(keep), verdict: Budget::Verdict.of(keep.value, keep.sigma) }
      end
    end
  end
end
