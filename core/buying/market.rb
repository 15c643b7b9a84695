# frozen_string_literal: true

require_relative 'offer'
require_relative 'supplier'

module Miser
  module Buying
    # What can be had, from whom, at what price, and what lies on the shelf: the shop's side of an order, as it
    # stands at one moment.
    class Market
      # Percent, whether prices have it in them, cents an hour, days a quote holds, what stands at the head of paper.
      MONEY = { 'currency' => nil, 'tax_percent' => 0, 'tax' => 'included', 'rate_cents' => nil, 'quote_days' => 30,
                'heading' => nil }.freeze

      # @param suppliers [Array<Hash>] @param parts [Array<Hash>] of the shelf, those that are offered
      # @param prices [Array<Hash>] part_id, supplier_id, article, name, cents, pack, lead_days, category
      # @param stock [Hash{String=>Integer}] pieces on the shelf, by part
      # @param money [Hash] see MONEY @param reorder [Hash{String=>Integer}] pieces at which a part is to be bought again
      def initialize(suppliers: [], parts: [], prices: [], stock: {}, money: {}, reorder: {})
        @suppliers = suppliers.to_h { |row| [row['id'], Supplier.new(row)] }
        @parts = parts.to_h { |part| [part['id'], part] }
        @listed = prices.group_by { |row| row['part_id'] }
        @stock = stock
        @reorder = reorder
        @money = MONEY.merge(money.compact)
        @by_use = parts.group_by { |part| part['use'] || part['box'] }.except(nil)
      end

      attr_reader :money

      # @return [Numeric] percent put on top of prices; none where they have it in them
      def tax_on_top = money['tax'] == 'added' ? money['tax_percent'] : 0

      # @return [String, nil] ISO 4217; all sums are in it: the shop's, else that of the first supplier who has one
      def currency = money['currency'] || suppliers.filter_map(&:currency).first

      # Suppliers who ask in another currency: no sum goes across two, so what they ask is left out.
      # @return [Array<Supplier>]
      def foreign = @foreign ||= suppliers.select { |s| s.currency && s.currency != currency }

      # @return [Array<String>] whose prices are left out, and why
      def left_out
        foreign.map { |s| "#{s.name} asks in #{s.currency}. Sums here are in #{currency}, and no rate between the two is kept: its prices are left out." }
      end

      # @param need [Need] @return [Array<String>] currencies that it has a price in, and that are left out
      def other_currencies(need)
        fitting(need).flat_map { |part| @listed[part['id']] || [] }.filter_map { |row| foreign.find { |s| s.id == row['supplier_id'] }&.currency }.uniq
      end

      # Parts of which no more lie on the shelf than they are to be bought again at.
      # @return [Array<Array(Hash, Integer, Integer)>] part, pieces, and at how many
      def low
        @reorder.filter_map { |id, least| @parts[id] && stock_of(id) <= least ? [@parts[id], stock_of(id), least] : nil }
      end

      # @return [Array<Supplier>]
      def suppliers = @suppliers.values

      # @return [Supplier, nil]
      def supplier(id) = @suppliers[id]

      # @return [Hash, nil] a part of the shelf
      def part(id) = @parts[id]

      # @return [Array<Hash>] of the shelf
      def parts = @parts.values

      # @param need [Need]
      # @return [Array<Offer>] of all that would do
      def offers(need) = fitting(need).flat_map { |part| offers_of(part) }.then { |list| list.empty? ? own(need) : list }

      # @param need [Need] @return [Integer] pieces on the shelf of all that would do
      def on_hand(need) = fitting(need).sum { |part| stock_of(part['id']) }

      # @param part_id [String] @return [Integer] pieces on the shelf, none where it owes some
      def stock_of(part_id) = [@stock[part_id].to_i, 0].max

      # Parts of the shelf that meet a need: that very part, or what is bought for that use.
      # @return [Array<Hash>]
      def fitting(need)
        return [@parts[need.part_id]].compact if need.part_id

        of_use = @by_use[need.use] || []
        sized = need.size ? of_use.select { |part| part['use_size'] == need.size } : []
        sized.empty? ? of_use.reject { |part| part['use_size'] } : sized
      end

      # The least that a piece is to be had for.
      # @param need [Need] @return [Integer, nil] cents; nil where nobody says
      def unit_cents(need) = offers(need).map(&:each).min&.round(half: :up)

      # @param use [String] @return [Integer, nil] cents of a piece, of any size
      def use_cents(use) = (@by_use[use] || []).flat_map { |part| offers_of(part) }.map(&:each).min&.round(half: :up)

      private

      def offers_of(part)
        listed = (@listed[part['id']] || []).filter_map { |row| offer(row, part) if asked?(row['supplier_id']) }
        listed.empty? ? said(part) : listed
      end

      def asked?(id) = @suppliers.key?(id) && foreign.none? { |s| s.id == id }

      def offer(row, part)
        Offer.new(supplier_id: row['supplier_id'], article: row['article'], part_id: part['id'], name: row['name'] || part['name'],
          pack: (row['pack'] || part['pack'] || 1).to_i, cents: row['cents'].to_i,
          lead_days: row['lead_days']&.to_i || @suppliers[row['supplier_id']].lead_days, category: row['category'] || part['category'])
      end

      # A part with a price and no supplier.
      def said(part)
        return [] unless part['price_cents']

        [Offer.new(part_id: part['id'], name: part['name'], pack: (part['pack'] || 1).to_i, cents: part['price_cents'].to_i,
          category: part['category'])]
      end

      def own(need)
        return [] unless need.own_cents

        [Offer.new(name: need.name, pack: (need.own_pack || 1).to_i, cents: need.own_cents.to_i)]
      end
    end
  end
end
