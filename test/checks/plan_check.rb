# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/glpsol'
require_relative '../../core/plan/linear'
require_relative '../../core/plan/work'
require_relative '../../formats/linear_program'
require_relative '../../speed/plan_instances'

# The selection problem solved by GLPK, a published solver of mixed integer problems, from the files that Miser writes.
class PlanCheck < Miser::Test
  RANDOM = 55

  def compare(name, problem, conditions, format)
    aim = Miser::Plan::Aim.new('money')
    ours = Miser::Plan::Search.new(problem, conditions, aim).run.best
    theirs = Miser::Glpsol.optimum(
      Miser::Formats::LinearProgram.public_send(format, Miser::Plan::Linear.new(problem, conditions, aim), name), format
    )
    theirs ? assert_equal(theirs.round, ours.cents, name) : assert_nil(ours, name)
    theirs
  end

  def test_sixty_problems_to_the_cent
    solved = (1..RANDOM).count do |seed|
      size = { groups: 4 + (seed % 4), parts: 4, suppliers: 1 + (seed % 3), scenarios: 1 + (seed % 2) }
      problem = Miser::Speed::PlanInstances.problem(seed, **size).with_margins(0 => 0.8, 1 => 0.4)
      conditions = Miser::Plan::Conditions.new(keeps: (0..(seed % 2)).to_a, minutes: (seed % 3).zero? ? 160 : nil, heat: (seed % 5).zero?,
        no_cuts: (seed % 4).zero?, by_days: (seed % 7).zero? ? 6 : nil, money_cents: (seed % 6).zero? ? 40_000 : nil)
      compare("random #{seed}", problem, conditions, seed.odd? ? 'mps' : 'lp')
    end
    assert_operator solved, :>, 30
    machines = Miser::Cli::DemoData.documents.count do |document|
      ticket = Miser::Ticket.new(document.merge('plan' => { 'carry_all' => document['id'] != 'ptarmigan550', 'keeps' => [] }),
        catalogue: CATALOGUE, market: MARKET)
      work = Miser::Plan::Work.new(ticket, MARKET.parts, days: ->(_) { 30 }).tap(&:look)
      compare(document['id'], work.problem.with_fixed_margins, work.conditions, 'mps')
    end
    assert_equal 5, machines
  end
end
