# frozen_string_literal: true

require_relative '../../stage_views'
require_relative 'sums'

module Miser
  module Server
    # Readings, what is to be read, and where the charging system is measured.
    module ReadingsView
      extend Present

      module_function

      # @param budget [Budget::Budget]
      # @return [Array<Hash>]
      def readings(budget)
        budget.readings.map do |r|
          row = budget.document.load(r.document['load_id'])
          window = Verdicts::Consistency.judge(budget, r, row)
          warm = r.warm_up
          { id: r.id, load_id: r.document['load_id'], lamp_v: figure(r.volts_figure, "reading/#{r.id}"), amps: r.amps, sigma: r.sigma,
            cold: r.cold_amps, mean: warm.mean,
            settled: figure(r.settled_figure, "reading/#{r.id}/settled"), advice: warm.advice&.to_s, advice_text: warm.reason,
            origin: r.origin.label, law_test: law_test(r, budget, row),
            claim: claim(budget.thing(r.document['load_id'], r.document['choice_id']), r),
            window: window && { verdict: window.verdict.to_s, low: window.low, high: window.high, expected: window.expected,
                                remarks: window.remarks },
            stale: budget.stale?(r, row), counts: r.counts? && !budget.stale?(r, row), problem: r.problem }
        end
      end

      # The law named, with what it means at running volts.
      def law_test(reading, budget, row)
        test = reading.law_test or return nil
        load = Draw::Load.new(id: 'test', name: 'test', document: { 'count' => 1 }, readings: [reading], settings: budget.settings,
          fallback_law: test.law)
        volts = budget.ledgers('before').fetch(budget.circuit_of(row)).circuit.volts
        { law: test.law, exponent: figure(reading.exponent_figure, "reading/#{reading.id}/exponent"), confidence: test.confidence,
          text: test.sentence(reading.amps, volts, load) }
      end

      # Of each load as it came in: which jack and range, what to expect; and the seller's words.
      def plans(budget)
        came_in = budget.entries('before').map(&:row) + budget.with_all_wanted.map(&:row)
        came_in.map do |row|
          load = budget.as_is(row)
          { id: row['id'], wire: load.known? ? load.feed&.words(load.fed) : nil, **planned(load, budget.unread(row['id'])) }
        end
      end

      # The same of each function that a part takes over, whether it is fitted or only tried.
      def parts(budget)
        budget.document.lamps.flat_map do |lamp|
          lamp.parts.flat_map { |choice| lamp.loads.filter_map { |row| part(budget, lamp, choice, row) } }
        end
      end

      def part(budget, lamp, choice, row)
        return if row['brought_by'] && row['brought_by'] != choice['id']

        function = budget.function_of(choice['part'], row)
        return if function && function.fetch('how', 'part') != 'part'

        id = [row['id'], choice['id']]
        load = budget.thing(*id)
        fitted = choice.equal?(lamp.choice)
        volts = budget.ledgers('before')[budget.circuit_of(row)].circuit.volts
        { load_id: row['id'], choice_id: choice['id'], function_id: function && function['id'], name: load.name, fitted: fitted,
          detail: "#{fitted ? 'in place of' : 'tried in place of'} #{row['brought_by'] ? lamp.name : row['name']}",
          figure: figure(load.figure(volts), fitted ? "load/after/#{row['id']}" : nil), **planned(load, budget.unread(*id)) }
      end

      def planned(load, unread) = { plan: Draw::Jack.plan(load, unread: unread).to_h, claim: claim(load) }

      def baseline_item(item, next_step) = item.to_h.merge(call: item.call&.to_h, next: item.at == next_step&.at && !item.done)

      # Where to measure what each circuit earns, and how.
      def points(budget)
        hazard = budget.document.signals['hazard'] == true
        budget.ledgers('before').transform_values do |ledger|
          plan = Budget::PointPlan.new(ledger, budget.document.machine, hazard: hazard)
          { how: plan.how, steps: plan.steps.map { |s| s.to_h.merge(expect_a: figure(s.expect_a)) } }
        end
      end
    end

    StageViews.declare('readings') do |ticket, _look|
      budget = ticket.budget
      next_step = ticket.next_step
      { loads: Present.loads(budget), plans: ReadingsView.plans(budget), parts: ReadingsView.parts(budget),
        readings: ReadingsView.readings(budget),
        sums: SumsView.of(budget), points: ReadingsView.points(budget),
        baseline: Budget::Budget::SIDES.to_h do |side|
          [side, ticket.baseline(side).items.map { |i| ReadingsView.baseline_item(i, next_step) }]
        end }
    end
  end
end
