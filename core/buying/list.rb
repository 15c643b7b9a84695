# frozen_string_literal: true

require_relative 'market'
require_relative 'need'
require_relative 'split'

module Miser
  module Buying
    # What a job needs, one line an article, each with what lies on the shelf, what is to be bought and what that comes
    # to at the best shared-out order. A line without a price says so; the sum is then what it comes to at least.
    class List
      # @!attribute need [Need] @!attribute from_stock [Integer] pieces @!attribute stock_cents [Integer, nil] of those
      # @!attribute pick [Split::Pick, nil] where it is bought @!attribute why_not [String, nil] where it can't be priced
      Line = Struct.new(:need, :from_stock, :stock_cents, :pick, :supplier, :why_not, keyword_init: true) do
        def name = need.name
        def count = pick ? pick.packs : need.total
        def pack = pick ? pick.offer.pack : 1

        # @return [Integer] pieces that the shelf does not have
        def to_buy = need.total - from_stock

        # @return [Integer, nil] nil where no price is known
        def cents = why_not ? nil : (stock_cents || 0) + (pick&.cents || 0)
      end

      NO_PRICE = 'no price is known'
      TOO_LATE = 'nobody has it by then'

      # @param needs [Array<Need>] merged @param market [Market]
      # @param by_days [Integer, nil] all must be here in so many days
      def initialize(needs, market, by_days: nil)
        @needs = needs
        @market = market
        @by_days = by_days
      end

      # @return [Array<Line>]
      def lines = @lines ||= @needs.map { |need| line(need) }

      # @return [Array<Split::Order>] by supplier
      def orders = @orders ||= split.orders || []

      # @return [String, nil] why they can't be placed as they are
      def stuck = demands.any? && orders.empty? ? 'every way to share it out misses somebody’s least order' : nil

      # @return [Integer] cents, of what is priced, shipping with it
      def cents = lines.sum { |l| l.cents.to_i } + shipping_cents

      def shipping_cents = orders.sum(&:shipping_cents)

      # @return [Array<String>] names of what has no price
      def unpriced = lines.select(&:why_not).map(&:name).uniq

      # @return [Boolean] whether the sum is only what is known
      def at_least? = unpriced.any?

      # What is taken from the shelf for a need.
      # @return [Hash{String=>Integer}] pieces by part
      def taken(need)
        @taken ||= @needs.each_with_object([Hash.new(0), {}]) { |n, (gone, all)| all[n.key] = take(n, gone) }.last
        @taken.fetch(need.key).reject { |_, n| n.zero? }
      end

      private

      def split = @split ||= Split.new(demands, @market.suppliers)

      def demands
        @demands ||= @needs.filter_map do |need|
          offers = offers(need)
          pieces = to_buy(need)
          Split::Demand.new(need.key, pieces, offers) if pieces.positive? && offers.any?
        end
      end

      # @return [Array<Offer>] of whom it is here in time
      def offers(need)
        (@offers ||= {})[need.key] ||= @market.offers(need).select { |o| o.here_in?(@by_days) }
      end

      # The shelf comes first; lines of one part share what lies there.
      def to_buy(need) = need.total - from_stock(need)

      def from_stock(need) = taken(need).values.sum

      def take(need, gone)
        left = need.total
        @market.fitting(need).to_h do |part|
          more = [@market.stock_of(part['id']) - gone[part['id']], left].min
          gone[part['id']] += more
          left -= more
          [part['id'], more]
        end
      end

      def line(need)
        stock = from_stock(need)
        each = @market.unit_cents(need)
        return Line.new(need: need, from_stock: stock, why_not: priceless(need)) unless each || need.total.zero?

        pick = picks[need.key]
        late = pick.nil? && stock < need.total
        Line.new(need: need, from_stock: stock, stock_cents: stock * each.to_i, pick: pick&.first, supplier: pick&.last,
          why_not: late ? late_words(need) : nil)
      end

      def priceless(need)
        others = @market.other_currencies(need)
        others.empty? ? NO_PRICE : "its only price is in #{others.join(', ')}"
      end

      def late_words(need) = offers(need).empty? ? TOO_LATE : stuck

      def picks = @picks ||= orders.flat_map { |o| o.picks.map { |p| [p.demand.key, [p, o.supplier]] } }.to_h
    end
  end
end
