# frozen_string_literal: true

require_relative '../../core/miser'
require_relative 'budget'

module Miser
  module Server
    # A job with everything computed from it.
    module Present
      module_function

      # @param saved [Store::Jobs::Saved]
      # @return [Hash]
      def job(saved, scenario: nil, circuit: nil)
        budget = Budget::Budget.new(saved.document)
        ticket = Ticket.new(budget)
        { document: saved.document, revision: saved.revision, can_undo: !saved.back.nil?, can_redo: !saved.forth.nil?, stages: ticket.stages,
          missing: ticket.missing.map(&:to_h), problems: Job::Consistency.new(budget).problems.map(&:to_h), readings: readings(budget), loads: loads(budget),
          baseline: Budget::Budget::SIDES.to_h { |side| [side, Baseline.new(budget, side).items.map { |i| baseline_item(i) }] }, points: points(budget), bill: bill(saved.document),
          aim: aim(saved.document), budget: budget(budget, scenario: scenario, circuit: circuit) }
      end

      # One machine on the bay board.
      # @return [Hash]
      def bay(saved)
        budget = Budget::Budget.new(saved.document)
        ticket = Ticket.new(budget)
        document = saved.document
        idle = document['scenarios'].first
        lines = Budget::Budget::SIDES.to_h { |side| [side, idle && budget.ledgers(side).values.first.line(budget.scenario(idle['id']))] }
        keeps = lines.transform_values { |l| figure(l ? l.keeps : Figure.unknown('A', 'no scenario')) }
        { id: document['id'], name: document['name'], bay: document['bay'], fleet: document['fleet'], kind: document.dig('machine', 'kind'), waiting: document['waiting'],
          before: keeps['before'], after: keeps['after'], verdict: lines['after']&.verdict, verdict_before: lines['before']&.verdict,
          next: ticket.next_step&.to_h, stages: ticket.stages, flags: budget.flags.reject { |f| f.level == 'note' }.map { |f| flag(f) } }
      end

      def bill(document) = Bill.new(document).then { |b| { cents: b.cents, unpriced: b.unpriced } }

      def baseline_item(item) = item.to_h.merge(call: item.call&.to_h)

      AIM_FIGURES = %i[drop height pitch drop_unladen inclination turns restore].freeze

      def aim(document)
        aim = Beam::Aim.new(document['aim'] || {}, Assumptions.new(document['assumptions'] || {}))
        AIM_FIGURES.to_h { |name| [name, figure(aim.public_send(name), "aim/#{name}")] }
                   .merge(school: aim.school.key, target: aim.school.target, source: aim.school.source,
                          limits: aim.limits, pitch_degrees: aim.pitch_degrees, verdict: aim.verdict, thread_slips: aim.thread_slips)
      end

      # Where to measure what each circuit earns.
      def points(budget)
        budget.ledgers('before').transform_values do |ledger|
          Budget::PointPlan.new(ledger, budget.document['machine'] || {}).steps.map { |s| s.to_h.merge(expect_a: figure(s.expect_a)) }
        end
      end

      def readings(budget)
        rows = budget.document['loads'].to_h { |l| [l['id'], l] }
        budget.readings.map do |r|
          row = rows[r.document['load_id']]
          window = Job::Consistency.judge(budget, r, row)
          warm = r.warm_up
          { id: r.id, load_id: r.document['load_id'], lamp_v: figure(r.volts_figure, "reading/#{r.id}"), amps: r.amps, sigma: r.sigma, cold: r.cold_amps, mean: warm.mean,
            settled: figure(r.settled_figure, "reading/#{r.id}/settled"), advice: warm.advice&.to_s, advice_text: warm.reason, origin: r.origin.label, law_test: law_test(r, budget, row),
            claim: claim(budget.thing(r.document['load_id'], r.document['choice_id']), r),
            window: window && { verdict: window.verdict.to_s, low: window.low, high: window.high, expected: window.expected, remarks: window.remarks },
            stale: budget.stale?(r, row), problem: r.problem }
        end
      end

      # The law named, with what it means at running volts.
      def law_test(reading, budget, row)
        test = reading.law_test or return nil
        load = Draw::Load.new(id: 'test', name: 'test', document: { 'count' => 1 }, readings: [reading], settings: budget.settings, fallback_law: test.law)
        volts = budget.ledgers('before').fetch(row['circuit']) { budget.ledgers('before').values.first }.circuit.volts
        text = format('%<law>s. At %<volts>.1f V it will draw %<amps>.2f A, not %<bench>.2f.',
                      law: Draw::Law.named(test.law).label, volts: volts, amps: load.amps(volts), bench: reading.amps)
        { law: test.law, exponent: figure(reading.exponent_figure, "reading/#{reading.id}/exponent"), confidence: test.confidence, text: text }
      end

      def loads(budget)
        before = budget.entries('before').to_h { |e| [e.id, e] }
        after = budget.entries('after').to_h { |e| [e.id, e] }
        wanted = budget.with_all_wanted.to_h { |e| [e.id, e] }
        budget.document['loads'].map do |row|
          load_row(budget, row, before[row['id']], after[row['id']], wanted[row['id']])
        end
      end

      def load_row(budget, row, before, after, wanted)
        load = (before || after || wanted).load
        chosen = after&.choice && after.load
        { id: row['id'], before: before && figure(budget.figure("load/before/#{row['id']}"), "load/before/#{row['id']}"),
          after: after && figure(budget.figure("load/after/#{row['id']}"), "load/after/#{row['id']}"), kind: (after || before || wanted).kind,
          law: load.law_key, law_label: Draw::Law.named(load.law_key).label, law_origin: load.law_origin, origin: load.anchor&.origin&.label, measured: load.measured? || false,
          expect: Draw::Jack.words(load), plan: plan(load), claim: claim(load), plan_after: chosen && plan(chosen), claim_after: chosen && claim(chosen) }
      end

      def plan(load) = Draw::Jack.plan(load).to_h

      # What the seller says, held against itself and against the reading.
      def claim(load, reading = load&.reading)
        claim = load&.claim
        return nil unless claim && (claim.watts || claim.lumens || claim.limits.any?)

        range = load.claimed_w
        { watts: claim.watts, low_w: range&.first, high_w: range&.last, findings: claim.findings.map(&:to_h),
          beside: reading&.usable? && reading.volts ? claim.beside(reading.amps * reading.volts) : nil }
      end
    end
  end
end
