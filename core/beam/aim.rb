# frozen_string_literal: true

require_relative '../assumptions'
require_relative '../figure'
require_relative '../length'

module Miser
  module Beam
    # Where the dipped beam's cut-off belongs on the wall, and how far the adjuster has
    # to turn. Inclinations are shares: −0.01 is one per cent down.
    class Aim
      # @!attribute low, high [Float] lowest and highest inclination allowed
      # @!attribute target [Float] to aim for
      School = Struct.new(:key, :label, :low, :high, :target, :source, keyword_init: true)

      SCHOOLS = [
        School.new(key: 'regulation', label: 'regulation: 0.5 to 2.5 % down, rider aboard', low: -0.025, high: -0.005, target: -0.01,
          source: 'UN Regulation 53, not checked against its text'),
        School.new(key: 'inches', label: '2 in down at 25 ft', low: -0.025, high: -0.005, target: -2 * Length::INCH / (25 * Length::FOOT),
          source: 'common practice'),
        School.new(key: 'ride', label: 'ride and see: start 1 % down', low: -0.025, high: -0.005, target: -0.01, source: 'common practice')
      ].freeze
      BY_KEY = SCHOOLS.to_h { |s| [s.key, s] }.freeze

      # @param entered [Hash] the job's aim @param settings [Assumptions]
      def initialize(entered, settings = Assumptions.new)
        @in = entered
        @settings = settings
      end

      def school = BY_KEY.fetch(@in['school'] || 'regulation')

      # @return [Figure] m the cut-off lies under the lamp's centre, rider aboard
      def drop
        figure('m', %w[distance_m]) { -school.target * @in['distance_m'] }.then do |f|
          work(f, 'Drop at the wall', 'drop = distance × inclination',
            [%w[Distance distance_m m], ['Inclination', school.target, '1']], school.source)
        end
      end

      # @return [Figure] m over the floor, rider aboard
      def height
        figure('m', %w[distance_m lamp_height_m]) { @in['lamp_height_m'] + (school.target * @in['distance_m']) }.then do |f|
          work(f, 'Height of the cut-off', 'h = lamp height + distance × inclination',
            [['Lamp height', 'lamp_height_m', 'm'], ['Distance', 'distance_m', 'm'], ['Inclination', school.target, '1']], school.source)
        end
      end

      # @return [Array(Float, Float), nil] m, least and most drop allowed
      def limits = @in['distance_m'] && [-school.high * @in['distance_m'], -school.low * @in['distance_m']]

      # How far rider and luggage tip the machine, nose up.
      # @return [Figure] share; atan((rear sag − front sag) / wheelbase)
      def pitch
        figure('1', %w[rear_sag_m front_sag_m wheelbase_m]) { Math.tan(pitch_angle) }
          .then do |f|
          work(f, 'Pitch by rider and luggage', 'atan((rear sag − front sag) / wheelbase)',
            [['Rear sag', 'rear_sag_m', 'm'], ['Front sag', 'front_sag_m', 'm'], ['Wheelbase', 'wheelbase_m', 'm']], 'geometry')
        end
      end

      # @return [Float, nil] degrees
      def pitch_degrees = pitch.known? ? pitch_angle * 180 / Math::PI : nil

      # Drop to set with nobody aboard, so that it is right with the rider.
      # @return [Figure] m
      def drop_unladen
        return Figure.unknown('m', drop.reason || pitch.reason) unless drop.known? && pitch.known?

        value = @in['distance_m'] * Math.tan(-Math.atan(school.target) + pitch_angle)
        work(Figure.new(value, 'm'), 'Drop with nobody aboard', 'distance × tan(target + pitch)',
          [%w[Distance distance_m m], ['Target', school.target, '1'], ['Pitch', pitch.value, '1']],
          'geometry')
      end

      # @return [Figure] share, as the beam is now; from the drop measured
      def inclination = figure('1', %w[now_drop_m distance_m]) { -@in['now_drop_m'] / @in['distance_m'] }

      # Turns of the adjuster to the target; above 0 lowers the beam.
      # @return [Figure] lever · tan(Δ) / pitch of the thread
      def turns
        goal = @in['aboard'] == false && drop_unladen.known? ? drop_unladen.value : drop.value
        known = figure('1', %w[now_drop_m distance_m lever_m thread_pitch_m]) do
          change = Math.atan(goal / @in['distance_m']) - Math.atan(@in['now_drop_m'] / @in['distance_m'])
          @in['lever_m'] * Math.tan(change) / @in['thread_pitch_m']
        end
        work(known, 'Turns of the adjuster', 'lever · tan(Δ) / pitch',
          [['Lever', 'lever_m', 'm'], ['Pitch of its thread', 'thread_pitch_m', 'm'], ['Drop now', 'now_drop_m', 'm'],
            ['Drop wanted', goal, 'm']], 'geometry')
      end

      # Turns of the adjuster that bring back the exposed thread as it was found.
      # @return [Figure] (found − now) / pitch; above 0 lengthens it
      def restore
        known = figure('1', %w[thread_m thread_now_m thread_pitch_m]) { (@in['thread_m'] - @in['thread_now_m']) / @in['thread_pitch_m'] }
        work(known, 'Turns back to the thread as found', '(found − now) / pitch',
          [['Exposed thread, as found', 'thread_m', 'm'], ['Exposed thread, now', 'thread_now_m', 'm'],
            ['Pitch of its thread', 'thread_pitch_m', 'm']], 'geometry')
      end

      # @return [String] within, high, low or unknown
      def verdict
        return 'unknown' unless inclination.known?

        laden = inclination.value + (@in['aboard'] == false && pitch.known? ? pitch.value : 0.0)
        return 'high' if laden > school.high

        laden < school.low ? 'low' : 'within'
      end

      VERDICTS = { 'within' => 'Within the limits.', 'high' => 'Too high: it blinds.', 'low' => 'Too low: little to see by.',
                   'unknown' => '' }.freeze

      # @return [String]
      def verdict_words = VERDICTS.fetch(verdict)

      # @return [Boolean] whether the lines on the wall can be drawn
      def ready? = height.known?

      # @return [String, nil] which way the adjuster turns
      def turn_words
        return unless turns.known? && !turns.value.zero?

        "turns, to #{turns.value.positive? ? 'lower' : 'raise'} the beam"
      end

      # @return [String, nil]
      def restore_words
        return unless restore.known? && !restore.value.zero?

        "turns, to #{restore.value.positive? ? 'lengthen' : 'shorten'} it"
      end

      # Slips of unit in the exposed thread, before a ball joint is popped.
      # @return [Array<String>]
      def thread_slips
        length = @in['thread_m']
        again = @in['thread_again_m']
        [length && out_of_bounds(length), length && again && disagree(length, again)].compact
      end

      private

      def pitch_angle = Math.atan((@in['rear_sag_m'] - @in['front_sag_m']) / @in['wheelbase_m'])

      NAMES = { 'distance_m' => 'distance to the wall', 'lamp_height_m' => 'height of the lamp', 'rear_sag_m' => 'rear sag',
                'front_sag_m' => 'front sag', 'wheelbase_m' => 'wheelbase',
                'now_drop_m' => 'drop as it is now', 'lever_m' => 'lever of the adjuster', 'thread_m' => 'exposed thread as found',
                'thread_now_m' => 'exposed thread now',
                'thread_pitch_m' => 'pitch of its thread' }.freeze
      private_constant :NAMES

      def figure(unit, needs)
        missing = needs.reject { |n| @in[n] }
        missing.empty? ? Figure.new(yield, unit) : Figure.unknown(unit, "measure: #{missing.map { |n| NAMES.fetch(n) }.join(', ')}")
      end

      def work(figure, title, formula, inputs, source)
        return figure unless figure.known?

        Figure.new(figure.value, figure.unit) do
          rows = inputs.map do |name, at, unit|
            Input.new(name: name, value: at.is_a?(String) ? @in[at] : at, unit: unit, origin: at.is_a?(String) ? 'entered' : school.label)
          end
          Working.new(title: title, formula: formula, inputs: rows, source: source, notes: ['The local rule wins over any of these.'])
        end
      end

      def out_of_bounds(length)
        return if length.between?(@settings[:thread_least_m], @settings[:thread_most_m])

        if length < @settings[:thread_least_m]
          format('%.2f mm is hardly any thread. If that was inches, it is %.1f mm.', length * 1000, length * 1000 * 25.4)
        else
          format('%.0f mm is more thread than an adjuster has. Check the unit.', length * 1000)
        end
      end

      def disagree(length, again)
        return if (length - again).abs <= @settings[:thread_alike] * length

        format('Read twice and not alike: %.1f mm (%.3f in) and %.1f mm (%.3f in). A unit has slipped.', length * 1000, length / Length::INCH,
          again * 1000, again / Length::INCH)
      end
    end
  end
end
