# frozen_string_literal: true

module Miser
  module Drill
    # What acts at the machine take: minutes and parts. Common practice, where nothing else is said.
    module Costs
      # @!attribute minutes [Float] @!attribute cents [Integer] of parts
      Cost = Struct.new(:minutes, :cents) do
        def +(other) = Cost.new(minutes + other.minutes, cents + other.cents)
        # @param rate [Float] cents a minute @return [Float] all of it as minutes
        def scalar(rate) = minutes + (cents / rate)
      end
      NOTHING = Cost.new(0.0, 0).freeze

      # Switches turned, and once round the machine.
      LOOK = Cost.new(0.5, 0).freeze
      READ = Cost.new(1.0, 0).freeze
      # Three clips off and on again.
      LEGS = Cost.new(2.0, 0).freeze
      UNPLUG = Cost.new(1.0, 0).freeze
      JUMPER = Cost.new(1.0, 0).freeze
      BENCH = Cost.new(2.0, 0).freeze
      # Somebody is asked: assumption.
      HINT = Cost.new(4.0, 0).freeze

      # Minutes until one can get at it, the first time.
      OPENINGS = { 'seat' => ['Seat and side cover off', 3.0], 'front' => ['Headlamp shell or handlebar cover open', 6.0],
                   'rear' => ['Tail cover off', 5.0], 'engine' => ['Cover over regulator and stator plug off', 6.0],
                   'lamp' => ['Lens off', 2.0], 'load' => ['At its plug', 3.0],
                   'wall' => ['Before the wall, at ten metres', 8.0] }.freeze

      # Minutes of the mending itself, and what it takes of parts, cents. Prices are an assumption.
      CURES = {
        'signals' => { 'reversed' => [2, 0], 'open' => [4, 900], 'earth' => [8, 50], 'pulled' => [10, 50], 'corroded' => [10, 50],
                       'bad_earth' => [8, 50],
                       'side_feed' => [20, 100], 'switch' => [25, 0], 'common_earth' => [10, 100],
                       'other_earth' => [8, 50], 'swapped' => [3, 0], 'single_in_dual' => [6, 900], 'touching' => [12, 0],
                       'bridge' => [20, 600], 'pinched' => [12, 100], 'crossed' => [8, 0], 'unearthed' => [10, 50],
                       'dead_flasher' => [10, 1800], 'stuck' => [10, 1800], 'wrong_flasher' => [10, 1800], 'in_series' => [15, 100],
                       'telltale' => [15, 300], 'feed' => [12, 50], 'lamp_test' => [20, 0], 'leaky' => [10, 1800], 'fuse' => [2, 40] },
        'wiring' => { 'dead' => [6, 2500], 'joint' => [10, 50], 'blown' => [3, 40], 'wire' => [12, 50], 'earth' => [10, 50],
                      'chafed' => [20, 150], 'coil' => [6, 700], 'contact' => [6, 700], 'welded' => [6, 700], 'trigger' => [8, 150],
                      'coil_earth' => [8, 50], 'box_fuse' => [3, 40], 'box_supply' => [10, 100], 'box_earth' => [10, 50],
                      'key_contact' => [30, 0], 'switch' => [25, 0] },
        'charging' => { 'leg_open' => [45, 500], 'leg_earthed' => [120, 18_000], 'turns' => [120, 18_000], 'diode' => [30, 9000],
                        'regulator_dead' => [30, 9000], 'regulator_low' => [30, 9000], 'regulator_high' => [30, 9000],
                        'output_joint' => [20, 300], 'regulator_earth' => [12, 50], 'battery_tired' => [12, 7000], 'drain' => [20, 50] },
        'fit' => { 'turned' => [5, 0], 'cocked' => [6, 0], 'depth' => [15, 4500], 'high' => [8, 0], 'low' => [8, 0], 'crossed' => [10, 0],
                   'film' => [1, 0], 'loose' => [6, 0] }
      }.freeze
      # Where a kind has none of its own.
      USUAL = [10, 100].freeze

      module_function

      # @param area [String] @param kind [String] @return [Cost]
      def cure(area, kind) = Cost.new(*CURES.dig(area, kind).then { |c| c || USUAL }.then { |m, c| [m.to_f, c] })

      # @param place [String, nil] such as seat, lamp:front_left @return [Cost]
      def opening(place) = place ? Cost.new(OPENINGS.fetch(place.split(':').first).last, 0) : NOTHING

      # @return [String]
      def opening_words(place) = OPENINGS.fetch(place.split(':').first).first
    end
  end
end
