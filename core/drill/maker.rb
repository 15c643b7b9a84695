# frozen_string_literal: true

require_relative 'exercise'
require_relative 'made_up'

module Miser
  module Drill
    # Hides something in a machine: of a level, by chance, so that it can be found.
    class Maker
      # A fault that may be hidden, and how hard that is. @!attribute kase [Case] @!attribute index [Integer]
      Candidate = Struct.new(:kase, :index, :difficulty, keyword_init: true) do
        def kind = [kase.area.key, kase.suspects[index].fault.kind.key]
      end
      # How often a tricky drill has two faults; a nasty one always has.
      TWO = 0.4

      attr_reader :machine

      # @param machine [Machine]
      def initialize(machine)
        @machine = machine
      end

      # @param level [Integer] 1 to 5 @param random [#rand] chance, from a seed
      # @return [Exercise] of that level, or of the nearest there is
      # @raise [NothingToHide]
      def make(level, random)
        raise NothingToHide if candidates.empty?

        two = level == Level::NAMES.size || (level == Level::NAMES.size - 1 && random.rand < TWO)
        (two && pair(level, random)) || Exercise.new(@machine, [hidden(one(nearest(candidates, level), random))])
      end

      # One fault that was found in this machine, told of as vaguely as its rider would.
      # @param fault [String] id of a suspect @return [Exercise]
      # @raise [UnknownName] @raise [NothingToHide] where nobody would notice it, or nothing else could be it
      def of_case(fault)
        suspect = @machine.suspect(fault) or raise UnknownName.new(what: 'fault', given: fault, known: @machine.areas.map(&:key))
        told = candidates.select { |c| c.kase.suspects[c.index].id == suspect.id }.reject { |c| c.kase.twins?(c.index) }
        pick = told.min_by { |c| [c.kase.sign.subject ? 1 : 0, -c.difficulty] } or raise NothingToHide
        Exercise.new(@machine, [hidden(pick)])
      end

      # Everything that may be hidden: told of truly, not at once plain, and told apart from all else by something that can be tried.
      # @return [Array<Candidate>]
      def candidates = @candidates ||= @machine.areas.flat_map { |s| cases(s) }.flat_map { |c| each_of(c) }

      private

      def cases(area)
        signs = area.suspects.flat_map { |s| area.signs([s]) }.uniq - area.signs([])
        signs.flat_map { |sign| Complaint.ways(sign) }.uniq.map { |said| Case.new(area, said) }.select { |c| c.mendings.size > 1 }
      end

      def each_of(kase)
        kase.suspects.each_index.map { |i| Candidate.new(kase: kase, index: i, difficulty: Level.difficulty([[kase, i]])) }
      end

      def nearest(list, level)
        by = list.group_by { |c| Level.of(c.difficulty) }
        by.fetch(by.keys.min_by { |l| [(l - level).abs, l] })
      end

      # A kind of fault first, then where it sits and what is said of it: none of them crowds out the others.
      def one(list, random)
        picked = one_of(one_of(list, random, &:kind), random) { |c| c.kase.sign }
        fair = picked.reject { |c| c.kase.twins?(c.index) }
        return one(list - picked, random) if fair.empty? && (list - picked).any?

        weighed(fair, random)
      end

      # @return [Array<Candidate>] a group of them, each group as likely
      def one_of(list, random, &) = list.group_by(&).values.then { |groups| groups[random.rand(groups.size)] }

      def weighed(list, random)
        at = random.rand * list.sum { |c| c.kase.weights[c.index] }
        list.find { |c| (at -= c.kase.weights[c.index]).negative? } || list.last
      end

      # Two parts of the machine, together of that level.
      def pair(level, random)
        first = one(nearest(candidates, level - 1), random)
        rest = candidates.reject { |c| c.kase.area.equal?(first.kase.area) }
        return if rest.empty?

        Exercise.new(@machine, [first, one(nearest(rest, level - 2), random)].map { |c| hidden(c) })
      end

      def hidden(candidate) = Exercise::Hidden.new(candidate.kase, candidate.index)
    end
  end
end
