# frozen_string_literal: true

module Miser
  module Buying
    # What the work still waits for: articles that nobody ordered or took from the shelf, and orders that have not come.
    class Outstanding
      UNORDERED = 'order/unordered'
      WAITS = 'order/waits'
      # More names than these are counted.
      MOST_NAMED = 6

      # @param wanting [Array<Need>] what is still to be had @param purchases [Purchases] what was ordered
      def initialize(wanting, purchases)
        @wanting = wanting
        @purchases = purchases
      end

      # @return [Array<Array(String, String)>] key of an open point, and its words
      def points = [unordered, waits].compact

      private

      def unordered
        names = @wanting.map(&:name).uniq
        return if names.empty?

        more = names.size - MOST_NAMED
        named = names.first(MOST_NAMED).join(', ')
        [UNORDERED, "Neither ordered nor taken from the shelf: #{named}#{", and #{more} more" if more.positive?}."]
      end

      def waits
        words = @purchases.waits
        words && [WAITS, "Waits for #{words}."]
      end
    end
  end
end
