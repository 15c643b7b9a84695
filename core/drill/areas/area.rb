# frozen_string_literal: true

require_relative '../act'

module Miser
  module Drill
    # A part of the machine that is solved by itself: what can be wrong in it, what is seen of it, what can be read.
    # Answers are kept: a question asked again costs nothing.
    class Area
      class << self
        attr_reader :key, :label

        def declare(key, label)
          @key = key
          @label = label
        end
      end

      def initialize
        @kept = {}
      end

      def key = self.class.key
      def label = self.class.label

      # @return [Array<Suspect>] of which can be told what they do: a driver that cuts in and out for ever is none
      def suspects
        @suspects ||= begin
          all = faults.map do |f|
            Suspect.new(area: key, fault: f, cost: Costs.cure(key, f.kind.key), at: cure_at(f), place: place_of_fault(f))
          end
          all.select { |s| settles?([s]) }
        end
      end

      # @return [Boolean] whether it comes to rest in every state that somebody rides with
      def settles?(suspects)
        signs(suspects)
        true
      rescue Unsolvable
        false
      end

      # @return [Array<Light>] @return [Array<Point>]
      def lights = []
      def points = []

      # @return [Hash{String=>String}] switches it has, by key
      def switches = {}

      # What a person would notice that rides it.
      # @param suspects [Array<Suspect>] of this area that are there @return [Array<Sign>]
      def signs(suspects) = kept(:signs, suspects) { found_signs(suspects) }

      # @return [Hash{String=>String}] look of each light: dark, ghost, dim, steady, flashes
      def looks(suspects, state) = kept(:looks, suspects, state) { seen(suspects, state) }

      # @return [Array<String>] what else is noticed there, sentences
      def remarks(_suspects, _state) = []

      # @return [Float, nil] what the meter shows; nil where its leads are on nothing of this area's
      def read(suspects, state, what, red, black)
        return unless here?(what, red) && here?(what, black)

        kept(:read, suspects, state, what, red, black) { measured(suspects, state, what, red, black) }
      end

      # @return [Boolean] whether both leads of a meter are on points of this area's
      def reads?(act) = here?(act.what, act.red) && here?(act.what, act.black)

      # @return [Hash{String=>Array<String>}] points by what can be read there
      def quantities = { 'volts' => points.map(&:id) }

      # @return [Boolean, nil] whether a lamp lights on a battery of the bench; nil where it is none of this area's
      def bench(_suspects, _lamp) = nil

      # What an act tells of this area, the same where nobody could tell the difference.
      # @return [Array<String>, Float, nil] looks and remarks, a reading; nil where it tells nothing
      def told(suspects, act, state)
        case act.kind
        when 'look' then looks(suspects, state).to_a.flatten + remarks(suspects, state)
        when 'read' then read(suspects, state, act.what, act.red, act.black)
        when 'bench' then bench(suspects, act.lamp)&.then { |lit| [lit.to_s] }
        end
      rescue Unsolvable
        nil
      end

      # @return [Array<Array<Act>>] chains of acts that may tell something, the last of which does
      def tests = @tests ||= chains

      # @param _suspects [Array<Suspect>] what may be wrong @return [Array<Array<Act>>] chains that may part these
      def tests_among(_suspects) = tests

      # @param suspect [Suspect] @return [Integer] the same for all that look the same whatever is switched on
      def shows(suspect)
        kept(:shows, [suspect]) do
          looks = tests.select { |acts| acts.size == 1 && acts.first.kind == 'look' }.map(&:first)
          seen = looks.map { |act| told([suspect], act, State.new(on: act.on, engine: act.engine)) }
          (@shown ||= {})[seen] ||= @shown.size
        end
      end

      # @return [Array<String>] what must be open for an act
      def places(act)
        case act.kind
        when 'read', 'jumper' then [act.red, act.black].uniq.filter_map { |p| at[p] }.uniq
        when 'unplug', 'bench', 'open' then [lamp_at(act.lamp)].compact
        else []
        end
      end

      # What two readings must differ by, so that nobody takes it for scatter: of a usual meter, three times its doubt and what
      # machines of one kind differ by. Assumption.
      GAPS = { 'volts' => 0.25, 'ac_volts' => 3.0, 'amps' => 0.4 }.freeze

      # @return [Float]
      def gap(act) = GAPS.fetch(act.what, 0.0)

      # Points in the order in which current meets them, of what a fault lies in the way of.
      # @param suspect [Suspect] @return [Array<Point>] none where no current is concerned
      def way(_suspect) = []

      # @return [String, nil] what must be open to get at a lamp
      def lamp_at(_lamp) = nil

      private

      def named(ids) = ids.filter_map { |id| points.find { |p| p.id == id } }

      # @return [Hash{String=>String}] what must be open to get at a point
      def at = @at ||= points.to_h { |p| [p.id, p.at] }

      def here?(what, point) = quantities.fetch(what, []).include?(point)

      # What has no light shows none.
      def seen(_suspects, _state) = {}

      def cure_at(_fault) = nil

      def place_of_fault(fault) = fault.place_id

      def kept(name, suspects, *more) = @kept[[name, suspects.map(&:id), *more]] ||= yield

      def look(on, engine = 'off') = Act.new(kind: 'look', on: on, engine: engine)

      def volts(on, red, black, engine = 'off', what: 'volts') = Act.new(kind: 'read', on: on, engine: engine, what: what, red: red, black: black)
    end
  end
end
