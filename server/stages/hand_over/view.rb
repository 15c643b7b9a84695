# frozen_string_literal: true

require_relative '../../stage_views'
require_relative '../budget/view'
require_relative '../beam/present'
require_relative '../choose/view'

module Miser
  module Server
    # The sheet that goes with the machine.
    module HandOverView
      module_function

      # Lamps with another part, or none.
      def changed(ticket)
        lamps = ticket.document.lamps.select { |l| l.choice && l.choice['action'] != 'keep' }
        lamps.map { |l| ChooseView.lamp(ticket.budget, l).slice(:id, :name, :count, :part, :functions) }.each do |row|
          row[:functions] = row[:functions].map { |f| f.slice(:word, :before, :after) }
        end
      end
    end

    module HandOverView
      # Stages whose needs the rider is told of beside the parts themselves: not what they are wired with.
      TOLD = %w[headlight signals order].freeze

      def self.beside(ticket)
        told = ticket.needs.select { |n| n.part_id.nil? && n.why.any? { |w| TOLD.include?(w.stage) } }
        told.map { |n| { name: n.name, count: n.total, for: n.for } }
      end
    end

    StageViews.declare('hand_over') do |ticket, _look|
      sheet = Verdicts::HandOver.new(ticket)
      budget = ticket.budget
      { circuits: Present.circuits(budget), scenarios: budget.scenarios.map { |s| BudgetView.scenario(budget, s) },
        loads: Present.loads(budget), changed: HandOverView.changed(ticket),
        beside: HandOverView.beside(ticket),
        bill: { cents: ticket.list.cents + ticket.purchases.cents, unpriced: ticket.list.unpriced }, must_know: sheet.must_know,
        left_open: sheet.left_open.points.map(&:to_h), beam: sheet.beam(ticket.units),
        pictures: sheet.pictures.keys.filter_map { |kind| BeamView.pictures(ticket.beams, kind) } }
    end
  end
end
