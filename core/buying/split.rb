# frozen_string_literal: true

require_relative 'supplier'

module Miser
  module Buying
    # An order shared out among suppliers for the least money, shipping counted: an exact search. Who is asked, which
    # discount is used there and whether it ships free is decided first, supplier by supplier; what is left is which
    # line goes to whom.
    class Split
      # A line to be bought. @!attribute key [Object] @!attribute pieces [Integer] to buy @!attribute offers [Array<Offer>]
      Demand = Struct.new(:key, :pieces, :offers)
      # @!attribute demand [Demand] @!attribute offer [Offer] @!attribute packs [Integer] @!attribute cents [Integer] reduced, rounded once
      Pick = Struct.new(:demand, :offer, :packs, :cents)
      # @!attribute supplier [Supplier, nil] nil: nobody is named @!attribute mode [Supplier::Mode]
      # @!attribute goods_cents, shipping_cents [Integer]
      Order = Struct.new(:supplier, :mode, :picks, :goods_cents, :shipping_cents, keyword_init: true) do
        def cents = goods_cents + shipping_cents
      end
      # How a supplier is dealt with. @!attribute supplier [Supplier, nil] @!attribute ships_cents [Integer]
      # @!attribute least_cents [Integer] of goods that it takes to be dealt with so
      Status = Struct.new(:supplier, :mode, :ships_cents, :least_cents)

      # Ways to deal with a supplier, beside not at all.
      # @return [Array<Status>]
      def self.statuses(supplier)
        supplier.modes.flat_map do |mode|
          paid = Status.new(supplier, mode, supplier.shipping_cents, supplier.minimum)
          free = supplier.free_over && supplier.shipping_cents.positive? && Status.new(supplier, mode, 0,
            [supplier.free_over, supplier.minimum].max)
          # Whoever wants no sum is dealt with reduced, where there is a way to.
          [free, paid].select { |s| s && (s.least_cents.positive? || mode != Supplier::PLAIN || supplier.modes.one?) }
        end
      end

      # @param demands [Array<Demand>] each with an offer @param suppliers [Array<Supplier>]
      def initialize(demands, suppliers)
        @demands = demands
        asked = demands.flat_map { |d| d.offers.map(&:supplier_id) }.uniq
        @nobody = asked.include?(nil) ? [Status.new(nil, Supplier::PLAIN, 0, 0)] : []
        @choices = suppliers.select { |s| asked.include?(s.id) }.map { |s| Split.statuses(s) }
        @best = nil
        @best_cents = Float::INFINITY
      end

      # @return [Array<Order>, nil] the cheapest; nil where none can be placed: every way misses somebody's least order
      def orders
        return [] if @demands.empty?

        decide(0, @nobody)
        @best && placed(*@best)
      end

      # @return [Integer, nil] cents
      def cents = orders&.sum(&:cents)

      # Lines shared out among suppliers dealt with in given ways.
      # @param table [Array<Array<Array(Integer, Integer)>>] by line: [status, cents] of each that has it, the cheapest first
      # @param statuses [Array<Status>] @param under [Numeric] what it must come under
      # @return [Array(Integer, Array<Integer>), nil] cents of the goods, status of each line
      def self.assign(table, statuses, under = Float::INFINITY)
        return nil if table.any?(&:empty?)

        picks = table.map(&:first)
        cents = picks.sum { |_, c| c }
        return nil if cents >= under

        goods = Array.new(statuses.size, 0)
        picks.each { |s, c| goods[s] += c }
        short = statuses.each_index.select { |s| goods[s] < statuses[s].least_cents }
        return [cents, picks.map(&:first)] if short.empty?
        return nil if short.any? { |s| cents + moving(table, s, statuses[s].least_cents - goods[s]) >= under }

        Assignment.new(table, statuses, under).best
      end

      # What it costs at the least to bring a supplier's goods up by so much: lines brought over from where they are
      # cheapest, the last of them in part.
      # @return [Numeric] cents; infinite where all that it has is not enough
      def self.moving(table, status, short)
        elsewhere = table.reject { |line| line.first.first == status }
        there = elsewhere.filter_map { |line| line.find { |s, _| s == status }&.then { |_, all| [all - line.first.last, all] } }
        extra = 0.0
        there.sort_by { |more, all| more.to_f / [all, 1].max }.each do |more, all|
          return extra + (more.to_f * short / all) if all >= short

          extra += more
          short -= all
        end
        Float::INFINITY
      end

      # @param offer [Offer] @param pieces [Integer] @param status [Status] @return [Integer] cents
      def self.line(offer, pieces, status)
        packs = offer.packs(pieces)
        status.supplier ? status.supplier.line_cents(packs, offer, status.mode) : packs * offer.cents
      end

      private

      # Depth first over the suppliers; those not decided yet count at their best price, shipping free.
      def decide(depth, chosen)
        others = @choices.drop(depth)
        ships = chosen.sum(&:ships_cents)
        floor = ships + @demands.sum { |d| least(d, chosen, others) }
        return if floor >= @best_cents
        return settle(chosen, ships) if others.empty?

        [*@choices[depth], nil].each { |status| decide(depth + 1, [*chosen, status].compact) }
      end

      def least(demand, chosen, others)
        [*chosen, *others.flatten].filter_map { |status| cheapest(demand, status)&.last }.min || Float::INFINITY
      end

      # @return [Array(Offer, Integer), nil] what a line costs at somebody dealt with so
      def cheapest(demand, status)
        (@cheapest ||= {})[[demand.key, status]] ||= begin
          theirs = demand.offers.select { |o| o.supplier_id == status.supplier&.id }
          theirs.map { |o| [o, Split.line(o, demand.pieces, status)] }.min_by(&:last) || [nil, nil]
        end
        found = @cheapest[[demand.key, status]]
        found.first && found
      end

      def settle(chosen, ships)
        table = @demands.map do |d|
          chosen.each_index.filter_map { |s| (found = cheapest(d, chosen[s])) && [s, found.last] }.sort_by { |s, c| [c, s] }
        end
        found = Split.assign(table, chosen, @best_cents - ships) or return
        @best_cents = found.first + ships
        @best = [chosen, found.last]
      end

      def placed(chosen, assigned)
        @demands.each_index.group_by { |i| assigned[i] }.sort.map do |s, lines|
          status = chosen[s]
          picks = lines.map { |i| pick(@demands[i], status) }
          Order.new(supplier: status.supplier, mode: status.mode, picks: picks, goods_cents: picks.sum(&:cents),
            shipping_cents: status.ships_cents)
        end
      end

      def pick(demand, status)
        offer, cents = cheapest(demand, status)
        Pick.new(demand, offer, offer.packs(demand.pieces), cents)
      end
    end

    # Lines among suppliers of whom some want a sum of goods: the cheapest way that reaches every such sum.
    class Assignment
      # @param table [Array<Array<Array(Integer, Integer)>>] @param statuses [Array<Split::Status>] @param under [Numeric]
      def initialize(table, statuses, under)
        # Lines with most between their prices first: the rest then hardly matters.
        @order = table.each_index.sort_by { |i| [-((table[i][1] || table[i][0]).last - table[i][0].last), i] }
        @table = @order.map { |i| table[i] }
        @statuses = statuses
        @best = nil
        @under = under
        @rest = tails(@table) { |line| line.first.last }
        @wanting = statuses.each_index.select { |s| statuses[s].least_cents.positive? }
        @here = @wanting.to_h { |s| [s, tails(@table) { |line| line.first.first == s ? line.first.last : 0 }] }
        @moves = @wanting.to_h { |s| [s, moves(s)] }
      end

      # @return [Array(Integer, Array<Integer>), nil]
      def best
        @picked = []
        go(0, 0, Array.new(@statuses.size, 0))
        @best && [@under, @order.zip(@best).sort.map(&:last)]
      end

      private

      def tails(table) = table.reverse.each_with_object([0]) { |line, sums| sums << (sums.last + yield(line)) }.reverse

      def go(depth, cents, goods)
        return if cents + @rest[depth] >= @under
        return if @wanting.any? { |s| cents + @rest[depth] + moving(s, depth, goods) >= @under }

        if depth == @table.size
          @best = @picked.dup
          @under = cents
          return
        end
        @table[depth].each do |status, price|
          @picked << status
          go(depth + 1, cents + price, goods.dup.tap { |g| g[status] += price })
          @picked.pop
        end
      end

      # Lines that are cheaper elsewhere, by what it costs to bring a cent's worth of them over.
      # @return [Array<Array(Integer, Integer, Integer)>] line, cents more, cents it counts there
      def moves(status)
        there = @table.each_with_index.filter_map do |line, i|
          here = line.find { |s, _| s == status }
          here && line.first.first != status ? [i, here.last - line.first.last, here.last] : nil
        end
        there.sort_by { |_, more, all| more.to_f / [all, 1].max }
      end

      # What it costs at the least, with the lines that are left, to reach the sum that a supplier wants: one of whom
      # nothing is bought needn't be dealt with, but that is another way, which is looked at by itself.
      # @return [Numeric] cents; infinite where it can't be reached
      def moving(status, depth, goods)
        short = @statuses[status].least_cents - goods[status] - @here[status][depth]
        return 0 if short <= 0

        extra = 0.0
        @moves[status].each do |line, more, all|
          next if line < depth
          return extra + (more.to_f * short / all) if all >= short

          extra += more
          short -= all
        end
        Float::INFINITY
      end
    end
  end
end
