# frozen_string_literal: true

require_relative 'session'

module Miser
  module Drill
    # What a played exercise was worth, step by step: what was expected before it, what it cost more than the best next step would
    # have, where the ways parted. All by the policy's expected cost from there.
    class Judge
      # A step: acts up to one that tells or mends. @!attribute entries [Array<Session::Entry>] @!attribute over [Float] minutes more than
      # the best, expected @!attribute best [Case::Test, Suspect] @!attribute left [Hash{Case=>Array<Integer>}] before it
      # @!attribute reached [Array<String>] before it @!attribute remains [Integer] places that may still be it after it
      Step = Struct.new(:entries, :over, :best, :left, :reached, :remains, keyword_init: true)
      # Minutes over the best from which the ways have parted: assumption.
      PARTED = 1.0

      # @param session [Session] that ended
      def initialize(session)
        @session = session
        @policies = session.policies
      end

      # @return [Array<Step>]
      def steps = @steps ||= replay

      # @return [Step, nil] the first that was worse than the best by more than a little
      def parted = @parted ||= steps.find { |s| s.over > PARTED }

      # @return [Costs::Cost] of the whole, more than was expected of the best
      def over
        spent = @session.spent
        best = @session.expected
        Costs::Cost.new(spent.minutes - best.minutes, spent.cents - best.cents)
      end

      # What the best step there would have told: what each answer leaves, the likeliest first.
      # @param step [Step] @return [Array<Hash>] share, left [Array<Suspect>], so [Boolean] whether that would have been the answer
      def told(step)
        kase, left = of(step)
        groups = @policies[kase].answers(step.best, left)
        mine = @session.exercise.hidden.find { |h| h.kase.equal?(kase) }.index
        told = groups.map do |rest, share|
          { share: share, left: rest.map { |i| kase.suspects[i] }, so: rest.include?(mine) || (rest.empty? && helps?(step, kase, mine)) }
        end
        told.sort_by { |g| -g[:share] }
      end

      # @return [Array<String>] what it came to, sentences
      def words
        best = @session.expected
        ["#{@session.well? ? 'Found' : 'Given up'} after #{Judge.sum(@session.spent)}. The best player needs #{Judge.sum(best)} on the average.",
          *(@session.well? ? [beside] : []), *wrong,
          *(parted || steps.empty? ? [] : [format('No step was worse than the best by more than %g min.', PARTED)]), outcome]
      end

      # @return [String] whether it counts as solved
      def outcome
        return 'Solved.' if @session.solved?

        @session.well? ? 'Found, but not in the time a customer pays for: not counted as solved.' : 'Not solved.'
      end

      # @param cost [Costs::Cost] @return [String]
      def self.sum(cost)
        parts = cost.cents >= 1 ? format(' and %.2f in parts', cost.cents / 100.0) : ''
        format('%.0f min%s', cost.minutes, parts)
      end

      private

      # Against the best, who has no luck on the average.
      def beside
        more = @session.scalar(over)
        return format('%.0f min over that, parts counted as time.', more) if more > PARTED

        more < -PARTED ? 'Quicker than that: luck, or a good nose.' : 'As good as that.'
      end

      def wrong
        count = @session.wrong
        return [] if count.zero?

        [count == 1 ? 'One thing was mended that was not it.' : "#{count} things were mended that were not it."]
      end

      def of(step) = step.left.find { |kase, left| left.any? && (kase.mendings.include?(step.best) || kase.tests.include?(step.best)) }

      def helps?(step, kase, mine) = !step.best.is_a?(Case::Test) && kase.places[mine] == step.best.place_id

      # Played again on a bench of its own, so that every step is judged by what was known before it.
      def replay
        again = Session.new(@session.exercise, policies: @policies, rate: @session.rate)
        found = []
        waiting = []
        before = [again.left, again.reached.dup]
        @session.entries.each do |entry|
          again.do(entry.act)
          waiting << entry
          next unless entry.act.tells? || %w[cure hint give_up].include?(entry.act.kind)

          found << step(waiting, before, again)
          waiting = []
          before = [again.left, again.reached.dup]
        end
        found
      end

      def step(entries, (left, reached), again)
        best = plans(left, reached)
        spent = @session.scalar(entries.map(&:cost).reduce(Costs::NOTHING, :+))
        after = after(entries.last, left, again)
        Step.new(entries: entries, over: [spent + after - best.sum(&:scalar), 0.0].max, best: best.first&.move, left: left,
          reached: reached,
          remains: again.left.sum { |c, list| list.map { |i| c.places[i] }.uniq.size })
      end

      def plans(left, reached) = left.reject { |_, list| list.empty? }.map { |c, list| @policies[c].best(list, reached) }

      # Minutes expected after it, over all answers it might have had.
      def after(entry, left, again)
        left.sum do |kase, list|
          next 0.0 if list.empty?

          answers(kase, entry.act, entry.state, list).sum { |rest, share| share * @policies[kase].best(rest, again.reached).scalar }
        end
      end

      def answers(kase, act, state, list)
        if act.kind == 'cure'
          suspect = kase.mendings.find { |s| s.place_id == act.fault }
          return suspect ? @policies[kase].answers(suspect, list) : [[list, 1.0]]
        end
        classes = act.tells? && kase.classes(act, state)
        return [[list, 1.0]] unless classes

        total = list.sum { |i| kase.weights[i] }
        list.group_by { |i| classes[i] }.values.map { |g| [g, g.sum { |i| kase.weights[i] } / total] }
      end
    end
  end
end
