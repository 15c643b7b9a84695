# frozen_string_literal: true

module Miser
  module Draw
    # Which jack of the meter, before a lead is touched: expected amps with half
    # as much again must stay under the jack's fuse. Common practice.
    module Jack
      FUSE_A = 10.0
      MARGIN = 1.5
      BENCH_V = 12.5
      # A cold filament's first milliseconds: about ten times, common practice.
      INRUSH = 10.0

      module_function

      # @param load [Load]
      # @return [String]
      def words(load)
        return 'Draw unknown: start in the 10 A jack, never the milliamp jack.' unless load.known?

        amps = load.law.current([BENCH_V, load.law.min_v].max)
        jack = amps * MARGIN > FUSE_A ? 'over the 10 A jack: use a clamp meter' : '10 A jack'
        words = format('Expect about %.1f A at %.1f V: %s.', amps, BENCH_V, jack)
        load.filament? && load.document['group'] == 'lamp' ? format('%s At switching on about %.0f A for milliseconds, which no meter shows.', words, amps * INRUSH) : words
      end
    end
  end
end
