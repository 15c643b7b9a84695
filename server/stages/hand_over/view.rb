# frozen_string_literal: true

require_relative '../../stage_views'
require_relative '../budget/view'
require_relative '../checks/present'

module Miser
  module Server
    StageViews.declare('hand_over') do |ticket, _look|
      sheet = Verdicts::HandOver.new(ticket)
      budget = ticket.budget
      { circuits: Present.circuits(budget), scenarios: budget.scenarios.map { |s| BudgetView.scenario(budget, s) },
        loads: Present.loads(budget),
        bill: { cents: ticket.bill.cents, unpriced: ticket.bill.unpriced }, must_know: sheet.must_know,
        left_open: sheet.left_open.points.map(&:to_h), beam: sheet.beam(ticket.units),
        pictures: sheet.pictures.keys.filter_map { |kind| ChecksView.pictures(ticket.beams, kind) } }
    end
  end
end
