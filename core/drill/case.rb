# frozen_string_literal: true

require_relative 'machine'

module Miser
  module Drill
    # One part of a machine with something wrong in it: everything that a complaint may mean, and what each act would tell of it.
    class Case
      # A chain of acts that parts what may be wrong. @!attribute acts [Array<Act>] @!attribute cost [Costs::Cost] @!attribute places
      #   [Array<String>] that must be open @!attribute classes [Array<Integer>] which answer each suspect would give
      Test = Struct.new(:acts, :cost, :places, :classes, keyword_init: true)

      # The class of those of which nothing can be told: they never come to rest.
      UNTOLD = -1

      attr_reader :area, :suspects, :weights, :sign

      # @param area [Area] @param sign [Sign] what was said of it
      # @param suspects [Array<Suspect>, nil] those that may be it; all that the complaint is true of, where nobody says
      def initialize(area, sign, suspects: nil)
        @area = area
        @sign = sign
        @suspects = suspects || Case.meant(area, sign)
        total = @suspects.sum(&:prior)
        @weights = @suspects.map { |s| s.prior / total }
        @partitions = {}
      end

      # @return [Array<Suspect>] of which the complaint would be true
      def self.meant(area, sign) = area.suspects.select { |s| area.signs([s]).any? { |x| x.told_by?(sign) } }

      # @return [Array<String>] places by suspect: those alike are mended alike
      def places = @places ||= suspects.map(&:place_id)

      # @return [Array<Suspect>] one of each place, the likeliest first
      def mendings = @mendings ||= suspects.group_by(&:place_id).values.map(&:first).sort_by { |s| [-weight_of(s.place_id), s.id] }

      # @param place [String] @return [Float] how likely it is there
      def weight_of(place)
        @weight_of ||= places.each_index.group_by { |i| places[i] }.transform_values { |list| list.sum { |i| weights[i] } }
        @weight_of.fetch(place, 0.0)
      end

      # Which answer each suspect would give to an act, by number; alike where a person could not tell the difference.
      # @param act [Act] @param state [State]
      # @return [Array<Integer>, nil] nil where it tells nothing of this part
      def classes(act, state)
        key = [act, state]
        return @partitions[key] if @partitions.key?(key)

        @partitions[key] = parted(suspects.map { |s| area.told([s], act, state) }, area.gap(act))
      end

      # @return [Array<Test>] that part something, the cheapest of those that part alike
      def tests
        @tests ||= begin
          made = area.tests_among(suspects).filter_map { |acts| test(acts) }.select { |t| t.classes.uniq.size > 1 }
          made.group_by(&:classes).values.flat_map { |alike| cheapest(alike) }
        end
      end

      # @return [Float] bits about where it is
      def bits = mendings.map { |s| weight_of(s.place_id) }.sum { |p| -p * Math.log2(p) }

      # How much of what else it may be looks the same whatever is switched on.
      # @param index [Integer] of a suspect @return [Float] 0 to 1
      def likeness(index)
        rivals = suspects.each_index.reject { |i| places[i] == places[index] }
        alike = rivals.select { |i| looked[i] == looked[index] }
        rivals.empty? ? 0.0 : alike.sum { |i| weights[i] } / rivals.sum { |i| weights[i] }
      end

      # @param index [Integer] of a suspect
      # @return [Boolean] whether something of another place gives the same answer to everything
      def twins?(index)
        rivals = suspects.each_index.reject { |i| places[i] == places[index] }
        area.tests_among(suspects).each do |acts|
          return false if rivals.empty?

          told = test(acts)&.classes
          rivals = rivals.select { |i| told[i] == told[index] } if told
        end
        rivals.any?
      end

      # @param acts [Array<Act>] a chain @return [Test, nil]
      def test(acts)
        state, last = Case.after(acts, State.new)
        classes = classes(last, state)
        return if classes.nil? || classes.include?(UNTOLD)

        Test.new(acts: acts, cost: acts.map(&:cost).reduce(:+), places: acts.flat_map { |a| area.places(a) }.uniq, classes: classes)
      end

      # @param state [State] @return [Array(State, Act)] as the last act finds the machine, and that act
      def self.after(acts, state) = [acts.reduce(state) { |s, a| Case.step(s, a) }, acts.last]

      # @return [State] as an act leaves the machine
      def self.step(state, act)
        case act.kind
        when 'look', 'read' then state.with(on: act.on || state.on, engine: act.engine || state.engine)
        when 'unplug' then state.with(empty: state.empty | [act.lamp])
        when 'plug' then state.with(empty: state.empty - [act.lamp])
        when 'jumper' then state.with(jumper: [act.red, act.black])
        when 'lift' then state.with(jumper: nil)
        when 'open' then state.with(bare: state.bare | [act.lamp])
        when 'shut' then state.with(bare: state.bare - [act.lamp])
        else state
        end
      end

      private

      # What is seen of each suspect in every state.
      def looked = @looked ||= suspects.map { |s| area.shows(s) }

      # With everything reached already, and with nothing.
      def cheapest(alike) = [alike.min_by { |t| t.cost.minutes }, alike.min_by { |t| (t.cost + opening(t)).minutes }].uniq

      def opening(test) = test.places.map { |p| Costs.opening(p) }.reduce(Costs::NOTHING, :+)

      # Readings fall into groups with a gap between that no meter takes for scatter.
      def parted(values, gap)
        return if values.all?(&:nil?)
        return values.map { |v| v.nil? ? UNTOLD : (@words ||= {})[v] ||= @words.size } unless values.any?(Float)

        bounds = values.compact.sort.each_cons(2).filter_map { |a, b| (a + b) / 2 if b - a > gap }
        values.map { |v| v.nil? ? UNTOLD : bounds.count { |b| v > b } }
      end
    end
  end
end
