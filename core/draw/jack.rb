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

      LEADS = 'Black lead in COM, red lead in the 10 A jack. Range: 10 A DC.'
      # What is done on the machine for a load that nobody takes off it, by role. Common practice.
      ON_MACHINE = {
        'ignition' => 'Engine idling: it draws by engine speed.',
        'injection' => 'Engine idling: it draws by engine speed.',
        'fuel_pump' => 'It runs for some seconds at key on, then with the engine: read while it runs.',
        'fan' => 'It runs when the engine is hot: wait for it, and read once it is up to speed.',
        'controller' => 'Key on; let it wake for some seconds.',
        'instruments' => 'Key on; let the needles settle.',
        'grips' => 'On full, held until they are warm: they take less then.',
        'charger' => 'With what it charges plugged in and low.',
        'tracker' => 'Awake, and once more an hour later with the key out: that is its key-off draw.'
      }.freeze
      CAUTIONS = { 'fuel_pump' => %w[fuel], 'injection' => %w[fuel running_engine], 'ignition' => %w[high_tension running_engine],
                   'fan' => %w[running_engine], 'load_resistor' => %w[resistor_hot] }.freeze

      # @!attribute amps [Float, nil] expected at bench volts, whatever was read
      # @!attribute range_a [Float, nil] to set; nil where a clamp meter is wanted
      # @!attribute words [String] in one line
      # @!attribute steps [Array<String>] what to do, in order
      # @!attribute cautions [Array<String>] keys
      Plan = Struct.new(:amps, :range_a, :words, :steps, :cautions, keyword_init: true)

      module_function

      # @param load [Load] @param unread [Load] the same as if nothing had been read on it
      # @return [Plan]
      def plan(load, unread: load)
        amps = draw(unread)
        # What was read tells which jack, never what to expect.
        most = [amps, draw(load)].compact.max
        return clamp(load, amps || most) if most && most * MARGIN > FUSE_A

        Plan.new(amps: amps, range_a: FUSE_A,
          words: amps ? series_words(load, amps) : 'Draw unknown: start in the 10 A jack, never the milliamp jack.',
          steps: lamp?(load) ? lamp_steps(load) : machine_steps(load), cautions: cautions(load))
      end

      def draw(load) = load.known? ? load.law.current([Volts::BENCH, load.law.min_v].max) : nil

      def lamp?(load) = load.role.nil? || load.role.group == 'lamp'

      def cautions(load) = lamp?(load) ? %w[lamp_hot] : CAUTIONS.fetch(load.role.key, [])

      # @return [String]
      def words(load) = plan(load).words

      def series_words(load, amps)
        words = format('Expect about %.1f A at %.1f V: 10 A jack.', amps, Volts::BENCH)
        return words unless load.filament? && lamp?(load)

        format('%s At switching on about %.0f A for milliseconds, which no meter shows.', words, amps * INRUSH)
      end

      def lamp_steps(load)
        [LEADS,
          "Battery + to the red lead, the black lead to #{CONTACTS.fetch(load.rated_filament&.name, 'the feed contact')}; " \
          'the lamp’s earth to battery −.',
          'Nothing else lit. Lamp shaded, face turned away.']
      end

      # In the place of its fuse: what else that fuse feeds is read with it.
      def machine_steps(load)
        [LEADS,
          'Key out. Pull the fuse that feeds it and put the two leads in its place; unplug what else that fuse feeds.',
          on_machine(load)]
      end

      def on_machine(load)
        lamp?(load) ? 'Lamp on the machine, battery charged.' : ON_MACHINE.fetch(load.role.key, 'Switch it on as it is used.')
      end

      def clamp(load, amps)
        Plan.new(amps: amps, range_a: nil, cautions: cautions(load),
          words: format('Expect about %.1f A at %.1f V: over the 10 A jack: use a clamp meter.', amps, Volts::BENCH),
          steps: ['Clamp meter on DC amps, zeroed, round the feed wire alone; no lead in series.', on_machine(load), 'Type what it shows.'])
      end
    end
  end
end
