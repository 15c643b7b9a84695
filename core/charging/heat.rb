# frozen_string_literal: true

module Miser
  module Charging
    # What heat does to a stator: magnets lose flux, so it gives less and starts later; copper
    # gains resistance, so the knee is softer.
    class Heat
      # @!attribute output [Float] share of the cold output left
      # @!attribute cut_in [Float] cut-in speed, hot over cold
      # @!attribute knee [Float] hot over cold
      # @!attribute sigma [Float] doubt in the flux lost, a share
      attr_reader :output, :cut_in, :knee, :sigma

      # @param settings [Assumptions]
      def initialize(settings)
        @output = settings[:hot_stator]
        @cut_in = settings[:hot_cut_in]
        @knee = settings[:hot_knee]
        @sigma = settings[:hot_stator_sigma]
        @settings = settings
      end

      # @return [Array<Input>]
      def inputs = %w[hot_stator hot_cut_in hot_knee].map { |key| @settings.input(key) }
    end
  end
end
