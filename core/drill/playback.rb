# frozen_string_literal: true

require_relative 'session'

module Miser
  module Drill
    # A drill that ended, step by step, with the circuit as it really was: volts along the way that the fault lies in, beside those that
    # there should have been.
    class Playback
      # @!attribute number [Integer] @!attribute words [String] @!attribute looks [Hash{String=>String}] of every light
      # @!attribute ways [Array<Hash>] of each hidden fault: suspect, points with volts and sound volts
      Frame = Struct.new(:number, :words, :looks, :ways, keyword_init: true)

      # @param session [Session]
      def initialize(session)
        @session = session
        @machine = session.machine
      end

      # @return [Array<Frame>] one for each thing that was looked at, read or mended
      def frames
        mended = []
        @session.entries.each_with_index.filter_map do |entry, n|
          mended << entry.act.fault if entry.well
          next unless entry.act.tells? || entry.act.kind == 'cure'

          Frame.new(number: n + 1, words: entry.words, looks: looks(entry.state, mended), ways: ways(entry, mended))
        end
      end

      private

      def hidden(mended) = @session.exercise.hidden.reject { |h| mended.include?(h.suspect.place_id) }

      def there(area, mended) = hidden(mended).select { |h| h.area.equal?(area) }.map(&:suspect)

      def looks(state, mended) = @machine.areas.map { |s| s.looks(there(s, mended), state) }.reduce({}, :merge)

      def ways(entry, mended)
        @session.exercise.hidden.filter_map do |h|
          way = h.area.way(h.suspect)
          next if way.empty?

          { suspect: h.suspect, points: way.map { |p| [p, *[there(h.area, mended), []].map { |s| volts(h.area, s, entry.state, p) }] } }
        end
      end

      def volts(area, suspects, state, point) = area.read(suspects, state, 'volts', point.id, '0')
    end
  end
end
