# frozen_string_literal: true

require_relative 'comparison'
require_relative 'photometry'

module Miser
  module Beam
    # What a photometry file foretells of a wall: as far off, as high and as far down as
    # asked, else as the wall that was read.
    class Foretold
      # @return [Float] share that the beam is aimed down
      attr_reader :down

      # @param photometry [Photometry]
      # @param asked [Hash] distance_m, height_m, down; what is absent follows the others
      # @param aim [Float] inclination of the job's school, below 0 is down
      # @param height [Float, nil] m, the lamp over the floor
      # @param measured [Wall, nil] what was read after the change
      # @param settings [Assumptions]
      def initialize(photometry, asked:, aim:, height:, measured:, settings: Assumptions.new)
        @photometry = photometry
        @settings = settings
        @asked = asked
        @down = asked['down'] || -aim
        @height = asked['height_m'] || height
        @measured = measured
      end

      # @return [Hash] place and size of the wall
      def frame = (@measured ? Wall::FRAME.zip(@measured.frame).to_h : Wall::USUAL).merge({ 'distance_m' => @asked['distance_m'] }.compact)

      # @return [Wall] dark where none of the light falls on it
      def wall = @wall ||= @photometry.wall(frame, down: down, settings: @settings)

      # @return [Float, nil] m, where the floor meets the wall, from the lamp's axis
      def floor = @height && -@height

      # The measured wall against this one, where both stand at one distance.
      # @param line [Float] m, the cut-off from the axis
      # @return [String, nil]
      def beside(line)
        return unless @measured && wall.lit? && frame['distance_m'] == @measured.distance

        Comparison.new(wall, @measured, line).beside
      rescue WallsApart
        'Read with a telephone: relative, and not to be held against the file.'
      end
    end
  end
end
