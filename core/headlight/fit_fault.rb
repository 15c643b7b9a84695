# frozen_string_literal: true

require_relative '../stepped_fault'
require_relative 'misfit'

module Miser
  module Headlight
    # Ways in which a headlamp's part sits badly: what each does, how it is proved and mended. How common each is is common practice.
    class FitFault
      Kind = Struct.new(:key, :label, :prior, :check, :cure, :seats, keyword_init: true)

      def self.kind(key, label, prior, check, cure, **seats)
        Kind.new(key: key, label: label, prior: prior, check: check, cure: cure, seats: seats)
      end
      private_class_method :kind

      TABLE = [
        kind('turned', 'chips look up and down, not to the sides', 2.5, 'The mark of its collar should be uppermost.',
          'Turn it by a quarter: chips at 3 and 9.', quarter: { turned_deg: 90.0 }),
        kind('cocked', 'collar not home in its seat', 2.5, 'It can be tipped by hand; the spot jumps.', 'Seat it, close the clip over it.',
          little: { up_mm: -1.0, play_mm: 0.8 }, much: { up_mm: -2.0, play_mm: 1.5 }),
        kind('depth', 'chips not where the filament was', 2.0, 'From the collar’s plane to the chips, against the old bulb’s.',
          'Another part, or shift its collar.', little: { forward_mm: 1.5 }, much: { forward_mm: 3.0 }),
        kind('high', 'unit aimed too high', 2.0, 'Spot against the lamp’s height, at the wall.', 'Aim it down.',
          little: { tilt: 0.02 }, much: { tilt: 0.04 }),
        kind('low', 'unit aimed too low', 1.5, 'Spot against the lamp’s height, at the wall.', 'Aim it up.', much: { tilt: -0.04 }),
        kind('sag', 'rear springs sag under the rider', 1.5, 'Spot with and without the rider on.',
          'More preload, then aim with the rider on.',
          little: { sag: 0.02 }, much: { sag: 0.035 }),
        kind('film', 'film still on the lens', 1.0, 'A corner of it comes off with a nail.', 'Pull it off.', on: { clear: 0.55 })
      ].freeze

      # @return [Array<SteppedFault>] each does a Misfit::Seat
      def self.all = TABLE.flat_map { |k| SteppedFault.of(k, k.seats.transform_values { |seat| Misfit::Seat.new(**seat) }) }
    end
  end
end
