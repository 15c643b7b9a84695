# frozen_string_literal: true

require_relative 'shared_wall'

module Miser
  module Beam
    # Two walls of one beam, before and after, in the sentence that matters: one hot-spot
    # reading lies.
    class Comparison
      # Ratios within this are the same to the eye and the meter (assumption).
      ALIKE = 0.1

      # @return [SharedWall]
      attr_reader :shared

      # @param before [Wall] @param after [Wall] @param line [Float] m, the cut-off from the axis, at the after wall
      # @raise [SharedWall::Apart]
      def initialize(before, after, line)
        @shared = SharedWall.new(before, after)
        @before = shared.first
        @after = shared.second
        @peaks = [before, after].map { |wall| wall.peak[:candela] }
        @line = line
      end

      # Of candela, so that the distance does not matter.
      def peak = ratio(*@peaks)

      def light = ratio(@before.lumens, @after.lumens)

      # Ratio of the light above the line, not of its share.
      def glare = ratio(@before.lumens * @before.share_above(@line), @after.lumens * @after.share_above(@line))

      # @return [String]
      def sentence
        parts = [words(peak, 'peak'), words(light, 'light on the wall')].join(', ')
        worse = glare && glare > 1 + ALIKE && light && glare > light * (1 + ALIKE)
        "#{parts[0].upcase}#{parts[1..]}, #{worse ? 'but' : 'and'} #{words(glare, 'glare')}.#{verdict(worse)}"
      end

      # A measured wall against what its photometry foretold.
      # @return [String]
      def beside = "Measured against foretold: #{words(peak, 'peak')}, #{words(light, 'light on the wall')}, #{words(glare, 'glare')}."

      private

      def ratio(old, new) = old.positive? ? new / old : nil

      def words(value, what)
        return "#{what} that was none before" unless value
        return "the same #{what}" if (value - 1).abs <= ALIKE

        format('%<value>.1f times the %<what>s', value: value, what: what)
      end

      def verdict(worse)
        return ' More light where it blinds: a worse headlamp, whatever its peak.' if worse

        more = light && light > 1 + ALIKE
        less = glare && glare < 1 - ALIKE && light && light > 1 - ALIKE
        return ' More light where it is wanted, less where it blinds.' if more && less
        return ' More light where it is wanted.' if more

        less ? ' Less light where it blinds.' : ''
      end
    end
  end
end
