# frozen_string_literal: true

require_relative '../figure'
require_relative 'wall'

module Miser
  module Beam
    # What a wall says of its beam, each figure with its working.
    class WallFigures
      NAMES = %i[candela lumens glare half_w half_h tenth_w tenth_h centroid_x centroid_y].freeze
      SHARES = { half: 0.5, tenth: 0.1 }.freeze
      # Doubt of the share above the cut-off, %, from which one more row is worth reading: assumption.
      WORTH = 2.0
      # Share of it that may be left then: assumption.
      HELPS = 0.8

      # @param wall [Wall] lit
      # @param line [Float, nil] m, the cut-off from the axis, up; nil of a high beam, which has none
      # @param assumed [Boolean] whether nobody measured it
      def initialize(wall, line, assumed: false)
        @wall = wall
        @line = line
        @assumed = assumed
      end

      # @return [Figure] cd of the brightest mark
      def candela
        peak = @wall.peak
        figure(peak[:candela], 'cd', 'Candela of the brightest mark', 'I = E·d² / cos³θ, a flat wall',
          [['Brightest mark', peak[:lux], 'lx', origin], distance,
            ['Off the axis', Math.hypot(peak[:x], peak[:y]), 'm', 'its place on the wall'], error, :lux_scatter],
          'inverse square and cosine law',
          sigma: peak[:candela] * Math.hypot(@wall.meter_sigma, @wall.settings[:lux_scatter]))
      end

      # @return [Figure] lm on the grid
      def lumens
        figure(@wall.lumens, 'lm', 'Light on the wall', '∬E dA by trapezoids',
          [read, unread, *size, ['What may lie between the marks', @wall.unresolved, 'lm', 'steps between neighbours'], error, :lux_unread],
          'definition of the lumen; the rule is common practice', sigma: @wall.lumens_sigma,
          notes: ['Doubt: what unread marks were given, by their share of it, what may lie between the marks, and the error alike in every mark.'])
      end

      # @return [Boolean] whether so much of it lies above the cut-off for sure: what the marks can't tell is no glare
      def glaring?
        !@line.nil? && @wall.share_above(@line) - (2 * @wall.share_above_sigma(@line)) > @wall.settings[:glare_share]
      end

      # @return [Figure] share
      def glare
        return Figure.unknown('1', 'a high beam has no cut-off') unless @line

        cut_off = ['Cut-off from the axis, up', @line, 'm', @assumed ? 'where the rule of aim wants it' : 'entered']
        figure(@wall.share_above(@line), '1', 'Share above the cut-off', '∬E dA above the line / ∬E dA, straight between marks',
          [cut_off, ['Light on the wall', @wall.lumens, 'lm', 'computed'], :glare_share], 'common practice', assumed: @assumed,
          sigma: @wall.share_above_sigma(@line), notes: ['A sharp cut-off between two rows may lie anywhere between them.', *more_rows])
      end

      # What would tell more of it.
      # @return [String, nil]
      def more_rows
        return unless @line && @wall.strip_of(@line)

        now, then_ = [@wall.share_above_sigma(@line), @wall.share_above_sigma_with_row(@line)].map { |s| s * 100 }
        return unless now > WORTH && then_ < now * HELPS

        format('One more row of marks, at the cut-off, would bring the share above it from ± %<now>.0f to ± %<then>.0f %%.', now: now, then: then_)
      end

      SHARES.each do |name, share|
        %i[w h].each_with_index do |side, i|
          # @return [Figure] m through the brightest mark
          define_method("#{name}_#{side}") do
            notes = off_grid?(share, i) ? ['The light goes on beyond the marks: it is at least so much.'] : []
            title = "#{side == :w ? 'Width' : 'Height'} at a #{name} of the peak"
            figure(@wall.extent(share)[i], 'm', title,
              'from the brightest mark outward, straight between marks',
              [['Brightest mark', @wall.peak[:lux], 'lx', origin], ['Share of it', share, '1', 'definition']], 'common practice',
              notes: notes, sigma: @wall.extent_sigma(share)[i])
          end
        end
      end

      %i[x y].each_with_index do |axis, i|
        # @return [Figure] m from the axis, right or up
        define_method("centroid_#{axis}") do
          figure(@wall.centroid[i], 'm', 'Where the light balances', "∬#{axis}·E dA / ∬E dA",
            [read, ['Light on the wall', @wall.lumens, 'lm', 'computed']], 'definition of a centroid', sigma: @wall.centroid_sigma[i])
        end
      end

      # @return [Hash{Symbol=>Boolean}] whether a width or height ends where the marks end, not where the light does
      def at_least
        SHARES.flat_map { |name, share| %i[w h].each_with_index.map { |side, i| [:"#{name}_#{side}", off_grid?(share, i)] } }.to_h
      end

      private

      def off_grid?(share, side) = @wall.off_grid(share)[side]

      def size = [['Width', @wall.frame[3], 'm', 'entered'], ['Height', @wall.frame[4] + @wall.frame[5], 'm', 'entered']]

      def distance = ['Distance to the wall', @wall.distance, 'm', 'entered']

      def origin = @wall.foretold? ? 'photometry' : 'read'

      def read = ['Marks', @wall.read_count, '1', origin]

      # What is off alike in every mark.
      def error = @wall.foretold? ? :photometry_sigma : @wall.meter_setting

      def unread = ['Marks not read', @wall.missing, '1', 'their read neighbours by the fourth power of distance']

      def figure(value, unit, title, formula, inputs, source, sigma: nil, notes: [], assumed: false)
        Figure.new(value, unit, sigma: sigma, assumed: assumed) do
          rows = inputs.map { |given| given.is_a?(Symbol) ? @wall.settings.input(given) : row(*given) }
          Working.new(title: title, formula: formula, inputs: rows, source: source, notes: notes)
        end
      end

      def row(name, number, unit, origin) = Input.new(name: name, value: number, unit: unit, origin: origin)
    end
  end
end
