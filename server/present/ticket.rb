# frozen_string_literal: true

require_relative '../../core/miser'
require_relative 'rail'

module Miser
  module Server
    # A ticket on the wire: where it stands, its rail, what an edit changed, its line on the board.
    module Present
      module_function

      # @param counted [Tally]
      # @return [Hash]
      def tally(counted)
        { stages: Stage.all.map { |s| stage(s, counted.stages[s.key]) },
          wants: Stage.all.flat_map { |s| counted.stages[s.key]['wants'] }.map { |w| w.except('weight', 'worth', 'why') },
          next: counted.next_step&.except('weight', 'worth') }
      end

      # It goes out with every edit: what is as usual is not said.
      def stage(kind, stands)
        { stage: kind.key, label: kind.label, group: kind.group, state: stands['state'], missing: stands['missing'],
          needed: stands['needed'] ? nil : false }.compact
      end

      # @param saved [Store::Jobs::Saved] @param ticket [Ticket] @param counted [Tally]
      # @return [Hash] the whole of a job, as a window opens it
      def job(saved, ticket, counted, **look) = { document: saved.document, **stand(saved, ticket, counted, **look) }

      # @return [Hash] what a save made of a job, and what it stands at since
      def change(saved, ticket, counted, **look)
        { changes: Job::Difference.between(saved.was || saved.document, saved.document), **stand(saved, ticket, counted, **look) }
      end

      def stand(saved, ticket, counted, **look)
        { revision: saved.revision, can_undo: !saved.back.nil?, can_redo: !saved.forth.nil?, ticket: tally(counted),
          problems: counted.problems, rail: rail(ticket.budget, **look) }
      end

      # One machine on the bay board: what it keeps in its first scenario.
      # @return [Hash]
      def bay(ticket, counted)
        document = ticket.document
        budget = ticket.budget
        first = budget.scenarios.first
        lines = Budget::Budget::SIDES.to_h { |side| [side, first && budget.ledgers(side).values.first.line(first)] }
        keeps = lines.transform_values { |l| figure(l ? l.keeps : Figure.unknown('A', 'no scenario')) }
        machine(document).merge(
          scenario: first&.name,
          before: keeps['before'], after: keeps['after'], verdict: lines['after']&.verdict, verdict_before: lines['before']&.verdict,
          **counted.stages.dig('order', 'cost').transform_keys(&:to_sym), next: counted.next_step&.except('weight', 'worth'),
          stages: Stage.all.map { |s| { stage: s.key, label: s.label, state: counted.stages[s.key]['state'] } },
          flags: ticket.flags.select(&:serious?).map { |f| flag(f) }
        )
      end

      # The line of a machine that the program fails at: its name, and that nothing is known.
      # @param document [Job::Document]
      # @return [Hash]
      def bay_without_figures(document)
        unknown = figure(Figure.unknown('A', 'Miser made a mistake with this machine; it is written in its log'))
        machine(document).merge(
          scenario: nil, before: unknown, after: unknown, verdict: nil, verdict_before: nil, cents: nil, at_least: true, prices: nil,
          next: { stage: Stage.all.first.key, at: '/machine', text: 'not known: it can’t be figured' }, stages: [], flags: []
        )
      end

      def machine(document)
        { id: document.id, name: document.name, bay: document.bay, fleet: document.fleet, model: document.machine['model'],
          kind: document.machine['kind'],
          waiting: [document.waiting, Buying::Purchases.new(document).waits].compact.join('; ').then { |text| text.empty? ? nil : text } }
      end

      def flag(flag)
        { key: flag.key, level: flag.level, serious: flag.serious?, side: flag.side, text: flag.text, cure: flag.cure, short: flag.short }
      end

      # What the stages say of loads: each with its figures on either side.
      # @return [Array<Hash>]
      def loads(budget)
        sides = Budget::Budget::SIDES.to_h { |side| [side, budget.entries(side).to_h { |e| [e.id, e] }] }
        wanted = budget.with_all_wanted.to_h { |e| [e.id, e] }
        budget.document.loads.map do |row|
          before, after = sides.values.map { |entries| entries[row['id']] }
          # What only a part tried would bring stands on neither side.
          entry = after || before || wanted[row['id']] || Miser::Budget::Entry.new(row, budget.as_is(row))
          load = (before || entry).load
          { id: row['id'], before: before && figure(budget.load_figure('before', row['id']), "load/before/#{row['id']}"),
            after: after && figure(budget.load_figure('after', row['id']), "load/after/#{row['id']}"),
            kind: entry.kind,
            law_label: Draw::Law.named(load.law_key).label, filament: budget.as_is(row).rated_filament&.name,
            origin: load.anchor&.origin&.label, measured: load.measured? || false }
        end
      end

      # What the seller says, held against itself and against the reading.
      # @return [Hash, nil]
      def claim(load, reading = load&.reading)
        claim = load&.claim
        return nil unless claim && (claim.watts || claim.lumens || claim.limits.any?)

        range = load.claimed_w
        { watts: claim.watts, low_w: range&.first, high_w: range&.last, findings: claim.findings.map(&:to_h),
          beside: reading&.counts? && reading.volts ? claim.beside(reading.amps * reading.volts) : nil }
      end

      # @return [Array<Hash>] charging circuits as they are known
      def circuits(budget)
        budget.ledgers('after').values.map(&:circuit).map do |c|
          path = "circuit/#{c.id}"
          { id: c.id, name: c.name, kind: c.kind, volts: figure(c.volts_figure, "#{path}/volts"),
            i_inf: figure(c.i_inf_figure, "#{path}/i_inf"),
            cut_in: figure(c.cut_in_figure, "#{path}/cut_in"), basis: c.curve && c.basis_words, remarks: c.remarks, reason: c.reason }
        end
      end

      # @param judged [Budget::Accessories::Judged]
      def accessory(judged)
        worst = judged.worst&.merge(keeps: figure(judged.worst[:keeps], "accessory/#{judged.load_id}"),
          above_rpm: figure(judged.worst[:above_rpm]))
        { load_id: judged.load_id, name: judged.name,
          amps: judged.amps ? figure(judged.amps, "load/wanted/#{judged.load_id}") : figure(Figure.unknown('A', judged.reason)),
          fits: judged.fits, reason: judged.reason, worst: worst }
      end
    end
  end
end
