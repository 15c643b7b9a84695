# frozen_string_literal: true

module Miser
  module Beam
    # How a photograph was exposed. A camera left to itself corrects itself: a dim beam
    # comes out as bright as a good one.
    class Exposure
      NAMES = { 'iso' => 'ISO', 'shutter_s' => 'shutter time', 'aperture' => 'aperture' }.freeze

      # @param document [Hash] iso, shutter_s (s), aperture (f-number)
      def initialize(document)
        @in = document
      end

      # @return [Array<String>] what the picture does not say
      def missing = NAMES.reject { |key, _| @in[key]&.positive? }.values

      # Brightness one scene is given, in stops over ISO 100, 1 s, f/1: log2(t·S / 100·N²), ISO 2720 and 12232.
      # @return [Float, nil] nil where the picture does not say
      def stops = missing.empty? ? Math.log2(@in['shutter_s'] * @in['iso'] / (100.0 * (@in['aperture']**2))) : nil

      # @return [String] ISO 400, 1/60 s, f/2.8
      def to_s = [iso, shutter, aperture].compact.join(', ')

      private

      def iso = @in['iso'] && format('ISO %d', @in['iso'])

      def shutter
        seconds = @in['shutter_s'] or return nil
        seconds < 0.4 ? format('1/%d s', (1 / seconds).round) : format('%g s', seconds.round(2))
      end

      def aperture = @in['aperture'] && format('f/%g', @in['aperture'].round(1))
    end
  end
end
