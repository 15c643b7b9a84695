# frozen_string_literal: true

module Miser
  module Signals
    # What a turn signal's rhythm must be.
    module Rhythm
      # Flashes a minute and lit share: SAE J590 and FMVSS 108 (from memory). UN rules
      # say 90 ± 30, which is the same.
      RATE = 60.0..120.0
      LIT = 0.30..0.75

      module_function

      # @param rate [Float] flashes a minute
      # @return [String] slow, normal, fast
      def word(rate)
        return 'normal' if RATE.cover?(rate)

        rate < RATE.begin ? 'slow' : 'fast'
      end

      # @return [String] the limits of the rate, for a sentence
      def rate_words = format('%.0f to %.0f', RATE.begin, RATE.end)

      # @return [String] the limits of the lit share, for a sentence
      def lit_words = format('%.0f to %.0f %%', LIT.begin * 100, LIT.end * 100)
    end
  end
end
