# frozen_string_literal: true

require_relative 'search'

module Miser
  module Plan
    # The selection problem as any solver of mixed integer problems takes it: which option for each thing to decide, how
    # many pieces of each article from whom, how each supplier is dealt with. Prices are exact to the cent: a line of so
    # many pieces at a supplier is a column of its own. The doubt in what is kept is a fixed margin here.
    class Linear
      # @!attribute name [String] @!attribute cost [Float] @!attribute note [String] what it stands for
      Column = Struct.new(:name, :cost, :note)
      # @!attribute sense [String] L, G, E @!attribute right [Float] @!attribute terms [Hash{String=>Float}] by column
      Row = Struct.new(:name, :sense, :right, :terms, :note)

      attr_reader :columns, :rows, :constant

      # @param problem [Problem] with margins @param conditions [Conditions] @param aim [Aim]
      def initialize(problem, conditions, aim)
        @problem = problem
        @conditions = conditions
        @aim = aim
        @columns = []
        @rows = []
        @allowed = problem.groups.map { |g| g.options.each_index.select { |o| conditions.allow?(g.options[o]) } }
        @costs = Costs.new(problem.articles, problem.suppliers, [], [], by_days: conditions.by_days)
        @constant = aim.value(cents: 0, minutes: 0, kept: axis.base, light: 0)
        build
      end

      private

      def axis = @problem.lines[@problem.axis]
      def each_option = @allowed.each_with_index.flat_map { |list, g| list.map { |o| yield "x#{g}_#{o}", @problem.groups[g].options[o] } }
      def column(name, cost, note) = @columns << Column.new(name, cost, note)
      def row(name, sense, right, terms, note = nil) = @rows << Row.new(name, sense, right, terms.reject { |_, v| v.zero? }, note)

      def build
        decide
        have
        @money = each_option { |name, option| [name, option.work_cents] }.to_h
        @onces = @problem.onces.each_index.to_h { |k| ["b#{k}", @problem.onces[k].work_cents] }
        @money.merge!(@onces)
        articles
        suppliers
        limits
      end

      def decide
        @allowed.each_with_index do |list, g|
          group = @problem.groups[g]
          list.each do |o|
            option = group.options[o]
            column("x#{g}_#{o}", @aim.value(cents: option.work_cents, minutes: option.minutes, kept: option.kept[@problem.axis], light: option.light),
              "#{group.label}: #{option.label}")
          end
          row("one#{g}", 'E', 1, list.to_h { |o| ["x#{g}_#{o}", 1] }, "one way for #{group.label}")
        end
      end

      # What is had once is had where any option asks for it.
      def have
        @problem.onces.each_with_index do |once, k|
          column("b#{k}", @aim.value(cents: once.work_cents, minutes: once.minutes, kept: once.kept[@problem.axis] || 0.0, light: 0), once.label)
          each_option { |name, option| row("had#{k}#{name}", 'G', 0, { "b#{k}" => 1, name => -1 }) if option.once.include?(k) }
        end
      end

      # Of every article, so many pieces from whom, dealt with how.
      def articles
        @spent = Hash.new { |all, status| all[status] = {} }
        @problem.articles.each_index do |a|
          wanted = each_option { |name, option| [name, option.pieces[a]] }.to_h.compact
          @problem.onces.each_with_index { |once, k| wanted["b#{k}"] = once.pieces[a] if once.pieces[a] }
          next if wanted.empty?

          bought = lines(a, most(a))
          row("all#{a}", 'E', 0, bought.merge(wanted.transform_values(&:-@)), "pieces of #{@problem.articles[a].name}")
          row("way#{a}", 'L', 1, bought.transform_values { 1 })
        end
      end

      def most(article)
        own = @allowed.each_with_index.sum { |list, g| list.map { |o| @problem.groups[g].options[o].pieces.fetch(article, 0) }.max || 0 }
        own + @problem.onces.sum { |once| once.pieces.fetch(article, 0) }
      end

      # @return [Hash{String=>Integer}] pieces by column
      def lines(article, most)
        (1..most).each_with_object({}) do |n, all|
          taken, cents = @costs.shelf(article, n)
          statuses = taken == n ? [nil] : @costs.statuses.each_index.to_a
          statuses.each do |s|
            goods = s ? @costs.bought(article, s, n - taken) : 0
            next unless goods

            name = "q#{article}_#{n}_#{s || 'h'}"
            column(name, @aim.value(cents: cents + goods, minutes: 0, kept: 0, light: 0),
              "#{n} of #{@problem.articles[article].name}, #{whom(s)}")
            all[name] = n
            @money[name] = cents + goods
            @spent[s][name] = goods if s&.positive?
          end
        end
      end

      def whom(status)
        return 'from the shelf' unless status

        st = @costs.statuses[status]
        st.supplier ? "#{st.supplier.name}, #{st.mode.label}#{', shipped free' if st.ships_cents.zero?}" : 'no supplier named'
      end

      def suppliers
        @costs.by_supplier.each_with_index do |statuses, s|
          statuses.each { |st| supplier(st) }
          row("deal#{s}", 'L', 1, statuses.to_h { |st| ["y#{st}", 1] })
        end
      end

      def supplier(status)
        st = @costs.statuses[status]
        column("y#{status}", @aim.value(cents: st.ships_cents, minutes: 0, kept: 0, light: 0), "bought at #{whom(status)}")
        @money["y#{status}"] = st.ships_cents
        @spent[status].each_key { |name| row("at#{name}", 'L', 0, { name => 1, "y#{status}" => -1 }) }
        row("sum#{status}", 'G', 0, @spent[status].merge("y#{status}" => -st.least_cents)) if st.least_cents.positive?
      end

      def limits
        @conditions.keeps.each { |i| keeps(i, "kept#{i}", @problem.lines[i].margin.to_f) }
        keeps(@problem.axis, 'axis', @conditions.least_kept) if @conditions.least_kept
        row('money', 'L', untaxed(@conditions.money_cents), @money, 'cents in all') if @conditions.money_cents
        time if @conditions.minutes
        row('heat', 'G', 1, each_option { |name, option| [name, option.heat] }.to_h, 'filament headlamps left') if @conditions.heat
        @problem.onces.each_with_index do |once, k|
          row("uncut#{k}", 'E', 0, { "b#{k}" => 1 }) if @conditions.no_cuts && once.cuts.positive?
        end
      end

      def keeps(line, name, least)
        row(name, 'G', least - @problem.lines[line].base, each_option { |n, option| [n, option.kept[line]] }.to_h.merge(@problem.onces.each_index.to_h { |k| ["b#{k}", @problem.onces[k].kept[line] || 0.0] }), "A kept: #{@problem.lines[line].label}")
      end

      def time
        own = each_option { |name, option| [name, option.minutes] }.to_h
        row('minutes', 'L', @conditions.minutes, own.merge(@problem.onces.each_index.to_h { |k| ["b#{k}", @problem.onces[k].minutes] }), 'minutes')
      end

      # The most cents that come to no more than the limit with tax put on.
      def untaxed(cents)
        (0..cents).bsearch { |net| net + Buying::Cents.share(net, @problem.tax_percent) > cents }&.pred || cents
      end
    end
  end
end
