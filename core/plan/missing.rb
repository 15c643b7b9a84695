# frozen_string_literal: true

module Miser
  module Plan
    # What a sum of money and a sum of minutes do not have in them: they are then what the work comes to at least.
    class Missing
      # @param unpriced [Array<String>] names of what nobody has a price for
      # @param labour [Labour] @param rate_cents [Integer, nil] an hour of work; nil where the shop has not said
      def initialize(unpriced, labour, rate_cents)
        @unpriced = unpriced
        @labour = labour
        @rate_cents = rate_cents
      end

      # @return [Array<String>] from the money
      def words
        hour = @rate_cents.nil? && @labour.minutes.positive? ? ['work: an hour has no price'] : []
        [*@unpriced.map { |name| "#{name}: no price" }, *times, *hour]
      end

      # @return [Array<String>] from the minutes
      def times = @labour.untimed.map { |name| "#{name}: time not known" }
    end
  end
end
