# frozen_string_literal: true

require_relative 'cents'

module Miser
  module Buying
    # Whom the shop buys from, and on what terms.
    class Supplier
      # What an order is reduced by. A code takes its share off everything, a category off what belongs to it;
      # an order has one or the other, never both. @!attribute percents [Hash{String=>Numeric}] by category; nil: everything
      Mode = Struct.new(:key, :label, :percents) do
        # @param category [String, nil] @return [Numeric] %
        def percent(category) = percents[nil] || percents[category] || 0
      end
      PLAIN = Mode.new('plain', 'no discount', {}.freeze).freeze

      # @param row [Hash] as the shop keeps it: id, name, shipping_cents, free_over_cents, minimum_cents, lead_days, discounts
      def initialize(row)
        @row = row
      end

      def id = @row['id']
      def name = @row['name']
      def lead_days = @row['lead_days']&.to_i
      def shipping_cents = @row['shipping_cents'].to_i
      def currency = @row['currency']

      # @return [Integer, nil] cents of goods, reduced, from which it ships free
      def free_over = @row['free_over_cents']&.to_i

      # @return [Integer] cents of goods, reduced, under which it takes no order
      def minimum = @row['minimum_cents'].to_i

      # Each code, all categories together, and neither: what is reduced may miss a sum that ships free.
      # @return [Array<Mode>]
      def modes
        @modes ||= begin
          rows = @row['discounts'] || []
          codes = rows.select { |d| d['code'] }.map { |d| Mode.new("code/#{d['code']}", "code #{d['code']}", { nil => d['percent'] }) }
          own = rows.select { |d| d['category'] }.to_h { |d| [d['category'], d['percent']] }
          [*codes, *(own.any? ? [Mode.new('category', "discount on #{own.keys.join(', ')}", own)] : []), PLAIN]
        end
      end

      # @param packs [Integer] @param offer [Offer] @param mode [Mode]
      # @return [Integer] cents of a line, rounded once
      def line_cents(packs, offer, mode)
        whole = packs * offer.cents
        whole - Cents.share(whole, mode.percent(offer.category))
      end
    end
  end
end
