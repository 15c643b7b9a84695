# frozen_string_literal: true

require_relative '../figure'
require_relative 'wall'

module Miser
  module Beam
    # What a wall says of its beam, each figure with its working.
    class WallFigures
      NAMES = %i[candela lumens glare half_w half_h tenth_w tenth_h centroid_x centroid_y].freeze
      SHARES = { half: 0.5, tenth: 0.1 }.freeze

      # @param wall [Wall] lit
      # @param line [Float] m, the cut-off from the axis, up
      def initialize(wall, line)
        @wall = wall
        @line = line
      end

      # @return [Figure] cd of the brightest mark
      def candela
        peak = @wall.peak
        figure(peak[:candela], 'cd', 'Candela of the brightest mark', 'I = E·d² / cos³θ, a flat wall',
               [['Brightest mark', peak[:lux], 'lx', 'read'], distance, ['Off the axis', Math.hypot(peak[:x], peak[:y]), 'm', 'its place on the wall']], 'inverse square and cosine law')
      end

      # @return [Figure] lm on the grid
      def lumens
        figure(@wall.lumens, 'lm', 'Light on the wall', '∬E dA by trapezoids', [read, unread, ['Width', @wall.frame[3], 'm', 'entered'], ['Height', @wall.frame[4] + @wall.frame[5], 'm', 'entered']],
               'definition of the lumen; the rule is common practice', sigma: @wall.lumens_sigma, notes: doubt)
      end

      # @return [Boolean] whether so much of it lies above the cut-off
      def glaring? = @wall.share_above(@line) > Wall::GLARE

      # @return [Figure] share
      def glare
        figure(@wall.share_above(@line), '1', 'Share above the cut-off', '∬E dA above the line / ∬E dA, straight between marks',
               [['Cut-off from the axis, up', @line, 'm', 'entered'], ['Light on the wall', @wall.lumens, 'lm', 'computed']], 'common practice',
               notes: [format('Over %.0f %% it is called glare (assumption).', Wall::GLARE * 100)])
      end

      SHARES.each do |name, share|
        %i[w h].each_with_index do |side, i|
          # @return [Figure] m through the brightest mark
          define_method("#{name}_#{side}") do
            figure(@wall.extent(share)[i], 'm', "#{side == :w ? 'Width' : 'Height'} at a #{name} of the peak", 'from the brightest mark outward, straight between marks',
                   [['Brightest mark', @wall.peak[:lux], 'lx', 'read'], ['Share of it', share, '1', 'definition']], 'common practice')
          end
        end
      end

      %i[x y].each_with_index do |axis, i|
        # @return [Figure] m from the axis, right or up
        define_method("centroid_#{axis}") do
          figure(@wall.centroid[i], 'm', 'Where the light balances', "∬#{axis}·E dA / ∬E dA", [read, ['Light on the wall', @wall.lumens, 'lm', 'computed']], 'definition of a centroid')
        end
      end

      private

      def distance = ['Distance to the wall', @wall.distance, 'm', 'entered']

      def read = ['Marks read', @wall.read_count, '1', 'read']

      def unread = ['Marks not read', @wall.missing, '1', 'their read neighbours by the fourth power of distance']

      def doubt
        [format('Doubt: half of what unread marks were given, and %.0f %% of the meter (assumptions).', @wall.meter_sigma * 100)]
      end

      def figure(value, unit, title, formula, inputs, source, sigma: nil, notes: [])
        Figure.new(value, unit, sigma: sigma) do
          rows = inputs.map { |name, number, of, origin| Input.new(name: name, value: number, unit: of, origin: origin) }
          Working.new(title: title, formula: formula, inputs: rows, source: source, notes: notes)
        end
      end
    end
  end
end
