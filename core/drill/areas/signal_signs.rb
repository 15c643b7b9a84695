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
      def all
        found = @views.flat_map { |command, view| of(command, view, @sound.fetch(command)) }
        found.uniq.map { |key, subject| Sign.new(key, subject) }
      end

      private

      # What is said of a lamp that should flash.
      FEEBLE = { 'dark' => 'one_dark', 'dim' => 'weak', 'ghost' => 'weak' }.freeze
      # What no light should turn to that burns steadily.
      UNSTEADY = %w[dark dim flashes ghost].freeze
      private_constant :FEEBLE, :UNSTEADY

      def of(command, view, sound)
        return [['fuse', command]] if view.fuse_blows?
        return idle(command, view, sound) if view.idle?

        [*rhythm(command, view, sound), *own(command, view), *others(command, view, sound), *dash(command, view, sound),
          *lights(command, view, sound)]
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
        some = looks.values.intersect?(%w[flashes steady])
        looks.reject { |_, l| l == 'dark' && !some }.filter_map { |id, l| FEEBLE[l] && [FEEBLE[l], id] }
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
        restless = sound.lights.any? { |id, item| item.looks == 'steady' && UNSTEADY.include?(view.lights[id].looks) }
        restless ? [['light_out', command]] : []
      end

      def idle(command, view, sound)
        lit = @harness.lamps.reject { |l| view.lamps[l.id].looks == sound.lamps[l.id].looks }
        burning = sound.lights.select { |_, item| item.looks == 'steady' }.keys
        dark, weak = [%w[dark], %w[dim ghost]].map { |looks| burning.select { |id| looks.include?(view.lights[id].looks) } }
        [*lit.map { |l| [command == 'brake' ? 'brake_lights' : 'glow', l.id] }, *dark.map { |id| ['light_dark', id] },
          *weak.map { |id| ['light_weak', id] }]
      end
    end
  end
end
