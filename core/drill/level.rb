# frozen_string_literal: true

require_relative 'complaint'
require_relative 'case'

module Miser
  module Drill
    # How hard a drill is, and how good whoever plays: on one scale of logits, as in the model of Rasch (Probabilistic Models for Some
    # Intelligence and Attainment Tests, 1960): who stands as high as a drill solves it every second time.
    module Level
      # Bits to gain and likeness of signs, in logits: assumption.
      AT_NO_BITS = -2.4
      A_BIT = 0.75
      ALIKE = 1.6
      # What a second fault adds.
      SECOND = 1.0
      # Levels by where each begins.
      BOUNDS = [-Float::INFINITY, -1.0, 0.0, 1.0, 2.0].freeze
      NAMES = ['plain', 'usual', 'needs the meter', 'tricky', 'nasty'].freeze
      # How often a drill should be solved.
      GOAL = 2.0 / 3
      # Where a learner begins, and how far one drill moves him at first and in the long run: assumption.
      BEGINS = -1.0
      MOVES = 0.9
      LEAST_MOVE = 0.25

      module_function

      # @param cases [Array<Array(Case, Integer)>] each part with something wrong in it, and which suspect it is
      # @return [Float] logits
      def difficulty(cases)
        each = cases.map { |kase, index| AT_NO_BITS + (A_BIT * kase.bits) + (ALIKE * kase.likeness(index)) }
        each.max + (SECOND * (cases.size - 1))
      end

      # Levels as bands of the scale; the outermost end a logit beyond their bound.
      # @return [Array<Hash>] level, label, from, to
      def bands
        ends = [BOUNDS[1] - 1, *BOUNDS.drop(1), BOUNDS.last + 1]
        NAMES.each_with_index.map { |label, i| { level: i + 1, label: label, from: ends[i], to: ends[i + 1] } }
      end

      # @return [Integer] 1 to 5
      def of(difficulty) = BOUNDS.rindex { |b| difficulty >= b } + 1

      # @return [Float] chance that it is solved
      def chance(ability, difficulty) = 1 / (1 + Math.exp(difficulty - ability))

      # @param ability [Float] @return [Float] difficulty of which the goal's share is solved
      def aim(ability) = ability - Math.log(GOAL / (1 - GOAL))

      # Where a learner stands after each of his drills, by what was expected of it.
      # @param results [Array<Array(Float, Boolean)>] difficulty, and whether it was solved
      # @return [Array<Float>] the first before any
      def abilities(results)
        results.each_with_index.inject([BEGINS]) do |list, ((difficulty, solved), n)|
          step = [MOVES / Math.sqrt(n + 1), LEAST_MOVE].max
          list << (list.last + (step * ((solved ? 1 : 0) - chance(list.last, difficulty))))
        end
      end
    end
  end
end
