# frozen_string_literal: true

require_relative 'session'

module Miser
  module Drill
    # What a played exercise was worth, step by step: what was expected before it, what it cost more than the best next step would
    # have, where the ways parted. All by the policy's expected cost from there.
    class Judge
      # A step: acts up to one that tells or mends. @!attribute entries [Array<Session::Entry>] @!attribute over [Float] minutes more than
      # the best, expected @!attribute best [Case::Test, Suspect] @!attribute left [Hash{Case=>Array<Integer>}] before it
      # @!attribute open [Array<String>] before it @!attribute remains [Integer] places that may still be it after it
      Step = Struct.new(:entries, :over, :best, :left, :open, :remains, keyword_init: true)
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
      # @param step [Step] @return [Array<Hash>] share, left [Array<Suspect>], true [Boolean] whether that would have been the answer
      def told(step)
        kase, left = of(step)
        groups = @policies[kase].answers(step.best, left)
        mine = @session.exercise.hidden.find { |h| h.kase.equal?(kase) }.index
        groups.map { |rest, share| { share: share, left: rest.map { |i| kase.suspects[i] }, true: rest.include?(mine) || (rest.empty? && helps?(step, kase, mine)) } }
              .sort_by { |g| -g[:share] }
      end

      # @return [Array<String>] what it came to, sentences
      def words
        over = self.over
        more = @session.scalar(over)
        best = @session.expected
        list = [format('The best player needs %.0f min and %s on the average from here.', best.minutes, Judge.money(best.cents))]
        list << if more > PARTED then format('Over that: %s.', [*(over.minutes > 0.5 ? [format('%.0f min', over.minutes)] : []), *(over.cents > 0.5 ? [Judge.money(over.cents)] : [])].join(' and '))
                elsif more < -PARTED then 'You were quicker: luck, or a good nose.'
                else 'So did you.'
                end
        list << "#{@session.wrong} #{@session.wrong == 1 ? 'thing was' : 'things were'} mended that was not it." if @session.wrong.positive?
        list
      end

      def self.money(cents) = format('%.2f in parts', cents / 100.0)

      private

      def of(step) = step.left.find { |kase, left| left.any? && (kase.mendings.include?(step.best) || kase.tests.include?(step.best)) }

      def helps?(step, kase, mine) = !step.best.is_a?(Case::Test) && kase.places[mine] == step.best.place_id

      # Played again on a bench of its own, so that every step is judged by what was known before it.
      def replay
        again = Session.new(@session.exercise, policies: @policies, rate: @session.rate)
        found = []
        waiting = []
        before = [again.left, again.open.dup]
        @session.entries.each do |entry|
          again.do(entry.act)
          waiting << entry
          next unless entry.act.tells? || %w[cure hint give_up].include?(entry.act.kind)

          found << step(waiting, before, again)
          waiting = []
          before = [again.left, again.open.dup]
        end
        found
      end

      def step(entries, (left, open), again)
        best = plans(left, open)
        spent = @session.scalar(entries.map(&:cost).reduce(Costs::NOTHING, :+))
        after = after(entries.last, left, again)
        Step.new(entries: entries, over: [spent + after - best.sum(&:scalar), 0.0].max, best: best.first&.move, left: left, open: open,
          remains: again.left.sum { |c, list| list.map { |i| c.places[i] }.uniq.size })
      end

      def plans(left, open) = left.reject { |_, list| list.empty? }.map { |c, list| @policies[c].best(list, open) }

      # Minutes expected after it, over all answers it might have had.
      def after(entry, left, again)
        left.sum do |kase, list|
          next 0.0 if list.empty?

          answers(kase, entry.act, entry.state, list).sum { |rest, share| share * @policies[kase].best(rest, again.open).scalar }
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
