# frozen_string_literal: true

require_relative 'fault'
require_relative 'judgement'
require_relative 'looks'
require_relative 'observation'

module Miser
  module Signals
    # From what was seen to what is wrong: single and double faults, each as bad as it can be,
    # are simulated in the states that were looked at and weighed by how well they explain it.
    # What is in no table keeps a share of its own.
    class Diagnosis
      LOOKS = Observation::LOOKS
      RATES = Observation::RATES
      # How common, against a fault of prior 10: that nothing is wrong; that it is something in no table.
      WHOLE = 0.5
      OTHER = 0.05
      # Doubles are built on so many best singles, and are so much rarer.
      SEEDS = 6
      DOUBLE = 0.08
      # Candidates kept for telling apart; a fault of less weight than this share of the last of them is not looked into.
      KEPT = 12
      HOPELESS = 0.01

      # @!attribute faults [Array<Fault::Instance>] none: all is well, or nobody knows @!attribute share [Float] 0 to 1
      # @!attribute explains [Integer] @!attribute of [Integer] observations it fits, of all
      # @!attribute label [String] @!attribute other [Boolean] none of those in the table
      Candidate = Struct.new(:faults, :share, :explains, :of, :contradicts, :label, :other, keyword_init: true) do
        def id
          return 'other' if other

          faults.empty? ? 'none' : faults.map(&:id).join('+')
        end

        # Where it is, however bad.
        def place_ids = faults.map(&:place_id)
        # @return [Array<String>] how each is proved; how to go on where it is none of them
        def checks = other ? ['Volts at every joint, from the battery on, with the fault there: where they drop, it is.'] : faults.map(&:check)
      end

      # @param harness [Harness] as it should be
      # @param seen [Hash] as Observation.all takes it
      # @param thresholds [Hash]
      # @param thorough [Boolean] whether to solve every state for faults that can't come among the kept ones: slower, for comparison
      # @param looks [Looks] of that harness, as an earlier diagnosis left them
      def initialize(harness, seen, thresholds:, thorough: false, looks: Looks.new(harness, thresholds: thresholds))
        @thorough = thorough
        @harness = harness
        @thresholds = thresholds
        @observations = Observation.all(seen)
        @looks = looks
      end

      attr_reader :observations, :harness, :looks

      # @return [Array<Candidate>] likeliest first
      def candidates
        @candidates ||= begin
          ones = [[[], WHOLE * fit([])], *places]
          floor = @thorough ? 0.0 : (ones.map(&:last).max(KEPT).last || 0.0) / DOUBLE
          twos = doubles(ones).map { |list| [list, weight(list, floor: floor) * DOUBLE] }
          total = (ones + twos).sum(&:last) + nobody_knows
          kept = (ones + twos).sort_by { |_, w| -w }.first(KEPT).map { |list, w| candidate(list, w / total) }
          (kept << unknown(nobody_knows / total)).sort_by { |c| -c.share }
        end
      end

      # @return [NextTest::Test, nil] the look or check that parts the candidates best
      def next_test = NextTest.new(self).best

      # @return [Integer] circuits solved
      def solved = looks.solved

      # @param list [Array<Fault::Instance>] @return [String, Boolean, nil] what would be seen with them
      def predicted(list, observation)
        case observation.kind
        when 'works_open' then list.any?(&:moves?)
        when 'check' then list.any? { |f| f.place_id == observation.id }
        else looks.at(list, observation.command).then do |view|
               view && (observation.id ? view[observation.kind][observation.id] : view[observation.kind])
             end
        end
      end

      private

      # Each fault where it can sit: as bad as it explains best, with the weight of all degrees together.
      # @return [Array<Array(Array<Fault::Instance>, Float)>]
      def places
        weights = singles
        weights.keys.group_by(&:place_id).values.map { |degrees| [[degrees.max_by { |f| weights[f] }], degrees.sum { |f| weights[f] }] }
      end

      # Those that fit the fullest state best come first, so that the rest are soon known to be hopeless.
      # @return [Hash{Fault::Instance=>Float}]
      def singles
        best = []
        Fault.all_in(@harness).sort_by do |f|
          -(by_command.first || []).reduce(f.prior) do |w, o|
            w * o.chance(predicted([f], o))
          end
        end.to_h do |f|
          weight = weight([f], floor: @thorough || best.size < KEPT ? 0.0 : best.last * HOPELESS)
          best = (best << weight).max(KEPT)
          [f, weight]
        end
      end

      # Pairs of which the second explains something that the first does not.
      def doubles(ones)
        singles = ones.map(&:first).reject(&:empty?)
        best = ones.reject { |l, _| l.empty? }.sort_by { |_, w| -w }.first(SEEDS).map(&:first)
        best.flat_map do |a,|
          left = observations.reject { |o| predicted([a], o) == o.value }
          singles.map(&:first).reject { |b| b.place_id == a.place_id || same_place?(a, b) || !helps?(b, left) }
                 .map { |b| [a, b].sort_by(&:id) }
        end.uniq { |l| l.map(&:id) }
      end

      def helps?(fault, left) = left.any? { |o| predicted([fault], o) != predicted([], o) }

      # Two faults of one lamp hide each other; looking for both is idle.
      def same_place?(a, b) = a.target && a.target == b.target

      def weight(list, floor: 0.0) = fit(list, list.reduce(1.0) { |w, f| w * f.prior / 10 }, floor: floor)

      # How likely, with what was seen; nothing once it can't reach the floor, even if all the rest were seen rightly.
      def fit(list, weight = 1.0, floor: 0.0)
        left = observations.size
        by_command.each do |seen|
          return 0.0 if weight * (Observation::RIGHT**left) < floor

          weight = seen.reduce(weight) { |w, o| w * o.chance(predicted(list, o)) }
          left -= seen.size
        end
        weight
      end

      def nobody_knows = @nobody_knows ||= observations.reduce(OTHER) { |w, o| w * o.anyhow(predicted([], o)) }

      # What says most, first.
      def by_command = @by_command ||= observations.group_by(&:command).values.sort_by { |list| -list.size }

      def candidate(list, share)
        fits, fails = observations.partition { |o| predicted(list, o) == o.value }
        Candidate.new(faults: list, share: share, explains: fits.size, of: observations.size, label: label(list), other: false,
          contradicts: fails.map { |o| looks.words(o, predicted(list, o)) })
      end

      def label(list)
        return list.map(&:words).join(' and ') if list.any?

        works? ? 'nothing wrong' : 'nothing broken: with these parts it does so'
      end

      def works? = Judgement.new(@harness, thresholds: @thresholds).works?

      # Where nobody knows, what is as it should be is explained, and no more.
      def unknown(share)
        fits = observations.count { |o| predicted([], o) == o.value }
        Candidate.new(faults: [], share: share, explains: fits, of: observations.size, label: 'none of these', other: true, contradicts: [])
      end
    end
  end
end

require_relative 'next_test'
