# frozen_string_literal: true

require_relative '../budget/verdict'
require_relative 'aim'
require_relative 'first_guess'
require_relative 'relaxation'
require_relative 'sums'
require_relative 'walk'
require_relative 'ways'

module Miser
  module Plan
    # The best plan by branch and bound. Whom to buy from, and how, is decided first, the most promising way before the
    # others; under each the things to decide, one after another, never where the floor says that nothing better lies
    # beneath. It goes on for as many steps as it is given, and can be taken up later where it stopped.
    class Search
      # @!attribute choice [Array<Integer>] option by group @!attribute cents [Integer] parts, shipping and work, without tax
      # @!attribute minutes [Float] @!attribute kept, sigma [Array<Float>] A by line @!attribute light [Float]
      # @!attribute value [Float] by the aim, less is better
      Found = Struct.new(:choice, :cents, :minutes, :kept, :sigma, :light, :cuts, :value, keyword_init: true)
      # Rounds over all conditions for a floor.
      SWEEPS = 4
      # Ways of dealing with suppliers looked through for plans to begin with; how many are guessed, how many with care.
      MOST_WAYS = 256
      GUESSES = 8
      # Ways to decide it all that are few: looked at sooner than thought about.
      FEW = 200_000
      THOROUGH = 2
      # Shares of a price that may count towards a sum that a supplier wants.
      REBATES = [0.05, 0.15, 0.4, 1.0].freeze
      # So much better is better.
      NEAR = 1e-10

      attr_reader :best, :nodes, :problem, :conditions, :aim

      # @param problem [Problem] @param conditions [Conditions] @param aim [Aim]
      # @param verify [#call, nil] of a Found: why it won't do after all, nil where it does
      # @param state [Hash, nil] of a search of the same that was stopped
      def initialize(problem, conditions, aim, verify: nil, state: nil)
        @problem = problem
        @conditions = conditions
        @aim = aim
        @verify = verify
        @nodes = 0
        @refused = {}
        @done = false
        prepare
        take_up(state) if state
      end

      # @return [Boolean] whether it has come to its end
      def done? = @done

      # @return [Boolean] whether no plan meets the conditions
      def impossible? = done? && best.nil?

      # Under this no plan can be, by the aim.
      # @return [Float] infinite where all is looked at
      def floor = [@walk&.floor, @queue.first&.first, best&.value].compact.min || Float::INFINITY

      # How far the best may be off.
      # @return [Float, nil] by the aim; nothing where it is proved
      def gap = best && [best.value - floor, 0.0].max

      # @return [String] how sure it is of the best
      def words
        return done? ? 'no plan meets all of it' : 'no plan yet' unless best
        return "proved best of #{problem.size.to_s.reverse.scan(/\d{1,3}/).join(' ').reverse} plans" if done?

        off = aim.unit == 'cents' ? Buying::Cents.words(gap.ceil) : format('%<gap>.2f %<unit>s', gap: gap, unit: aim.unit)
        "best so far; it may be off by #{off} at most"
      end

      # @param most [Integer, nil] steps; nil: to the end
      # @return [Search] self
      def run(most = nil)
        till = most && (nodes + most)
        until done? || (till && nodes >= till)
          @walk ||= next_walk
          break @done = true unless @walk

          @nodes += @walk.run(till ? till - nodes : Float::INFINITY)
          next unless @walk.done?

          @closed << @walk.ways.decided
          @walk = nil
        end
        self
      end

      # What it takes to go on another time.
      # @return [Hash] plain data
      def state
        { 'nodes' => nodes, 'closed' => @closed, 'best' => best&.choice,
          'ways' => @walk&.ways&.decided, 'prices' => @walk&.prices, 'rebates' => @walk && @rebates.to_a, 'path' => @walk&.path,
          'refused' => @refused.keys, 'done' => done? }
      end

      # @param found [Found] that would be better
      # @return [Boolean] whether it is now the best
      def offer(found)
        return false if best && found.value >= best.value - NEAR
        return false if @refused.key?(found.choice)

        if @verify && (why = @verify.call(found))
          @refused[found.choice] = why
          return false
        end
        @best = found
        true
      end

      # @return [Float] what something must be better than
      def under = best ? best.value - NEAR : Float::INFINITY

      # @return [Array<Array<Integer>>] by group: options that the conditions allow
      attr_reader :allowed

      private

      def prepare
        @allowed = @problem.groups.map { |g| g.options.each_index.select { |o| @conditions.allow?(g.options[o]) } }
        @closed = []
        @queue = []
        return @done = true if @allowed.any?(&:empty?)

        @costs = Costs.new(@problem.articles, @problem.suppliers, *wanted, by_days: @conditions.by_days)
        @sums = Sums.new(@problem, @conditions, @allowed)
        push([], 0, nil)
      end

      # Of every article the totals that a plan or some of it may come to, and who counts first: whose options ask for it
      # most often.
      def wanted
        by_article = Array.new(@problem.articles.size) { {} }
        @problem.onces.each_with_index { |once, k| wants([once.pieces, {}], [:once, k], by_article) }
        @allowed.each_with_index { |options, g| wants(options.map { |o| @problem.groups[g].options[o].pieces }, g, by_article) }
        totals = by_article.map { |lists| lists.values.reduce([0]) { |sums, list| sums.product([0, *list].uniq).map(&:sum).uniq } - [0] }
        [totals, by_article.map { |lists| lists.max_by { |_, list| list.sum }&.first }]
      end

      def wants(pieces, who, by_article)
        pieces.flat_map(&:keys).uniq.each { |a| by_article[a][who] = pieces.map { |p| p.fetch(a, 0) } }
      end

      # Ways of dealing with the suppliers, by their floor, those decided furthest before others alike.
      def push(decided, depth, prices)
        ways = Ways.new(@costs, decided, @costs.by_supplier.drop(depth).flatten)
        relaxed = @sums.relaxation(ways, @aim, prices)
        return if relaxed.impossible?

        floor = [relaxed.tighten(SWEEPS).floor, @sums.least_goods(ways, @aim)].max
        return if floor >= under

        entry = [floor, -depth, @pushed = (@pushed || 0) + 1, decided, ways, relaxed]
        at = @queue.bsearch_index { |other| (other.first(3) <=> entry.first(3)) >= 0 } || @queue.size
        @queue.insert(at, entry)
      end

      # @return [Walk, nil]
      def next_walk
        guess unless @guessed
        while (entry = @queue.shift)
          floor, depth, _, decided, ways, relaxed = entry
          next if floor >= under

          if -depth == @costs.by_supplier.size
            begun = @closed.include?(decided) ? nil : walk(ways, relaxed)
            return begun if begun
          else
            [*@costs.by_supplier[-depth], nil].each { |status| push([*decided, status].compact, -depth + 1, relaxed.prices) }
          end
        end
      end

      # Plans to begin with, under the most promising of the ways in which nobody wants a sum.
      def guess
        @guessed = true
        plain = @costs.by_supplier.map { |all| [nil, *all.select { |s| @costs.statuses[s].least_cents.zero? }] }
        every = plain.reduce([[]]) { |all, statuses| all.product(statuses).map { |a, s| [*a, s].compact } }.uniq.first(MOST_WAYS)
        relaxed = every.map { |decided| Ways.new(@costs, decided) }.to_h { |ways| [ways, @sums.relaxation(ways, @aim, nil)] }
        able = relaxed.reject { |_, r| r.impossible? }.each_value { |r| r.tighten(1) }.sort_by { |ways, r| [r.floor, ways.decided] }
        able.first(few? ? 2 : GUESSES).each_with_index do |(ways, r), i|
          next if r.floor >= under

          FirstGuess.new(@sums, ways, r, @aim).best(thorough: i < THOROUGH && !few?)&.then { |found| offer(found) }
        end
      end

      # @return [Walk, nil] nil where a closer look at the sums that suppliers want shows it to be in vain
      def walk(ways, relaxed)
        relaxed = eased(ways, relaxed) unless few?
        @rebates ||= {}
        relaxed.floor >= under ? nil : Walk.new(self, @sums, ways, relaxed, @aim)
      end

      # The rebates with the highest floor, one supplier after another.
      def eased(ways, relaxed)
        rebates = {}
        ways.wanting.each do |status|
          REBATES.each do |share|
            tried = rebates.merge(status => share)
            better = @sums.relaxation(ways, @aim, relaxed.prices, tried).tighten(1)
            next unless better.floor > relaxed.floor

            relaxed = better
            rebates = tried
          end
        end
        @rebates = rebates
        relaxed
      end

      def few? = allowed.map(&:size).reduce(1, :*) <= FEW

      def take_up(state)
        @nodes = state['nodes']
        @guessed = true
        @done = state['done']
        state['refused'].each { |choice| @refused[choice] = true }
        if state['best']
          found = @sums.found(state['best'], @aim) { cheapest(state['best']) }
          @best = found if found
        end
        @closed = state['closed']
        return unless state['ways']

        ways = Ways.new(@costs, state['ways'])
        relaxed = @sums.relaxation(ways, @aim, state['prices'], @rebates = state['rebates'].to_h)
        @walk = Walk.new(self, @sums, ways, relaxed, @aim).from(state['path'])
        @closed += [state['ways']]
      end

      # The least that a choice comes to, whomever it is bought from.
      def cheapest(choice)
        totals = @sums.totals(choice)
        shelf = totals.to_h { |a, n| [a, @costs.shelf(a, n)] }
        bought = totals.filter_map { |a, n| (n -= shelf[a].first).positive? && Buying::Split::Demand.new(a, n, @costs.offers(a)) }
        Buying::Split.new(bought, @problem.suppliers).cents&.then { |cents| cents + shelf.values.sum(&:last) }
      end
    end
  end
end
