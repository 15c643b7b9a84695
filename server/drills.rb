# frozen_string_literal: true

require_relative '../core/drill/drill'
require_relative '../store/drills'
require_relative '../store/memo'

module Miser
  module Server
    # Drills of the shop: begun, played, judged. What is dear to work out of one is kept while it is played.
    class Drills
      # Exercises in hand.
      IN_HAND = 24

      # @param database [Sequel::Database] @param shop [Store::Shop]
      def initialize(database, shop)
        @database = database
        @shop = shop
        @exercises = Store::Memo.new(IN_HAND)
        @machines = Store::Memo.new(IN_HAND)
      end

      # @return [Hash] what of a job a drill rests on: no owner, no notes
      def self.bare(document) = document.slice(*Drill::Machine::RESTS_ON)

      # @param person [Integer, nil] @return [Store::Drills]
      def of(person) = Store::Drills.new(@database, person)

      # @param code [Drill::Code] @param document [Hash, nil] of the machine it names
      # @return [Store::Drills::Row]
      # @raise [NothingToHide]
      def begin(mine, code, document)
        random = Random.new(code.seed)
        return question(mine, code, random) unless code.fault?

        document = Drills.bare(document || Drill::MadeUp.new(random).document)
        exercise = maker(document).make(code.level, random)
        started(mine, exercise, document, kind: code.kind, seed: code.seed, code: code.to_s)
      end

      # A case of the shop's own: that fault in that machine, as its rider would tell of it.
      # @param fault [String] id of a suspect
      # @return [Store::Drills::Row]
      # @raise [NothingToHide] where nobody would notice, or nothing else could be it @raise [UnknownName]
      def of_case(mine, document, fault, seed)
        document = Drills.bare(document)
        exercise = maker(document, CASE).of_case(fault)
        started(mine, exercise, document, side: CASE, kind: Drill::Code::FAULT, seed: seed)
      end

      # @return [Drill::Session] as it stands
      def session(row)
        exercise, policies = exercise(row)
        Drill::Session.new(exercise, row.acts.map { |a| Drill::Act.from(a) }, rate: rate, policies: policies)
      end

      # @return [Drill::Question]
      def asked(row) = Drill::Code.new(kind: row.kind, level: row.level, seed: row.seed).make(Random.new(row.seed))

      # One act more.
      # @param before [Integer] acts that were done when it was sent
      # @return [Drill::Session]
      # @raise [Store::Drills::Stale] @raise [DomainError] where it can't be done
      def act(mine, row, act, before)
        raise Store::Drills::Stale, row unless row.acts.size == before

        session = session(row)
        entry = session.do(act)
        mine.put(row.id, row.acts + [entry.act.to_row], session.ended? ? result(session) : nil)
        session
      end

      # @return [Drill::Question::Verdict]
      def answer(mine, row, given)
        raise Store::Drills::Stale, row if row.ended_at

        verdict = asked(row).judge(given)
        mine.put(row.id, row.acts + [given], { solved: verdict.right ? 1 : 0 })
        verdict
      end

      # @return [Integer] level whose drills somebody solves two times in three
      def level(rows)
        Drill::Level.of(Drill::Level.aim(Drill::Level.abilities(rows.map { |r| [r.difficulty, r.solved] }).last))
      end

      private

      # An hour of the shop's, cents.
      def rate = (@shop['money'] || {})['rate_cents']&.to_f || Drill::Policy::RATE_CENTS

      # A machine of which a case was solved is as it was diagnosed: after its change.
      CASE = 'after'
      private_constant :CASE

      def maker(document, side = nil)
        @machines[[document, side]] || (@machines[[document, side]] = Drill::Maker.new(Drill::Machine.new(document, side: side)))
      end

      def exercise(row)
        @exercises[row.id] || begin
          machine = maker(*row.body.values_at('document', 'side')).machine
          @exercises[row.id] = [Drill::Exercise.of(machine, row.body['faults']), {}]
        end
      end

      def started(mine, exercise, document, side: nil, **more)
        difficulty = exercise.difficulty
        mine.begin(level: Drill::Level.of(difficulty), difficulty: difficulty, name: exercise.machine.name,
          body: { document: document, side: side, faults: exercise.to_rows }, **more)
      end

      def question(mine, code, random)
        made = code.make(random)
        mine.begin(kind: code.kind, seed: code.seed, level: code.level, difficulty: made.difficulty, name: made.class.title, body: {},
          code: code.to_s)
      end

      def result(session)
        spent = session.spent
        expected = session.expected
        { solved: session.solved? ? 1 : 0, minutes: spent.minutes, cents: spent.cents.round, expected_minutes: expected.minutes,
          expected_cents: expected.cents.round }
      end
    end
  end
end
