# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/glpsol'
require_relative '../support/other_machines'
require_relative '../../core/plan/linear'
require_relative '../../core/plan/work'
require_relative '../../formats/linear_program'
require_relative '../../speed/plan_instances'

# The selection problem solved by GLPK, a published solver of mixed integer problems, from the files that Miser writes.
class PlanCheck < Miser::Test
  include Miser::OtherMachines

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

  # Machines and wishes of chance, by every aim: the optimum is the same, and where there is none there is none.
  def test_any_wish_for_any_machine
    random = Random.new(ENV.fetch('MACHINES', 11).to_i)
    answers = Array.new(6) { any_wish(random).then { |wish| optima(other_machine(random, wish), random.rand(1..6)) } }
    # Accessories that nothing feeds, and every one wanted.
    answers << optima(Miser::Cli::DemoData.documents.find { |d| d['id'] == 'ptarmigan550' }.merge('plan' => { 'carry_all' => true }), 30)
    assert_nil answers.last.first
    answers.each do |ours, theirs, told|
      theirs ? assert_in_delta(theirs, ours, 1e-4 * [1, theirs.abs / 100].max, told) : assert_nil(ours, told)
    end
  end

  # @return [Array(Float, Float, String)] by the aim: ours, GLPK's, and of what
  def optima(document, days)
    work = Miser::Plan::Work.new(Miser::Ticket.new(document, catalogue: CATALOGUE, market: MARKET), MARKET.parts, days: lambda { |_|
      days
    }).tap(&:look)
    problem = work.problem.with_fixed_margins
    best = Miser::Plan::Search.new(problem, work.conditions, work.aim).run.best
    text = Miser::Formats::LinearProgram.lp(Miser::Plan::Linear.new(problem, work.conditions, work.aim), 'any')
    [best&.value, Miser::Glpsol.optimum(text, 'lp'), "#{document['id']} #{document['plan']}"]
  end
end
