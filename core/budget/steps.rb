# frozen_string_literal: true

module Miser
  module Budget
    # The steps of a conversion, always told apart, so that a saving is seen before it is
    # spent: as it came in, with the lamps changed, with the owner's accessories added.
    module Steps
      # @!attribute key [String] also the side of a ledger @!attribute label [String]
      Step = Struct.new(:key, :label, keyword_init: true)

      TABLE = [
        Step.new(key: 'before', label: 'as it came in'),
        Step.new(key: 'lamps', label: 'lamps changed'),
        Step.new(key: 'after', label: 'accessories added')
      ].freeze
      KEYS = TABLE.map(&:key).freeze
      # The two ends, for what is told of before and after alone.
      ENDS = [KEYS.first, KEYS.last].freeze

      module_function

      # What a step does not differ in from the one before, in words.
      # @param document [Job::Document]
      # @return [Hash{String=>String}] by step
      def same(document)
        changed = document.choices.any? { |c| !%w[keep try].include?(c['action']) } || document.loads.any? { |l| l['added'] } ||
                  document.circuits.any? { |c| c['regulator_after'] }
        wanted = document.loads.select { |l| l['wanted'] }
        { 'lamps' => changed ? nil : 'no lamp changed yet',
          'after' => if wanted.empty? then 'no accessory wanted'
                     else wanted.any? { |l| l['taken'] } ? nil : 'no accessory added yet'
                     end }.compact
      end
    end
  end
end
