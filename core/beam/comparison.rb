# frozen_string_literal: true

require_relative 'shared_wall'

module Miser
  module Beam
    # Two walls of one beam, before and after, in the sentence that matters: one hot-spot
    # reading lies.
    class Comparison
      # Light above a line, and its share of all, each with one standard uncertainty.
      Glare = Struct.new(:glare_light, :glare_share) do
        # @param wall [Wall] @param line [Float]
        def self.of(wall, line)
          share = wall.share_above(line)
          sigma = wall.share_above_sigma(line)
          new([wall.lumens * share, Math.hypot(wall.lumens * sigma, wall.read_sigma * share)], [share, sigma])
        end

        # @return [Float] doubt of the light, as a share of it
        def relative = glare_light.first.positive? ? glare_light.last / glare_light.first : 0.0
      end

      # @return [SharedWall]
      attr_reader :shared

      # @param before [Wall] @param after [Wall] @param line [Float, nil] m, the cut-off from the axis, at the after wall; nil of high beams
      # @raise [WallsApart]
      def initialize(before, after, line)
        raise WallsApart.new(why: 'one was read with a telephone, the other with a light meter') if before.phone? != after.phone?

        @shared = SharedWall.new(before, after)
        @doubt = Math.hypot(*[before, after].map { |wall| wall.read_sigma / wall.lumens })
        @errors = Math.hypot(before.meter_sigma, after.meter_sigma)
        # Of one size and as far off, each with all its own marks.
        @before, @after = before.frame == after.frame ? [before, after] : [shared.first, shared.second]
        @peaks = [before, after].map { |wall| wall.peak[:candela] }
        @line = line
        @glares = line && [@before, @after].map { |wall| Glare.of(wall, line) }
        # Ratios within this are the same to the eye and the meter.
        @alike = after.settings[:beam_alike]
      end

      # Of candela, so that the distance does not matter.
      def peak = ratio(*@peaks)

      def light = ratio(@before.lumens, @after.lumens)

      # Ratio of the light above the line, not of its share.
      # @return [Float, nil]
      def glare = @glares && ratio(*@glares.map { |g| g.glare_light.first })

      # One standard uncertainty of the ratio of light above the line, as a share.
      # @return [Float, nil]
      def glare_doubt = @glares && Math.hypot(*@glares.map(&:relative))

      # One standard uncertainty of the ratios of light, as a share: of marks not read. One
      # meter's own error is in both walls and falls out.
      # @return [Float]
      attr_reader :doubt

      # Whether more light goes where it blinds than the change in light explains.
      # @return [Boolean]
      def worse?
        return false unless glare && light

        glare > 1 + @alike && glare / light > 1 + @alike && clear?(&:glare_light) && clear?(&:glare_share)
      end

      # @return [String]
      def sentence
        parts = [words(peak, 'peak'), words(light, 'light on the wall', doubt)].join(', ')
        return "#{parts[0].upcase}#{parts[1..]}.#{verdict(false)}" unless @line

        "#{parts[0].upcase}#{parts[1..]}, #{worse? ? 'but' : 'and'} #{words(glare, 'glare', glare_doubt)}.#{verdict(worse?)}"
      end

      # A measured wall against what its photometry foretold for the same marks: what lies between them is in both.
      # @return [String]
      def beside
        # The file and the meter err apart from each other.
        doubt = Math.sqrt([@before, @after].sum { |wall| (wall.unread_sigma / wall.lumens)**2 } + (@errors**2))
        said = [[peak, 'peak'], [light, 'light on the wall'], [glare, 'glare']].map { |ratio, what| words(ratio, what, doubt) }
        "Measured against foretold: #{said.join(', ')}."
      end

      private

      # Whether it is more after than before, or less, by more than twice what both doubt.
      # @param way [Integer] 1 more, −1 less
      # @yieldparam glare [Glare] @yieldreturn [Array(Float, Float)]
      def clear?(way = 1, &)
        (old, old_sigma), (new, new_sigma) = @glares.map(&)
        way * (new - old) > 2 * Math.hypot(old_sigma, new_sigma)
      end

      def ratio(old, new) = old.positive? ? new / old : nil

      # Whether a ratio is above 1, below it, by more than eye and twice its doubt.
      def over?(value) = Math.log(value) > [Math.log(1 + @alike), 2 * doubt].max

      def under?(value) = Math.log(value) < -[Math.log(1 + @alike), 2 * doubt].max

      def words(value, what, doubt = 0.0)
        return "#{what} that was none before" unless value

        sigma = value * doubt
        return "the same #{what}" if (value - 1).abs <= @alike && sigma <= @alike

        format(sigma > [@alike / 2, 0.05].max ? '%<value>.1f ± %<sigma>.1f times the %<what>s' : '%<value>.1f times the %<what>s',
          value: value,
          sigma: sigma, what: what)
      end

      def verdict(worse)
        return ' More light where it blinds: a worse headlamp, whatever its peak.' if worse

        more = light && over?(light)
        less = glare && glare * (1 + @alike) < 1 && clear?(-1, &:glare_light) && light && !under?(light)
        return ' Too few marks are read to say more.' if doubt > @alike && !more && !less
        return ' More light where it is wanted, less where it blinds.' if more && less
        return ' More light where it is wanted.' if more

        less ? ' Less light where it blinds.' : ''
      end
    end
  end
end
