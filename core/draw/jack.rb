# frozen_string_literal: true

require_relative '../volts'

module Miser
  module Draw
    # Which lead, jack and range of the meter, before anything is touched: expected
    # amps with half as much again must stay under the jack's fuse. Common practice.
    module Jack
      FUSE_A = 10.0
      MARGIN = 1.5
      # A cold filament's first milliseconds: about ten times, common practice.
      INRUSH = 10.0

      # Filament of a base => the contact it hangs on.
      CONTACTS = { 'low' => 'the low-beam contact', 'high' => 'the high-beam contact', 'bright' => 'the bright contact (brake or signal)',
                   'dim' => 'the dim contact (tail or running)' }.freeze

      # @!attribute amps [Float, nil] expected at bench volts
      # @!attribute range_a [Float, nil] to set; nil where a clamp meter is wanted
      # @!attribute words [String] in one line
      # @!attribute steps [Array<String>] what to do, in order
      Plan = Struct.new(:amps, :range_a, :words, :steps, keyword_init: true)

      module_function

      # @param load [Load]
      # @return [Plan]
      def plan(load)
        amps = load.known? ? load.law.current([Volts::BENCH, load.law.min_v].max) : nil
        return clamp(amps) if amps && amps * MARGIN > FUSE_A

        Plan.new(amps: amps, range_a: FUSE_A,
          words: amps ? series_words(load, amps) : 'Draw unknown: start in the 10 A jack, never the milliamp jack.',
          steps: series_steps(load))
      end

      # @return [String]
      def words(load) = plan(load).words

      def series_words(load, amps)
        words = format('Expect about %.1f A at %.1f V: 10 A jack.', amps, Volts::BENCH)
        if load.filament? && load.document['group'] == 'lamp'
          format(
            '%s At switching on about %.0f A for milliseconds, which no meter shows.', words, amps * INRUSH
          )
        else
          words
        end
      end

      def series_steps(load)
        ['Black lead in COM, red lead in the 10 A jack. Range: 10 A DC.',
          "Battery + to the red lead, the black lead to #{CONTACTS.fetch(load.document['filament'],
            'the feed contact')}; the lamp’s earth to battery −.",
          'Nothing else lit. Lamp shaded, face turned away.']
      end

      def clamp(amps)
        Plan.new(amps: amps, range_a: nil,
          words: format('Expect about %.1f A at %.1f V: over the 10 A jack: use a clamp meter.', amps, Volts::BENCH),
          steps: ['Clamp meter on DC amps, zeroed, round the feed wire alone; no lead in series.',
            'Lamp on the machine, battery charged.', 'Type what it shows.'])
      end
    end
  end
end
