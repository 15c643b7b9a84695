# frozen_string_literal: true

require_relative '../level'
require_relative '../made_up'

module Miser
  module Drill
    # A short drill: figures of a made-up machine, something asked of them, an answer that the core works out and judges.
    class Question
      # What is asked for. @!attribute options [Array<Array(String, String)>, nil] key and words; nil for a figure
      # @!attribute unit [String, nil]
      Field = Struct.new(:id, :label, :options, :unit, keyword_init: true)
      # @!attribute right [Boolean] @!attribute words [Array<String>] why @!attribute truth [Hash{String=>String, Float}] by field
      # @!attribute score [Float] 0 to 1
      Verdict = Struct.new(:right, :words, :truth, :score, keyword_init: true) do
        # @return [String]
        def says = right ? 'Right.' : 'Not so.'
      end

      REGISTRY = {} # rubocop:disable Style/MutableConstant -- filled by the questions as they load

      class << self
        attr_reader :key, :title

        # @param key [String] @param title [String]
        def declare(key, title)
          @key = key
          @title = title
          REGISTRY[key] = self
        end
      end

      attr_reader :level

      # @param random [#rand] chance, from a seed @param level [Integer] 1 to 5
      def initialize(random, level)
        @random = random
        @level = level
        set_up
      end

      # @return [String]
      def ask = raise(NotImplementedError)

      # @return [Array<String>] heads of the columns
      def columns = []

      # @return [Array<Array<String>>] what is given
      def rows = []

      # @return [Array<Field>]
      def fields = []

      # @param answer [Hash{String=>String, Float}] by field
      # @return [Verdict] @raise [UnknownName] where a field is missing or has no such option
      def judge(answer)
        fields.each do |f|
          given = answer[f.id]
          next if f.options.nil? && given.is_a?(Numeric)

          known = f.options ? f.options.map(&:first) : ['a figure']
          raise UnknownName.new(what: f.label, given: given, known: known) unless f.options && known.include?(given)
        end
        verdict(answer)
      end

      # @return [Float] logits
      def difficulty = HARD.fetch(level - 1)
      # In the middle of each level.
      HARD = [-1.4, -0.5, 0.5, 1.4, 2.3].freeze
      private_constant :HARD

      private

      def pick(list) = list[@random.rand(list.size)]
      def between(low, high) = low + ((high - low) * @random.rand(1001) / 1000.0)
      def shuffled(list) = list.sort_by { @random.rand }
      def amps(value) = format('%.2f', value)
    end
  end
end
