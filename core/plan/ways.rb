# frozen_string_literal: true

require_relative '../buying/split'
require_relative 'problem'

module Miser
  module Plan
    # What each article costs at each supplier, however it is dealt with, by pieces: worked out once for a whole search.
    class Costs
      # @return [Array<Buying::Split::Status>] all there are; the first is nobody, where something has a price and no supplier
      attr_reader :statuses
      # @return [Array<Array<Integer>>] by supplier: its statuses
      attr_reader :by_supplier

      # @param articles [Array<Problem::Article>] @param suppliers [Array<Buying::Supplier>]
      # @param totals [Array<Array<Integer>>] pieces of each article that a plan may come to, in all
      # @param first [Array<Object>] of each article, who counts first of those that may want it
      # @param by_days [Integer, nil]
      def initialize(articles, suppliers, totals, first, by_days: nil)
        @articles = articles
        @totals = totals
        @first = first
        offers = articles.map { |a| a.offers.select { |o| o.here_in?(by_days) } }
        asked = offers.flatten.map(&:supplier_id).uniq
        @statuses = [Buying::Split::Status.new(nil, Buying::Supplier::PLAIN, 0, 0)]
        @by_supplier = suppliers.select { |s| asked.include?(s.id) }.map { |s| Buying::Split.statuses(s).map { |st| (@statuses << st).size - 1 } }
        @offers = offers
        @theirs = @statuses.map { |st| offers.map { |list| list.select { |o| o.supplier_id == st.supplier&.id } } }
        @bought = articles.map { @statuses.map { {} } }
      end

      def size = @articles.size

      # @return [Array<Buying::Offer>] of an article, here in time
      def offers(article) = @offers[article]

      # @return [Array<Integer>] pieces of an article that a plan may come to
      def totals(article) = @totals[article]

      # @return [Object] who counts first of those that may want it
      def first(article) = @first[article]

      # @return [Integer, nil] cents of so many pieces bought; nil where it is not to be had
      def bought(article, status, pieces)
        known = @bought[article][status]
        return known[pieces] if known.key?(pieces)

        known[pieces] = @theirs[status][article].map { |o| Buying::Split.line(o, pieces, @statuses[status]) }.min
      end

      # @return [Array(Integer, Integer)] pieces from the shelf, and what they come to
      def shelf(article, pieces)
        a = @articles[article]
        taken = [a.on_hand, pieces].min
        [taken, taken * a.each_cents.to_i]
      end
    end

    # The same where some suppliers are dealt with in decided ways, and others are open: at their best, shipping free.
    class Ways
      # @!attribute decided [Array<Integer>] statuses @!attribute ships_cents [Integer]
      attr_reader :decided, :ships_cents

      # @param costs [Costs] @param decided [Array<Integer>] @param others [Array<Integer>] open still
      # @param rebates [Hash{Integer=>Float}] by status: the share of what is spent there that counts towards the sum it wants
      def initialize(costs, decided, others = [], rebates: {})
        @costs = costs
        @decided = decided
        @rebates = rebates
        @all = [0, *decided, *others]
        @ships_cents = decided.sum { |s| costs.statuses[s].ships_cents }
        @plain = decided.all? { |s| costs.statuses[s].least_cents.zero? }
        @cost = Array.new(costs.size) { {} }
      end

      # @return [Numeric] cents of so many pieces, the shelf's first; infinite where nobody has it
      def cost(article, pieces)
        @cost[article][pieces] ||= begin
          taken, cents = @costs.shelf(article, pieces)
          rest = pieces - taken
          rest.zero? ? cents : cents + (@all.filter_map { |s| price(article, s, rest) }.min || Float::INFINITY)
        end
      end

      # The same with the sums that suppliers want taken into the prices (docs/method.md).
      # @return [Ways]
      def rebated(rebates) = Ways.new(@costs, decided, rebates: rebates)

      # @return [Float] cents that the rebates must make good
      def owed = @rebates.sum(0.0) { |s, share| share * @costs.statuses[s].least_cents }

      # @return [Array<Integer>] statuses that want a sum
      def wanting = decided.select { |s| @costs.statuses[s].least_cents.positive? }

      # @return [Integer] cents of goods that it takes to deal with everybody so, shipping with them
      def least_cents = @least_cents ||= @ships_cents + decided.sum { |s| @costs.statuses[s].least_cents }

      # What so many pieces add to what a plan costs, at the least. Who counts first pays for his own as if nobody else
      # wanted any; the others what theirs add to whatever is bought already. All together never pay too much.
      # @param who [Object] group or thing had once
      # @return [Numeric] cents
      def least(article, pieces, who)
        who == @costs.first(article) ? cost(article, pieces) : added(article, pieces)
      end

      # All that a plan takes, at the least; where a supplier wants a sum of goods, shared out so that it is reached.
      # @param totals [Hash{Integer=>Integer}] pieces by article @param under [Numeric] what it must come under
      # @return [Numeric, nil] cents with shipping; nil where it can't be had so, or not under that
      def total(totals, under = Float::INFINITY)
        floor = totals.sum(@ships_cents) { |a, n| cost(a, n) }
        return nil if floor >= under || floor == Float::INFINITY
        return floor if @plain

        shared(totals, under)
      end

      private

      def price(article, status, pieces)
        cents = @costs.bought(article, status, pieces)
        share = @rebates[status]
        cents && share ? cents * (1 - share) : cents
      end

      def added(article, pieces)
        (@added ||= {})[(article << 16) + pieces] ||= begin
          totals = @costs.totals(article)
          bases = [0, *totals].select { |n| totals.include?(n + pieces) }
          bases.map { |n| cost(article, n + pieces) - cost(article, n) }.reject { |c| c.respond_to?(:nan?) && c.nan? }.min || Float::INFINITY
        end
      end

      def shared(totals, under)
        shelf = 0
        statuses = @all.map { |s| @costs.statuses[s] }
        table = totals.filter_map do |a, n|
          taken, cents = @costs.shelf(a, n)
          shelf += cents
          next if taken == n

          @all.each_index.filter_map { |i| (c = @costs.bought(a, @all[i], n - taken)) && [i, c] }.sort_by { |i, c| [c, i] }
        end
        goods, = Buying::Split.assign(table, statuses, under - shelf - @ships_cents)
        goods && (goods + shelf + @ships_cents)
      end
    end
  end
end
