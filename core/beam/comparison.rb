# frozen_string_literal: true

require_relative 'shared_wall'

module Miser
  module Beam
    # Two walls of one beam, before and after, in the sentence that matters: one hot-spot
    # reading lies.
    class Comparison
      # @return [SharedWall]
      attr_reader :shared

      # @param before [Wall] @param after [Wall] @param line [Float, nil] m, the cut-off from the axis, at the after wall; nil of high beams
      # @raise [WallsApart]
      def initialize(before, after, line)
        raise WallsApart.new(why: 'one was read with a telephone, the other with a light meter') if before.phone? != after.phone?

        @shared = SharedWall.new(before, after)
        @doubt = Math.hypot(*[before, after].map { |wall| wall.unread_sigma / wall.lumens })
        @errors = Math.hypot(before.meter_sigma, after.meter_sigma)
        @before = shared.first
        @after = shared.second
        @peaks = [before, after].map { |wall| wall.peak[:candela] }
        @line = line
        # Ratios within this are the same to the eye and the meter.
        @alike = after.settings[:beam_alike]
      end

      # Of candela, so that the distance does not matter.
      def peak = ratio(*@peaks)

      def light = ratio(@before.lumens, @after.lumens)

      # Ratio of the light above the line, not of its share.
      # @return [Float, nil]
      def glare = @line && ratio(*[@before, @after].map { |wall| wall.lumens * wall.share_above(@line) })

      # One standard uncertainty of the ratios of light, as a share: of marks not read. One
      # meter's own error is in both walls and falls out.
      # @return [Float]
      attr_reader :doubt

      # Whether more light goes where it blinds than the change in light explains.
      # @return [Boolean]
      def worse? = !@line.nil? && !glare.nil? && over?(glare) && !light.nil? && over?(glare / light)

      # @return [String]
      def sentence
        parts = [words(peak, 'peak'), words(light, 'light on the wall', doubt)].join(', ')
        return "#{parts[0].upcase}#{parts[1..]}.#{verdict(false)}" unless @line

        "#{parts[0].upcase}#{parts[1..]}, #{worse? ? 'but' : 'and'} #{words(glare, 'glare', doubt)}.#{verdict(worse?)}"
      end

      # A measured wall against what its photometry foretold.
      # @return [String]
      def beside
        # The file and the meter err apart from each other.
        doubt = Math.hypot(@doubt, @errors)
        "Measured against foretold: #{words(peak, 'peak',
          doubt)}, #{words(light, 'light on the wall', doubt)}, #{words(glare, 'glare', doubt)}."
      end

      private

      def ratio(old, new) = old.positive? ? new / old : nil

      # Whether a ratio is above 1, below it, by more than eye and twice its doubt.
      def over?(value) = Math.log(value) > [Math.log(1 + @alike), 2 * doubt].max

      def under?(value) = Math.log(value) < -[Math.log(1 + @alike), 2 * doubt].max

      def words(value, what, doubt = 0.0)
        return "#{what} that was none before" unless value

        sigma = value * doubt
        return "the same #{what}" if (value - 1).abs <= @alike && sigma <= @alike

        format(sigma > @alike / 2 ? '%<value>.1f ± %<sigma>.1f times the %<what>s' : '%<value>.1f times the %<what>s', value: value,
          sigma: sigma, what: what)
      end

      def verdict(worse)
        return ' More light where it blinds: a worse headlamp, whatever its peak.' if worse

        more = light && over?(light)
        less = glare && under?(glare) && light && !under?(light)
        return ' Too few marks are read to say more.' if doubt > @alike && !more && !less
        return ' More light where it is wanted, less where it blinds.' if more && less
        return ' More light where it is wanted.' if more

        less ? ' Less light where it blinds.' : ''
      end
    end
  end
end
