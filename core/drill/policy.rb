# frozen_string_literal: true

require_relative 'case'

module Miser
  module Drill
    # What to do next so that least is spent until the machine is well, by what may still be wrong. With few suspects left every
    # order is tried (exact); with more, what each step leaves to a plain rule (bits a minute) is what it is judged by: a rollout
    # (Bertsekas, Castanon, Journal of Heuristics 1999).
    class Policy
      # What is expected from here on. @!attribute scalar [Float] minutes, parts as minutes @!attribute minutes, cents [Float]
      # @!attribute move [Case::Test, Suspect, nil]
      Plan = Struct.new(:scalar, :minutes, :cents, :move)
      DONE = Plan.new(0.0, 0.0, 0.0, nil).freeze
      # Up to so many places that may be mended, all orders are tried.
      EXACT = 4
      # Steps that a rollout looks into.
      LOOKED = 8
      # An hour, cents, where the shop has no rate: assumption.
      RATE_CENTS = 6000.0
      # What makes a step worth nothing, bits.
      NOTHING = 1e-9

      # @param kase [Case] @param rate [Float] cents an hour
      def initialize(kase, rate: RATE_CENTS)
        @case = kase
        @rate = rate / 60
        @best = {}
        @quick = {}
      end

      # @param left [Array<Integer>] suspects, by number, in order @param reached [Array<String>] places that are open already
      # @return [Plan]
      def best(left, reached = []) = left.empty? ? DONE : (@best[[left, relevant(reached)]] ||= search(left, relevant(reached)))

      # @return [Plan] of the plain rule
      def quick(left, reached = []) = left.empty? ? DONE : (@quick[[left, relevant(reached)]] ||= plain(left, relevant(reached)))

      # @return [Array<Integer>] all suspects
      def all = @all ||= @case.suspects.each_index.to_a

      # What it costs to do a move from there. @return [Costs::Cost]
      def cost(move, reached)
        places = move.is_a?(Case::Test) ? move.places : [move.at].compact
        (places - reached).map { |p| Costs.opening(p) }.reduce(move.cost, :+)
      end

      # What is left after each answer to a move, with its chance. After the right mending nothing is.
      # @return [Array<Array(Array<Integer>, Float)>]
      def answers(move, left)
        total = left.sum { |i| @case.weights[i] }
        groups = move.is_a?(Case::Test) ? left.group_by { |i| move.classes[i] }.values : left.partition { |i| @case.places[i] == move.place_id }
        groups.reject(&:empty?).map do |group|
          well = !move.is_a?(Case::Test) && @case.places[group.first] == move.place_id
          [well ? [] : group, group.sum { |i| @case.weights[i] } / total]
        end
      end

      # What is expected of a move, what follows it as a block has it.
      # @yieldparam left [Array<Integer>] @yieldparam opened [Array<String>] @yieldreturn [Plan]
      # @return [Plan]
      def expected(move, left, reached)
        cost = cost(move, reached)
        opened = (reached | (move.is_a?(Case::Test) ? move.places : [move.at].compact)).sort
        minutes = cost.minutes
        cents = cost.cents.to_f
        answers(move, left).each do |rest, chance|
          plan = yield(rest, opened)
          minutes += chance * plan.minutes
          cents += chance * plan.cents
        end
        Plan.new(minutes + (cents / @rate), minutes, cents, move)
      end

      # @return [Float] minutes, parts as minutes
      def scalar(cost) = cost.scalar(@rate)

      private

      # Only places that something of this case lies behind.
      def relevant(reached) = reached & places

      def places = @places ||= (@case.tests.flat_map(&:places) + @case.suspects.filter_map(&:at)).uniq.sort

      def search(left, reached)
        moves = moves(left)
        return moves.map { |m| followed(m, left, reached) }.min_by(&:scalar) if mendings(left).size <= EXACT

        looked = moves.max_by(LOOKED) { |m| worth(m, left, reached) }
        followed(looked.min_by { |m| expected(m, left, reached) { |rest, opened| quick(rest, opened) }.scalar }, left, reached)
      end

      # A move with the best after it.
      def followed(move, left, reached) = expected(move, left, reached) { |rest, opened| best(rest, opened) }

      def plain(left, reached)
        move = moves(left).max_by { |m| worth(m, left, reached) }
        expected(move, left, reached) { |rest, opened| quick(rest, opened) }
      end

      # Each mending, and each test that parts what is left; with one place left, to mend it.
      def moves(left)
        mendings = mendings(left)
        return mendings if mendings.size == 1

        seen = {}
        tests = @case.tests.select { |t| t.classes.values_at(*left).uniq.size > 1 }
        mendings + tests.sort_by { |t| t.cost.minutes }.select { |t| fresh?(t, left, seen) }
      end

      # The cheapest of those that part these alike behind the same doors.
      def fresh?(test, left, seen)
        key = [normal(test.classes.values_at(*left)), test.places]
        seen.key?(key) ? false : seen[key] = true
      end

      def normal(classes)
        names = {}
        classes.map { |c| names[c] ||= names.size }
      end

      def mendings(left)
        here = left.to_h { |i| [@case.places[i], true] }
        @case.mendings.select { |s| here[s.place_id] }
      end

      # Bits about where it is for a minute; what the right mending costs is owed anyhow.
      def worth(move, left, reached)
        answers = answers(move, left)
        gain = entropy(left) - answers.sum { |rest, chance| rest.empty? ? 0.0 : chance * entropy(rest) }
        return 0.0 if gain < NOTHING

        cost = scalar(cost(move, reached))
        cost *= 1 - answers.sum { |rest, chance| rest.empty? ? chance : 0.0 } unless move.is_a?(Case::Test)
        gain / [cost, 0.1].max
      end

      def entropy(left)
        (@entropies ||= {})[left] ||= begin
          total = left.sum { |i| @case.weights[i] }
          shares = left.group_by { |i| @case.places[i] }.values.map { |list| list.sum { |i| @case.weights[i] } / total }
          shares.sum { |p| -p * Math.log2(p) }
        end
      end
    end
  end
end
