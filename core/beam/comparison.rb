# frozen_string_literal: true

require_relative 'wall'

module Miser
  module Beam
    # Two walls of one beam, before and after, in the sentence that matters: one hot-spot
    # reading lies.
    class Comparison
      # Ratios within this are the same to the eye and the meter (assumption).
      ALIKE = 0.1

      # @param before [Wall] @param after [Wall] @param line [Float] m, the cut-off from the axis
      def initialize(before, after, line)
        @before = before
        @after = after
        @line = line
      end

      def peak = ratio(@before.peak[:lux], @after.peak[:lux])

      def light = ratio(@before.lumens, @after.lumens)

      # Ratio of the light above the line, not of its share.
      def glare = ratio(@before.lumens * @before.share_above(@line), @after.lumens * @after.share_above(@line))

      # @return [String]
      def sentence
        parts = [words(peak, 'peak'), words(light, 'light on the wall')].join(', ')
        worse = glare && glare > 1 + ALIKE && light && glare > light * (1 + ALIKE)
        "#{parts[0].upcase}#{parts[1..]}, #{worse ? 'but' : 'and'} #{words(glare, 'glare')}.#{verdict(worse)}"
      end

      private

      def ratio(old, new) = old.positive? ? new / old : nil

      def words(value, what)
        return "#{what} that was none before" unless value
        return "the same #{what}" if (value - 1).abs <= ALIKE

        format('%<value>.1f times the %<what>s', value: value, what: what)
      end

      def verdict(worse)
        return ' More light where it blinds: a worse headlamp, whatever its peak.' if worse

        light && light > 1 + ALIKE ? ' More light where it is wanted.' : ''
      end
    end
  end
end
