# frozen_string_literal: true

require_relative 'maker'
require_relative 'questions'

module Miser
  module Drill
    # A drill by its code, which can be handed to another: `fault.made-up.3.4711`, `fault.JOB.3.4711`, `slips.3.4711`. The same code is
    # the same drill wherever that machine is known.
    class Code
      FAULT = 'fault'
      MADE_UP = 'made-up'
      LEVELS = (1..Level::NAMES.size)
      SEEDS = (0..2_147_483_647)

      attr_reader :kind, :machine, :level, :seed

      # @param kind [String] FAULT or a question's @param machine [String, nil] id of a job; nil: one that nobody has
      def initialize(kind:, level:, seed:, machine: nil)
        @kind = kind
        @machine = machine
        @level = level
        @seed = seed
      end

      # @return [Array<String>] kinds there are
      def self.kinds = [FAULT, *Question::REGISTRY.keys]

      # @param text [String] @return [Code]
      # @raise [UnknownName] where it is none
      def self.read(text)
        kind, *middle, level, seed = text.to_s.strip.split('.')
        good = kinds.include?(kind) && middle.size == (kind == FAULT ? 1 : 0) && number?(level, LEVELS) && number?(seed, SEEDS)
        raise UnknownName.new(what: 'drill', given: text.to_s[0, 60], known: SUCH) unless good

        new(kind: kind, level: level.to_i, seed: seed.to_i, machine: middle.first == MADE_UP ? nil : middle.first)
      end

      SUCH = ["#{FAULT}.#{MADE_UP}.3.4711", 'slips.2.99', 'and the like'].freeze
      private_constant :SUCH

      def self.number?(text, range) = /\A\d{1,10}\z/.match?(text.to_s) && range.cover?(text.to_i)
      private_class_method :number?

      def fault? = kind == FAULT

      def to_s = [kind, *(fault? ? [machine || MADE_UP] : []), level, seed].join('.')

      # @param random [#rand] chance of its seed @param document [Hash, nil] of the machine it names
      # @return [Exercise, Question]
      # @raise [NothingToHide]
      def make(random, document = nil)
        return Question::REGISTRY.fetch(kind).new(random, level) unless fault?

        Maker.new(Machine.new(document || MadeUp.new(random).document)).make(level, random)
      end
    end
  end
end
