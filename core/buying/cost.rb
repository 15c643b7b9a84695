# frozen_string_literal: true

require_relative 'cents'

module Miser
  module Buying
    # What a job's parts come to: what is still to be had at today's best order, and what was ordered as it was priced then.
    # @!attribute cents [Integer] of what has a price, shipping with it
    # @!attribute unpriced [Array<String>] names of what has none
    Cost = Struct.new(:cents, :unpriced, keyword_init: true) do
      # @param list [List] @param purchases [Purchases]
      # @return [Cost]
      def self.of(list, purchases)
        new(cents: list.cents + purchases.cents, unpriced: (list.unpriced + purchases.unpriced).uniq)
      end

      # @return [Boolean] whether it comes to more, by what nobody knows
      def at_least? = unpriced.any?
    end
  end
end
