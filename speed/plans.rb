# frozen_string_literal: true

require_relative 'plan_instances'
require_relative '../core/plan/linear'
require_relative '../formats/linear_program'
require_relative '../test/support/glpsol'

module Miser
  module Speed
    # The best plan of selection problems made by chance, beside GLPK's solver on the same problems as files; each starts
    # with what it is given and ends with the optimum.
    class Plans
      SMALL = (1..40)
      LARGE = (1..6)
      # Steps after which the large ones are left, with how far off they may be.
      STEPS = 1_500_000

      def run
        rows = SMALL.map { |seed| pair(small(seed)) }
        rows = SMALL.map { |seed| pair(small(seed)) } if rows.first # The first round warms up.
        ours, theirs = rows.transpose.map { |times| times.sort[times.size / 2] }
        puts format('plans: %<n>d problems of 5 to 7 things, 4 parts each, median %<ours>.0f ms; glpsol on the same %<theirs>.0f ms   ratio %<ratio>.2f   ' \
                    '(aim: 1 or under)', n: rows.size, ours: ours * 1000, theirs: theirs * 1000, ratio: ours / theirs)
        large
      end

      private

      def small(seed)
        PlanInstances.problem(seed, groups: 5 + (seed % 3), parts: 4, suppliers: 2 + (seed % 2)).with_margins(0 => 0.8)
      end

      def conditions = Plan::Conditions.new(keeps: [0])

      def timed
        start = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        found = yield
        [Process.clock_gettime(Process::CLOCK_MONOTONIC) - start, found]
      end

      def pair(problem)
        aim = Plan::Aim.new('money')
        ours, search = timed { Plan::Search.new(problem, conditions, aim).run }
        text = Formats::LinearProgram.mps(Plan::Linear.new(problem, conditions, aim), 'bench')
        theirs, optimum = timed { Glpsol.optimum(text, 'mps') }
        raise "the optimum is #{optimum}, not #{search.best&.cents}" unless optimum&.round == search.best&.cents

        [ours, theirs]
      end

      def large
        LARGE.each do |seed|
          problem = PlanInstances.problem(seed, groups: 12, parts: 12, suppliers: 4).with_margins(0 => 1.0)
          aim = Plan::Aim.new('money')
          ours, search = timed { Plan::Search.new(problem, conditions, aim).run(STEPS) }
          theirs, optimum = timed { Glpsol.optimum(Formats::LinearProgram.mps(Plan::Linear.new(problem, conditions, aim), 'bench'), 'mps') }
          puts format('  12 things, 12 parts each, 4 suppliers, no. %<seed>d: %<ours>.1f s, %<words>s; glpsol %<theirs>.1f s, %<optimum>d', seed: seed,
            ours: ours, theirs: theirs, optimum: optimum.round,
            words: search.done? ? "proved best, #{search.best.cents}" : "#{search.best.cents}, off by #{search.gap.ceil} at most, left after #{STEPS} steps")
        end
      end
    end
  end
end
