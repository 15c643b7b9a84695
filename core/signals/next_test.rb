# frozen_string_literal: true

module Miser
  module Signals
    # The look or check that tells the candidates of a diagnosis apart best.
    class NextTest
      # @!attribute observe [Observation] where its answer belongs; no value
      # @!attribute outcomes [Array<Hash>] value, outcome (words), means, share: what would be seen, and for which candidates
      # @!attribute gain [Float] bits
      Test = Struct.new(:key, :words, :gain, :outcomes, :observe, keyword_init: true)
      # Bits under which a test says nothing; what one counts that wants a tool.
      LEAST = 0.02
      TOOL = 0.8
      COMMANDED = { 'off' => 'Nothing commanded, lights on', 'left' => 'Signal left', 'right' => 'Signal right', 'hazard' => 'Hazard on',
                    'brake' => 'Hold the brake' }.freeze
      LOOK_AT = { 'telltale' => 'look at the tell-tale', 'rate' => 'count the flashes' }.freeze
      ANSWERS = { 'check' => { true => 'yes, that is it', false => 'no change' }, 'volts' => Observation::VOLT_WORDS,
                  'works_open' => { true => 'it works', false => 'no change' } }.freeze

      # @param diagnosis [Diagnosis]
      def initialize(diagnosis)
        @diagnosis = diagnosis
        @harness = diagnosis.harness
        @candidates = diagnosis.candidates.reject(&:other)
        @done = diagnosis.observations.to_h { |o| [o.place, true] }
        @total = @candidates.sum(&:share)
      end

      # @return [Test, nil]
      def best
        return if @total.zero?

        (looks + meters + checks + housing).select { |t| t.gain > LEAST }.max_by(&:gain)
      end

      private

      # Looks nobody has taken yet, in every state.
      def looks
        @harness.states.flat_map do |command|
          lit = { 'lamps' => @harness.lamps.map(&:id), 'lights' => @harness.light_names.keys }
          lit.flat_map { |kind, ids| ids.map { |id| test(command, kind, id, "look at #{lower(@harness.name_of(id))}") } } +
            LOOK_AT.slice('telltale', *(LoopCircuit::IDLE.include?(command) ? [] : ['rate'])).map { |kind, words| test(command, kind, nil, words) }
        end.compact
      end

      def meters
        SIDES.flat_map do |side|
          @harness.side(side).map { |l| test(side, 'volts', l.id, "volts at #{lower(l.name)}, lit, against a good one", TOOL) }
        end.compact
      end

      # Each fault's own proof: yes for the candidates that have it, no for the rest.
      def checks
        @candidates.flat_map(&:faults).uniq(&:place_id).filter_map do |f|
          test('checks', 'check', f.place_id, "#{f.label}: #{f.check}", TOOL)
        end
      end

      def housing = [test('housing', 'works_open', nil, 'Open the housing and try again')].compact

      def lower(name) = name[0].downcase + name[1..]

      # Expected gain in bits, a little less for a test that needs tools.
      def test(command, kind, id, words, cost = 1.0)
        observe = Observation.new(command, kind, id)
        return if @done[observe.place]

        groups = @candidates.group_by { |c| @diagnosis.predicted(c.faults, observe) }
        gain = entropy(groups.values.map { |g| g.sum(&:share) / @total }) * cost
        Test.new(key: observe.place.compact.join('/'), words: [COMMANDED[command], words].compact.join(': '), gain: gain,
          outcomes: groups.map { |value, g| outcome(kind, value, g) }, observe: observe)
      end

      def outcome(kind, value, group)
        { value: value, outcome: ANSWERS.dig(kind, value) || value&.to_s || 'not to be told', means: group.map(&:label),
          share: group.sum(&:share) / @total }
      end

      def entropy(shares) = shares.sum { |p| p.positive? ? -p * Math.log2(p) : 0.0 }
    end
  end
end
