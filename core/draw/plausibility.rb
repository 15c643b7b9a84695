# frozen_string_literal: true

require_relative 'filament'

module Miser
  module Draw
    # Places a reading in the window its lamp's rating leads one to expect, and
    # suspects slips of unit aloud.
    class Plausibility
      NOMINAL_V = 12.0

      attr_reader :low, :high, :expected, :verdict, :remarks

      # @param amps [Float] the reading
      # @param volts [Float] at the lamp
      # @param rated_w [Float, nil] rating at 12 V; nil where unknown
      # @param filament [Boolean] whether a filament lamp is expected there
      # @param width [Float] half-width of the window, as a share
      # @param volts_at_lamp [Boolean] whether volts were read at the lamp itself
      def initialize(amps:, volts:, rated_w: nil, filament: true, width: 0.2, volts_at_lamp: true)
        @amps = amps
        @volts = volts
        @rated_w = rated_w
        @filament = filament
        @volts_at_lamp = volts_at_lamp
        @remarks = []
        @verdict = :unknown
        place(width) if rated_w&.positive?
        suspect_units
      end

      private

      def place(width)
        @expected = @filament ? Filament.new(volts: NOMINAL_V, amps: @rated_w / NOMINAL_V).current(@volts) : @rated_w / @volts
        @low = @expected * (1 - width)
        @high = @expected * (1 + width)
        @verdict = @amps.between?(@low, @high) ? :expected : :outside
        return if @verdict == :expected || slip

        @amps < @low ? explain_low : explain_high
      end

      def explain_low
        @remarks << if @volts_at_lamp then 'Low for its rating. Check that the volts were read at the lamp itself, with it lit.'
                    else 'Low for its rating. Read the volts at the lamp itself: battery sag and leads take their share.'
                    end
        @remarks << 'Check lead and meter resistance, the joints, and that this is the terminal meant.'
        @remarks << 'The lamp may be of another rating: read the marking on its cap.' if @filament
      end

      def explain_high
        @remarks << 'High for its rating. Check whether two filaments are lit, or another load shares the feed.'
        @remarks << 'The lamp may be of another rating: read the marking on its cap.' if @filament
      end

      def slip
        return nil unless @expected

        @slip ||= if (@amps / 1000).between?(@low, @high) then format('This looks like milliamps: %g mA is %.2f A.', @amps, @amps / 1000)
                  elsif watts?(@amps) then format('This looks like watts: %g W at %.1f V is %.2f A.', @amps, @volts, @amps / @volts)
                  elsif (@amps * 1000).between?(@low, @high) then format('This looks like amps entered as milliamps: did the meter say %.2f A?', @amps * 1000)
                  end
      end

      def watts?(amps) = (amps / @rated_w).between?(0.7, 1.3) && amps > 2 * @high

      def suspect_units
        if slip
          @verdict = :slip
          @remarks.unshift(slip)
        elsif !@rated_w && @amps > 40
          @verdict = :slip
          @remarks << format('No lamp draws %g A. If the meter read milliamps, that is %.2f A.', @amps, @amps / 1000)
        end
      end
    end
  end
end
