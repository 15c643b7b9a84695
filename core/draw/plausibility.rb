# frozen_string_literal: true

require_relative '../volts'
require_relative 'filament'
require_relative 'suspect'

module Miser
  module Draw
    # Places a reading in the window its lamp's rating leads one to expect; outside
    # it, ranks the reasons there may be and suspects slips of unit aloud.
    class Plausibility
      SLIPS = %w[milliamps watts amps_as_milliamps point_right point_left exchanged].freeze
      # V that a lamp of 12 V may really have: what else was read as volts is none.
      LAMP_V = (9.0..16.5)
      # No lamp draws so much; said even where no rating is known.
      ABSURD_A = 40.0

      attr_reader :low, :high, :expected, :verdict, :suspects

      # @param amps [Float] the reading
      # @param volts [Float] at the lamp
      # @param rated_w [Float, nil] rating at 12 V; nil where unknown
      # @param filament [Boolean] whether a filament lamp is expected there
      # @param width [Float] half-width of the window, as a share
      # @param volts_at_lamp [Boolean] whether volts were read at the lamp itself
      # @param other_w [Array<Float>] W of the base's other filaments
      def initialize(amps:, volts:, rated_w: nil, filament: true, width: 0.2, volts_at_lamp: true, other_w: [])
        @amps = amps
        @volts = volts
        @filament = filament
        @verdict = :unknown
        @suspects = []
        rated_w&.positive? ? place(rated_w, width, volts_at_lamp, other_w) : absurd
      end

      # @return [Array<String>] reasons with their checks, the likeliest first
      def remarks = @remarks ||= suspects.map { |s, _| s.words(@evidence) }

      private

      def place(rated_w, width, at_lamp, other_w)
        @expected = takes(rated_w)
        @low = @expected * (1 - width)
        @high = @expected * (1 + width)
        return @verdict = :expected if @amps.between?(low, high)

        @evidence = Suspect::Evidence.new(amps: @amps, volts: @volts, expected: expected, low: low, high: high,
          others: other_w.map { |w| takes(w) },
          filament: @filament, at_lamp: at_lamp, rated_w: rated_w, crossed: crossed(rated_w))
        @suspects = Suspect.ranked(@evidence)
        @verdict = SLIPS.include?(suspects.first&.first&.key) ? :slip : :outside
      end

      # What would be looked for, were the amps the volts.
      def crossed(watts) = LAMP_V.cover?(@amps) && !LAMP_V.cover?(@volts) ? takes(watts, @amps) : nil

      def takes(watts, volts = @volts)
        @filament ? Filament.new(volts: Volts::NOMINAL, amps: watts / Volts::NOMINAL).current(volts) : watts / volts
      end

      def absurd
        return unless @amps > ABSURD_A

        @verdict = :slip
        @remarks = [format('No lamp draws %g A. If the meter read milliamps, that is %.2f A.', @amps, @amps / 1000)]
      end
    end
  end
end
