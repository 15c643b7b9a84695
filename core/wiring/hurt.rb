# frozen_string_literal: true

module Miser
  module Wiring
    # What is wrong with a wiring, as changes of its circuit. Two alike are one, so that what was solved is found again.
    # @!attribute ohms [Hash{String=>Float}] Ω more in a part, by its name in the circuit
    # @!attribute joins [Array<Array(String, String, Float)>] nodes that touch, or that a lead is clipped between, and its Ω
    # @!attribute dead [Array<String>] loads that let nothing through @!attribute welded [Array<String>] loads whose relay never lets go
    Hurt = Struct.new(:ohms, :joins, :dead, :welded, keyword_init: true) do
      def initialize(ohms: {}, joins: [], dead: [], welded: []) = super

      # @param other [Hurt] @return [Hurt] both
      def +(other)
        self.class.new(ohms: ohms.merge(other.ohms) { |_, a, b| a + b }, joins: joins + other.joins, dead: (dead + other.dead).uniq.sort,
          welded: (welded + other.welded).uniq.sort)
      end
    end
    Hurt::NONE = Hurt.new.freeze
  end
end
