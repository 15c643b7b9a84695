# frozen_string_literal: true

require_relative '../volts'
require_relative 'conductor'

module Miser
  module Draw
    # What a seller says of a part, held against itself: advertised watts are not a
    # draw. The shipped fuse, wire and connector bound what it can take.
    class Claim
      # Two statements that can't both be true, or one that can't be true at all.
      # @!attribute level [String] impossible, doubtful
      Finding = Struct.new(:level, :text, keyword_init: true)

      # lm/W: over the first not credible in a lamp, over the second beyond what white
      # light from LEDs can give in theory (from memory).
      CREDIBLE = 200.0
      THEORY = 300.0
      # A fuse runs at four fifths of its rating at the most: common practice.
      FUSE_LOAD = 0.8

      attr_reader :watts, :lumens, :fuse_a, :wire_mm2, :connector

      # @param document [Hash] watts, lumens, fuse_a, wire_mm2, connector; any may be missing
      def initialize(document)
        @watts = document['watts']
        @lumens = document['lumens']
        @fuse_a = document['fuse_a']
        @wire_mm2 = document['wire_mm2']
        @connector = Conductor::CONNECTORS[document['connector']]
      end

      # @return [Float, nil] A at bench volts if the watts were true
      def amps = watts && (watts / Volts::BENCH)

      # What it came with and the most that can carry.
      # @return [Array<Array(String, Float)>] words and A
      def limits
        @limits ||= [fuse_a && ["its #{number(fuse_a)} A fuse", fuse_a],
          wire_mm2 && Conductor.fuse_ceiling(wire_mm2)&.then { |a| [format('its %.1f mm² wire', wire_mm2), a] },
          connector && ["its #{connector[0]}", connector[1]]].compact
      end

      # The most it can really take, by what it was shipped with.
      # @return [Float, nil] W
      def ceiling_w = limits.map(&:last).min&.*(Volts::BENCH)

      # @return [Array<Finding>]
      def findings = [*feeds, *light, fuse_over_wire].compact

      # The watts believed until somebody measures.
      # @param settings [Assumptions]
      # @return [Array(Float, Float), nil] W, lowest and highest
      def range_w(settings)
        return nil unless watts

        high = [watts * settings[:advertised_high], ceiling_w].compact.min
        [[watts * settings[:advertised_low], high].min, high]
      end

      # The claim beside what was read.
      # @param read_w [Float] W measured, settled
      # @return [String, nil]
      def beside(read_w)
        return nil unless watts

        words = format('Advertised %<claim>s W, takes %<real>.1f W: %<share>d %%.', claim: number(watts), real: read_w,
          share: (read_w / watts * 100).round)
        lumens ? format('%s At %s lm that would be %.0f lm/W.', words, number(lumens), lumens / read_w) : words
      end

      private

      def number(value) = format('%g', value)

      def feeds
        return [] unless amps

        limits.filter_map do |words, limit|
          if amps > limit
            Finding.new(level: 'impossible',
              text: format('%s W at %.1f V is %.1f A, more than %s carries (%s A): one of the two is wrong.', number(watts),
                Volts::BENCH, amps, words,
                number(limit)))
          elsif amps > limit * FUSE_LOAD
            Finding.new(level: 'doubtful',
              text: format('%s W at %.1f V is %.1f A: %s (%s A) leaves no margin.', number(watts),
                Volts::BENCH, amps, words, number(limit)))
          end
        end
      end

      def light
        return [] unless watts && lumens

        per_watt = lumens / watts
        if per_watt > THEORY then [Finding.new(level: 'impossible',
          text: format(
            '%.0f lm/W is more than white light from LEDs can give.', per_watt
          ))]
        elsif per_watt > CREDIBLE then [Finding.new(level: 'doubtful',
          text: format(
            '%.0f lm/W is not credible; good lamps give 80 to 150.', per_watt
          ))]
        else []
        end
      end

      def fuse_over_wire
        ceiling = wire_mm2 && Conductor.fuse_ceiling(wire_mm2)
        return unless fuse_a && wire_mm2
        return Finding.new(level: 'doubtful', text: 'Its wire is thinner than any fused lamp lead should be.') unless ceiling

        return unless fuse_a > ceiling

        Finding.new(level: 'impossible',
          text: format('Its %s A fuse does not protect its %.1f mm² wire (%s A at the most).', number(fuse_a), wire_mm2,
            number(ceiling)))
      end
    end
  end
end
