# frozen_string_literal: true

require_relative 'filament'

module Miser
  module Draw
    # A reason why a reading lies where it does, with the check that tells it from
    # the others. Each is declared below with how well it explains the evidence.
    class Suspect
      # How far off, as a share, an explanation is still 0.6 of one on the spot: assumption.
      NEAR = 0.08
      # The watts of a display lie further from a rating than amps do: assumption.
      WATTS_NEAR = 0.2
      MILLI = 1000.0
      TEN = 10.0
      # V under which no battery sags and no lead drops while a lamp is lit: assumption.
      LOWEST_V = 6.0
      # Share of what was looked for that counts as nothing; share by which two filaments differ: assumptions.
      NOTHING = 0.02
      APART = 0.15
      # How likely each is that no figure tells from the rest, against one that is on the spot: assumptions.
      LIKELY = { 'wrong_jack' => 0.9, 'lead_drop' => 0.6, 'overclaimed' => 0.6, 'battery_sag' => 0.5, 'other_rating' => 0.5,
                 'not_warm' => 0.4, 'shared_feed' => 0.3 }.freeze
      # What is left of a sagging battery and of leads that drop, where volts were read at the lamp: assumption.
      AT_LAMP = { 'battery_sag' => 0.4, 'lead_drop' => 0.25 }.freeze

      # What was read and what was looked for.
      # @!attribute amps, volts, expected, low, high [Float] A and V
      # @!attribute others [Array<Float>] A of the base's other filaments
      # @!attribute filament [Boolean] @!attribute at_lamp [Boolean] volts read there
      # @!attribute rated_w [Float]
      # @!attribute crossed [Float, nil] A looked for at the amps read, were they volts; nil where no lamp has such
      Evidence = Struct.new(:amps, :volts, :expected, :low, :high, :others, :filament, :at_lamp, :rated_w, :crossed, keyword_init: true) do
        def low? = amps < low
        def high? = amps > high

        # How near the reading, taken another way, comes to what was looked for.
        # @return [Float] 1 on the spot, 0.6 at 8 % off
        def near(value, goal = expected) = value.positive? && goal.positive? ? Math.exp(-0.5 * ((Math.log(value / goal) / NEAR)**2)) : 0.0

        # Volts that a filament would need to draw so little.
        def implied_v = volts * ((amps / expected)**(1 / Filament.exponent))

        # Whether low volts at a filament can be behind it.
        def starved? = low? && filament && implied_v > LOWEST_V
      end

      attr_reader :key, :says, :check

      def initialize(key, says, check, &score)
        @key = key
        @says = says
        @check = check
        @score = score
      end

      # @return [Float] 0 to 1
      def score(evidence)
        fits = @score.call(evidence) or return 0.0
        (fits == true ? 1.0 : fits) * LIKELY.fetch(key, 1.0) * (evidence.at_lamp ? AT_LAMP.fetch(key, 1.0) : 1.0)
      end

      # @return [String]
      def words(evidence) = "#{says.respond_to?(:call) ? says.call(evidence) : says} #{check}"

      LISTED_W = [4, 5, 10, 15, 18, 21, 25, 35, 45, 55, 60, 65, 80, 100].freeze

      TABLE = [
        new('point_right', ->(e) { format('%.3g A meant? The point looks slipped.', e.amps / TEN) }, 'Read the display again.') do |e|
          e.near(e.amps / TEN)
        end,
        new('point_left', ->(e) { format('%.3g A meant? The point looks slipped.', e.amps * TEN) }, 'Read the display again.') do |e|
          e.near(e.amps * TEN)
        end,
        new('exchanged', ->(e) { format('Volts and amps look exchanged: %.3g A at %.3g V meant?', e.volts, e.amps) },
          'Look at both fields again.') { |e| e.crossed && e.near(e.volts, e.crossed) },
        new('milliamps', ->(e) { format('This looks like milliamps: %g mA is %.2f A.', e.amps, e.amps / MILLI) },
          'Read the unit on the display.') { |e| e.near(e.amps / MILLI) },
        new('watts', ->(e) { format('This looks like watts: %g W at %.1f V is %.2f A.', e.amps, e.volts, e.amps / e.volts) },
          'Read the unit on the display.') do |e|
          # Only where what they come to is looked for.
          (e.amps / e.volts).between?(e.low, e.high) && (e.near(e.amps, e.rated_w)**WATTS_NEAR)
        end,
        new('amps_as_milliamps', ->(e) { format('This looks like amps entered as milliamps: %.2f A?', e.amps * MILLI) },
          'Read the unit on the display.') { |e| e.near(e.amps * MILLI) },
        new('wrong_jack', 'Nothing flows: the lead is in the wrong jack, or that jack’s fuse is blown.',
          'Short the leads on the ohms range: a blown fuse reads open.') { |e| e.amps < NOTHING * e.expected },
        new('both_filaments', 'Both filaments are lit.',
          'Take the lead off the other terminal: the reading falls by half.') do |e|
          e.high? && e.others.map { |o| e.near(e.amps, e.expected + o) }.max
        end,
        new('wrong_terminal', 'The other filament is lit: the lead is on the wrong terminal.',
          'See which filament glows, or read the marks beside the terminals.') do |e|
          e.others.select { |o| (o - e.expected).abs > APART * e.expected }.map { |o| e.near(e.amps, o) }.max
        end,
        new('battery_sag', ->(e) { format('The battery sags: it would take %.1f V at the lamp.', e.implied_v) },
          'Read the volts at the lamp itself, lit.', &:starved?),
        new('lead_drop', lambda { |e|
          format('Leads, meter or a joint take %.1f V: about %.2f Ω.', e.volts - e.implied_v, (e.volts - e.implied_v) / e.amps)
        },
          'Read the volts at the battery and at the lamp, both lit; the difference is the leads’.', &:starved?),
        new('other_rating', ->(e) { format('A lamp of another rating: about %g W.', nearest(e)) },
          'Read the marking on its cap.') { |e| e.filament && e.near(e.amps, nearest(e) / e.rated_w * e.expected) },
        new('shared_feed', 'Another load shares the feed.',
          'Unplug the lamp: what is still drawn is another’s.', &:high?),
        new('overclaimed', 'It takes less than it was sold as: common with LED units.',
          'Take a second reading at another voltage; if it agrees, the label was wrong.') { |e| e.low? && !e.filament },
        new('not_warm', 'It was read before it had settled.',
          'Watch it for some minutes, or take a series.') { |e| e.high? && !e.filament }
      ].freeze

      def self.nearest(evidence) = LISTED_W.min_by { |w| Math.log(evidence.amps / (w / evidence.rated_w * evidence.expected)).abs }

      LEAST = 0.1

      # @param evidence [Evidence]
      # @return [Array<Array(Suspect, Float)>] best explanation first
      def self.ranked(evidence)
        TABLE.map { |s| [s, s.score(evidence)] }.select { |_, score| score >= LEAST }.sort_by { |s, score| [-score, TABLE.index(s)] }
      end
    end
  end
end
