# frozen_string_literal: true

require_relative 'seen'

module Miser
  module Signals
    # Whether a harness does in every state what a turn-signal circuit must.
    class Judgement
      # Volts and running lights at the ends of what a battery sees.
      CORNERS = [[Volts::FLAT_LIT, true], [Volts::FULL_CHARGE, false]].freeze
      RATE = Rhythm::RATE
      LIT = Rhythm::LIT

      # @!attribute command [String] @!attribute text [String]
      Problem = Struct.new(:key, :command, :text, keyword_init: true)

      attr_reader :views

      # One judgement for all who ask: running, then at the ends of what a battery sees.
      # @param harness [Harness] @param thresholds [Hash]
      def initialize(harness, thresholds:)
        @harness = harness
        @thresholds = thresholds
        @views = seen_at(Volts::RUNNING, true)
      end

      def works? = problems.empty?

      # @return [String, nil] said where nothing is wrong
      def words = works? ? 'Every lamp does what it should, in every state.' : nil

      # @return [Array<Problem>]
      def problems
        @problems ||= begin
          first = COMMANDS.flat_map { |c| judge(views[c]) }
          first + CORNERS.flat_map { |volts, lights| at_corner(volts, lights, first.map { |p| [p.key, p.command] }) }
        end
      end

      # @return [Float] A through the flasher, one side
      def side_a = views['left'].flasher_a

      private

      def seen_at(volts, lights) = COMMANDS.to_h { |c| [c, Seen.new(@harness, c, thresholds: @thresholds, volts: volts, lights: lights)] }

      # What goes wrong there and not already in the middle.
      def at_corner(volts, lights, known)
        seen_at(volts, lights).values.flat_map { |v| judge(v) }.reject { |p| known.include?([p.key, p.command]) }.map do |p|
          Problem.new(key: p.key, command: p.command, text: format('At %.1f V, lights %s: %s', volts, lights ? 'on' : 'off', p.text))
        end
      end

      def problem(key, view, text) = Problem.new(key: key, command: view.command, text: text)

      def judge(view)
        return [problem('fuse', view, "The fuse blows when #{said(view)}.")] if view.fuse_blows?

        [*own(view), *others(view), *rate(view), *telltale(view)]
      end

      def said(view)
        { 'off' => 'nothing is commanded', 'left' => 'left is commanded', 'right' => 'right is commanded',
          'hazard' => 'hazard is on' }[view.command]
      end

      def wanted?(lamp, view) = view.command == 'hazard' || lamp.side == view.command

      def own(view)
        return [] if view.command == 'off'

        @harness.lamps.select { |l| wanted?(l, view) }.filter_map do |l|
          looks = view.lamps[l.id].looks
          unless looks == 'flashes'
            problem("own_#{looks}", view,
              "#{l.name} #{{ 'steady' => 'stays on', 'dark' => 'stays dark' }.fetch(looks, "is only #{looks}")} when #{said(view)}.")
          end
        end
      end

      def others(view)
        @harness.lamps.reject { |l| wanted?(l, view) }.filter_map do |l|
          looks = view.lamps[l.id].looks
          unless looks == 'dark'
            problem("other_#{looks}", view,
              "#{l.name} #{{ 'ghost' => 'glows faintly', 'dim' => 'glows', 'steady' => 'is on' }.fetch(looks, looks)} when #{said(view)}.")
          end
        end
      end

      def rate(view)
        return [] unless view.pattern.flashes?

        list = []
        rate = view.pattern.rate
        unless RATE.cover?(rate)
          list << problem(rate > RATE.end ? 'fast' : 'slow', view,
            format('%.0f flashes a minute when %s; the limits are %s.', rate, said(view), Rhythm.rate_words))
        end
        share = view.pattern.on_share
        unless LIT.cover?(share)
          list << problem('on_share', view,
            format('Lit %.0f %% of the time when %s; the limits are %s.', share * 100, said(view), Rhythm.lit_words))
        end
        list
      end

      def telltale(view)
        return [] if view.command == 'off'

        fast = view.pattern.telltale_rate
        list = []
        if fast && fast > RATE.end
          list << problem('telltale_fast', view,
            format('The dash tell-tale flashes %.0f a minute when %s, and the controller stores a fault.', fast, said(view)))
        end
        shown = view.telltales
        dead = shown.any? && shown.values.none? { |t| t.looks == 'flashes' } && view.pattern.flashes?
        # A shared tell-tale lies between equal volts in hazard, filament or LED: it never lights then.
        if dead && !(view.command == 'hazard' && @harness.telltale.wiring == 'shared')
          list << problem('telltale_dark', view, "The tell-tale never lights when #{said(view)}.")
        end
        list
      end
    end
  end
end
