# frozen_string_literal: true

require_relative '../../stage_views'

module Miser
  module Server
    # The job card as its screen is given it.
    module FitView
      module_function

      # @param card [Card::Card] @return [Hash] as the contract has it
      def all(card, units)
        steps = card.steps
        following = card.next_step
        { steps: steps.each_with_index.map { |s, i| step(card, s, i) }, next: following&.key, total: steps.size, done: card.done,
          minutes: minutes(card), minutes_words: card.minutes_words, quoted: card.work.labour.minutes, tray: tray(card, steps),
          units: units,
          gone: card.gone.map { |r| { step: r['step'], said: r['said'], at: r['at'], by: r['by'] } },
          oddities: card.oddities.map { |o| { step: o.step, text: o.text } }, access: access(card), states: Card::Card::STATES,
          quick_notes: Card::Log::QUICK, points: points(card) }
      end

      def step(card, step, index)
        log = card.log
        tick = log.tick(step.key)
        state = card.state(step)
        { key: step.key, number: index + 1, kind: step.kind, block: step.block, where: step.where, text: step.text, detail: step.detail,
          tool: step.tool,
          cautions: step.cautions, hold: step.hold, held: step.hold ? card.held(step) : nil, minutes: step.minutes, state: state,
          why: step.why, opens: step.opens,
          said: step.said, was: state == 'changed' ? tick['said'] : nil, ticked: tick && { at: tick['at'], by: tick['by'] },
          spent_s: log.spent_s(step.key), notes: notes(log, step),
          photographs: photographs(card).fetch(step.key, []), comes_out: card.tray.of(step.key).map(&:id),
          goes_back: step.back_of ? card.tray.of(step.back_of).map(&:id) : [] }
      end

      # What is left of the tray, with why it is left so.
      def points(card) = card.tray_points.map { |key, text| { key: key, text: text, reason: card.reasons[key] } }

      def notes(log, step) = log.notes(step.key).map { |r| { id: r['id'], text: r['text'].to_s, by: r['by'], at: r['at'] } }

      def photographs(card)
        card.photographs.group_by { |r| r['step'] }.transform_values { |list| list.map { |r| { id: r['id'], name: r['name'] } } }
      end

      def minutes(card)
        [*card.minutes, card.total].map do |m|
          { kind: m.kind, label: Card::Step::KINDS.fetch(m.kind, m.kind), estimate: m.estimate, spent: m.spent, done_estimate: m.done_estimate, untimed: m.untimed }
        end
      end

      def tray(card, steps)
        numbers = steps.each_with_index.to_h { |s, i| [s.key, i + 1] }
        tray = card.tray
        { wide: Card::Tray::WIDE, out: tray.out, back: tray.back, problems: tray.problems,
          cells: tray.cells.map do |c|
            { id: c.id, place: c.place, step: c.step, number: numbers[c.step], name: tray.name(c), beside: tray.beside(c),
              from: c.facts['from'], count: c.count,
              back: c.back, lost: c.lost, left: c.left, over: c.over?, out: tray.out?(c), kept: !c.row.nil?, proposal: c.proposal }
          end }
      end

      # What is got at, and by which template.
      def access(card)
        work = card.work
        work.wanted.map do |what|
          { what: what, label: Card::Template::OPENS.fetch(what), template: work.chosen[what]&.key,
            options: work.access.templates.map { |t| { key: t.key, label: t.label } } }
        end
      end
    end

    StageViews.declare('fit') { |ticket, _look| FitView.all(ticket.stage('fit').card, ticket.units) }
  end
end
