# frozen_string_literal: true

require_relative '../assumptions'
require_relative 'exposure'

module Miser
  module Beam
    # Photographs of one beam, before and after: whether they may be laid side by side.
    class PicturePair
      # @param before, after [Hash] as the job keeps them @param settings [Assumptions]
      def initialize(before, after, settings: Assumptions.new)
        @before = before
        @after = after
        @settings = settings
      end

      # @return [Float, nil] stops the second was given more than the first
      def stops
        first, second = exposures.map(&:stops)
        first && second && (second - first)
      end

      def comparable? = !stops.nil? && stops.abs <= @settings[:photo_stops]

      # @return [String] why, or why not
      def words
        return "Not to be compared: #{silent.join('; ')}. Whether the exposure was locked can’t be told." unless stops
        return format('Exposed alike: %.1f stop apart.', stops.abs) if comparable?

        format('Not to be compared: the picture after was given %<n>.1f stops %<way>s (%<before>s, then %<after>s). Lock the exposure and take both again.',
          n: stops.abs, way: stops.positive? ? 'more' : 'less', before: exposures[0], after: exposures[1])
      end

      # What else differs, though the exposure is the same.
      # @return [Array<String>]
      def notes
        lengths = [@before, @after].map { |p| p['focal_mm'] }
        zoomed = lengths.all? && (lengths[0] - lengths[1]).abs > @settings[:photo_zoom] * lengths.max
        size = zoomed ? [format('Lenses of %g and %g mm: the wall is not shown at one size.', *lengths)] : []
        flashed = { 'before' => @before, 'after' => @after }.select { |_, p| p['flash'] }.keys
        size + flashed.map { |side| "A flash lit the picture #{side}: its wall is not the lamp’s alone." } + burnt
      end

      private

      # Lamps that differ twofold look alike where both are white.
      def burnt
        { 'before' => @before, 'after' => @after }.filter_map do |side, p|
          next unless p['burnt'] && p['burnt'] > @settings[:photo_burnt]

          format(
            '%.0f %% of the picture %s is burnt out: what is brighter than white does not show. Expose for the brightest spot and lock it there.', p['burnt'] * 100, side
          )
        end
      end

      def exposures = @exposures ||= [@before, @after].map { |p| Exposure.new(p) }

      def silent
        %w[before
          after].zip(exposures).filter_map do |side, e|
          "the picture #{side} does not say its #{e.missing.join(', ')}" if e.missing.any?
        end
      end
    end
  end
end
