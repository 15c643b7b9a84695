# frozen_string_literal: true

require_relative '../draw/lamp_base'
require_relative '../job/lamp'

module Miser
  module Plan
    # Light of the dipped beam, in lumens as the makers claim: of a filament by its base, of a part by what is said of it.
    module Light
      # Where a bulb sits in a reflector that was made for another.
      BLINDS = 'a bulb in the old reflector may blind more than it lights'

      module_function

      # @param lamp [Job::Lamp] @param part [Hash, nil] in its place; nil is the lamp as it came in
      # @return [Float] nothing where nobody claims any, or it is no dipped beam
      def lumens(lamp, part)
        return 0.0 unless lamp.own_loads.any? { |l| l['role'] == 'head_low' }

        (part ? claimed(part) : filament(lamp)) * lamp.count
      end

      # @param document [Job::Document]
      # @return [Float, nil] times the light there was; nil where either is not known
      def times(document)
        before = document.lamps.sum { |l| lumens(l, nil) }
        after = document.lamps.sum { |l| lumens(l, l.part) }
        before.positive? && after.positive? ? after / before : nil
      end

      # @return [Boolean] whether it may blind more than it lights: an LED in a reflector that was made for a filament
      def blinds?(part) = part['kind'] == 'bulb'

      # @return [Boolean] whether marks of approval were read on it
      def marked?(part) = !part['marks'].nil? && part['marks'] != 'none'

      def claimed(part) = (part['functions'] || []).filter_map { |f| f['lumens'] if f['does'] == 'head_low' }.first.to_f

      def filament(lamp) = lamp.base ? (Draw::LampBase.named(lamp.base).filament('low').lumens || 0).to_f : 0.0
    end
  end
end
