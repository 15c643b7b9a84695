# frozen_string_literal: true

require_relative 'signals'

module Miser
  module Drill
    # What a rider notices of turn signals, in every state, against how they were.
    class SignalSigns
      # @param harness [Signals::Harness] @param views [Hash{String=>Signals::Seen, nil}] by command @param sound [Hash] the same, all well
      def initialize(harness, views, sound)
        @harness = harness
        @views = views.compact
        @sound = sound
      end

      # @return [Array<Sign>]
      def all = @views.flat_map { |command, view| of(command, view, @sound.fetch(command)) }.map { |key, subject| Sign.new(key, subject) }.uniq

      private

      def of(command, view, sound)
        return [['fuse', command]] if view.fuse_blows?
        return idle(command, view, sound) if view.idle?

        [*rhythm(command, view, sound), *own(command, view), *others(command, view, sound), *dash(command, view, sound), *lights(command, view, sound)]
      end

      def own_lamps(command) = command == 'hazard' ? @harness.lamps : @harness.side(command)

      def rhythm(command, view, sound)
        dark = own_lamps(command).all? { |l| view.lamps[l.id].looks == 'dark' }
        return [['dead', command]] if dark

        word = view.rate_word
        word == sound.rate_word || !%w[fast slow steady].include?(word) ? [] : [[word, command]]
      end

      def own(command, view)
        looks = own_lamps(command).to_h { |l| [l.id, view.lamps[l.id].looks] }
        some = looks.values.any? { |l| %w[flashes steady].include?(l) }
        looks.filter_map { |id, l| { 'dark' => ['one_dark', id], 'dim' => ['weak', id], 'ghost' => ['weak', id] }[l] if some || l != 'dark' }
      end

      # Lamps of the other side that answer as well.
      def others(command, view, sound)
        return [] if command == 'hazard'

        lit = (@harness.lamps - own_lamps(command)).any? { |l| view.lamps[l.id].looks != 'dark' && sound.lamps[l.id].looks == 'dark' }
        lit ? [['other', command]] : []
      end

      def dash(command, view, sound)
        was, is = [sound, view].map { |v| v.telltales.values.map(&:looks) }
        [*(was.include?('flashes') && is.all?('dark') ? [['telltale', command]] : []),
          *(view.telltale_fast? && !sound.telltale_fast? ? [['telltale_fast', command]] : [])]
      end

      def lights(command, view, sound)
        sound.lights.filter_map { |id, item| ['light_out', command] if item.looks == 'steady' && %w[dark dim flashes ghost].include?(view.lights[id].looks) }.uniq
      end

      def idle(command, view, sound)
        glow = @harness.lamps.reject { |l| view.lamps[l.id].looks == sound.lamps[l.id].looks }.map { |l| [command == 'brake' ? 'brake_lights' : 'glow', l.id] }
        dark = sound.lights.filter_map { |id, item| ['light_dark', id] if item.looks == 'steady' && view.lights[id].looks == 'dark' }
        weak = sound.lights.filter_map { |id, item| ['light_weak', id] if item.looks == 'steady' && %w[dim ghost].include?(view.lights[id].looks) }
        glow + dark + weak
      end
    end
  end
end
