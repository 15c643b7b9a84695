# frozen_string_literal: true

require_relative 'fault'
require_relative 'seen'

module Miser
  module Signals
    # From what was seen to what is wrong: single and double faults are simulated in the
    # states that were looked at, weighed by how well they explain it, and the look or
    # test that parts the rest best is named.
    class Diagnosis
      # What a lamp or tell-tale can look like, in an order in which neighbours are
      # easily taken for each other.
      LOOKS = %w[dark ghost dim steady flashes].freeze
      RATES = %w[none steady slow normal fast].freeze
      # Chance of seeing rightly, of one step off, of anything else: common sense, assumed.
      RIGHT = 0.9
      NEAR = 0.08
      WRONG = 0.01
      # Doubles are built on so many best singles, and are so much rarer.
      SEEDS = 8
      # Where one fault explains all that was seen, two are hardly worth looking for.
      SEEDS_WHEN_EXPLAINED = 2
      DOUBLE = 0.08
      # Candidates kept for telling apart.
      KEPT = 12

      # @!attribute faults [Array<Fault::Instance>] none: all is well @!attribute share [Float] 0 to 1
      # @!attribute explains [Integer] @!attribute of [Integer] observations it fits, of all
      Candidate = Struct.new(:faults, :share, :explains, :of, :contradicts, keyword_init: true) do
        def id = faults.empty? ? 'none' : faults.map(&:id).join('+')
        def label = faults.empty? ? 'nothing wrong' : faults.map(&:label).join(' and ')
      end
      # @!attribute outcomes [Array<Hash>] what would be seen, and for which candidates
      # @!attribute gain [Float] bits
      Test = Struct.new(:key, :words, :gain, :outcomes, keyword_init: true)

      # @param harness [Harness] as it should be
      # @param seen [Hash] command => { 'lamps' => {id => look}, 'telltale' => look, 'rate' => word, 'fuse' => true/false }; all may be
      #   missing
      # @param thresholds [Hash]
      # @param thorough [Boolean] whether to solve every state for faults that can't come among the kept ones: slower, for comparison
      def initialize(harness, seen, thresholds:, volts: Volts::REST, lights: true, thorough: false)
        @thorough = thorough
        @harness = harness
        @seen = seen
        @options = { thresholds: thresholds, volts: volts, lights: lights }
        @cache = {}
        @singles = Fault.all_in(harness)
      end

      # @return [Array<Candidate>] likeliest first
      def candidates
        @candidates ||= begin
          ones = [[], *@singles.map { |f| [f] }].map { |list| [list, weight(list)] }
          # Two faults that cannot come among those kept are dropped before every state is solved for them.
          floor = @thorough ? 0.0 : (ones.map(&:last).max(KEPT).last || 0.0) / DOUBLE
          twos = doubles(ones).map { |list| [list, weight(list, floor: floor) * DOUBLE] }
          total = (ones + twos).sum(&:last)
          (ones + twos).sort_by { |_, w| -w }.first(KEPT).map { |list, w| candidate(list, total.positive? ? w / total : 0.0) }
        end
      end

      # @return [Test, nil] the look or check that parts the candidates best
      def next_test = @next_test ||= [*looks, *checks].select { |t| t.gain > 0.02 }.max_by(&:gain)

      # @return [Integer] circuits solved
      def solved = @cache.size * 2

      # What would be seen with these faults.
      # @return [Hash] lamps, telltale, rate, fuse
      def view(faults, command)
        @cache[[faults.map(&:id).sort, command]] ||= begin
          v = Seen.new(faults.reduce(@harness) { |h, f| f.apply(h) }, command, **@options)
          { 'lamps' => v.lamps.transform_values(&:looks), 'telltale' => v.telltales.values.map(&:looks).max_by { |l| LOOKS.index(l) },
            'rate' => v.rate_word, 'fuse' => v.fuse_blows? }
        rescue Unsolvable
          { 'lamps' => {}, 'telltale' => nil, 'rate' => nil, 'fuse' => false }
        end
      end

      private

      def doubles(ones)
        explained = ones.any? { |l, _| observations.all? { |o| predicted(l, o) == o[3] } }
        best = ones.reject { |l, _| l.empty? }.sort_by { |_, w| -w }.first(explained ? SEEDS_WHEN_EXPLAINED : SEEDS).map { |l, _| l.first }
        best.flat_map do |a|
          @singles.reject do |b|
            b.id == a.id || same_place?(a, b)
          end.map { |b| [a, b].sort_by(&:id) }
        end.uniq { |l| l.map(&:id) }
      end

      # Two faults of one lamp hide each other; looking for both is idle.
      def same_place?(a, b) = a.target && a.target == b.target

      # How likely, with what was seen; nothing once it can't reach the floor, even if all the rest were seen rightly.
      def weight(list, floor: 0.0)
        weight = list.reduce(list.empty? ? 0.5 : 1.0) { |w, f| w * f.prior / 10 }
        left = observations.size
        by_command.each do |seen|
          return 0.0 if weight * (RIGHT**left) < floor

          weight = seen.reduce(weight) { |w, o| w * chance(o, predicted(list, o)) }
          left -= seen.size
        end
        weight
      end

      # What says most, first.
      def by_command = @by_command ||= observations.group_by(&:first).values.sort_by { |list| -list.size }

      # @return [Array<Array>] command, kind, id, what was seen
      def observations
        @observations ||= @seen.flat_map do |command, s|
          [*(s['lamps'] || {}).map { |id, look| [command, 'lamps', id, look] },
            *%w[telltale rate fuse].filter_map do |k|
              [command, k, nil, s[k]] unless s[k].nil?
            end]
        end
      end

      def predicted(list, observation)
        command, kind, id, = observation
        found = view(list, command)[kind]
        kind == 'lamps' ? found[id] : found
      end

      def chance(observation, value)
        return NEAR if value.nil?
        return RIGHT if value == observation[3]

        scale = { 'rate' => RATES, 'fuse' => nil }.fetch(observation[1], LOOKS)
        scale && near?(scale, value, observation[3]) ? NEAR : WRONG
      end

      def near?(scale, a, b) = scale.index(a) && scale.index(b) && (scale.index(a) - scale.index(b)).abs == 1

      def candidate(list, share)
        fits, fails = observations.partition { |o| predicted(list, o) == o[3] }
        Candidate.new(faults: list, share: share, explains: fits.size, of: observations.size,
          contradicts: fails.map { |o| fail_words(o, predicted(list, o)) })
      end

      def fail_words(observation, value)
        command, kind, id, seen = observation
        what = { 'lamps' => @harness.lamp(id)&.name, 'telltale' => 'tell-tale', 'rate' => 'rate', 'fuse' => 'fuse' }[kind]
        "#{command}: #{what} would be #{value.inspect.delete('"')}, seen #{seen.inspect.delete('"')}"
      end

      # Looks nobody has taken yet, in every state.
      def looks
        COMMANDS.flat_map do |command|
          looked = @seen[command] || {}
          lamps = @harness.lamps.reject { |l| (looked['lamps'] || {}).key?(l.id) }.map do |l|
            look("#{command}/#{l.id}", "#{say(command)}: look at #{l.name.downcase}") do |c|
              view(c.faults, command)['lamps'][l.id]
            end
          end
          rest = %w[telltale rate].reject { |k| looked.key?(k) || (command == 'off' && k == 'rate') }.map do |k|
            look("#{command}/#{k}",
              "#{say(command)}: #{{ 'telltale' => 'look at the tell-tale', 'rate' => 'count the flashes' }[k]}") do |c|
              view(c.faults, command)[k]
            end
          end
          lamps + rest
        end
      end

      def say(command)
        { 'off' => 'Nothing commanded, lights on', 'left' => 'Signal left', 'right' => 'Signal right', 'hazard' => 'Hazard on' }[command]
      end

      # Each fault's own proof: yes for the candidates that have it, no for the rest.
      def checks
        candidates.flat_map(&:faults).uniq(&:id).map do |f|
          look("check/#{f.id}", "#{f.label}: #{f.check}",
            cost: 0.8) { |c| c.faults.any? { |x| x.id == f.id } ? 'yes, that is it' : 'no change' }
        end
      end

      # Expected gain in bits, a little less for a test that needs tools.
      def look(key, words, cost: 1.0)
        groups = candidates.group_by { |c| yield(c) || 'not to be told' }
        total = candidates.sum(&:share)
        gain = total.zero? ? 0.0 : entropy(groups.values.map { |g| g.sum(&:share) / total })
        Test.new(key: key, words: words, gain: gain * cost,
          outcomes: groups.map do |outcome, g|
            { outcome: outcome, means: g.map(&:label), share: total.zero? ? 0.0 : g.sum(&:share) / total }
          end)
      end

      def entropy(shares) = shares.sum { |p| p.positive? ? -p * Math.log2(p) : 0.0 }
    end
  end
end
