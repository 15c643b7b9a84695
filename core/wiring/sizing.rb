# frozen_string_literal: true

require_relative '../draw/conductor'
require_relative '../draw/jack'
require_relative '../feeds/blade'
require_relative '../figure'

module Miser
  module Wiring
    # Which wire and which fuse a feed wants: from what it draws, how far it goes, what it may lose and
    # what a wire may be fused at.
    class Sizing
      # A filament's first milliseconds are over before a fuse knows, s: common practice.
      INRUSH_S = 0.05

      attr_reader :amps, :cold_a, :inrush_a, :metres, :volts

      # @param amps [Float] A drawn, settled @param cold_a [Float, nil] A read cold @param filament [Boolean]
      # @param metres [Float] of wire, out and back @param fixed_ohms [Float] Ω of joints, contact, fuse
      # @param volts [Float] at the source @param drop [Float] share of them that may be lost
      # @param units [String] metric or us @param material [String] @param fused [Boolean] whether it has a fuse of its own
      # @param contacts [Array<Feeds::Contact>] that its current passes
      def initialize(amps:, metres:, volts:, drop:, units:, cold_a: nil, filament: false, fixed_ohms: 0.0, material: 'copper', fused: true,
                     contacts: [])
        @amps = amps
        @cold_a = cold_a
        @inrush_a = filament ? amps * Draw::Jack::INRUSH : nil
        @metres = metres
        @fixed = fixed_ohms
        @volts = volts
        @drop = drop
        @units = units
        @material = material
        @fused = fused
        @contacts = contacts
      end

      # What it carries for good at the most.
      def most_a = [amps, cold_a || 0.0].max

      # @return [Feeds::Contact, nil] the one that stands least
      def weakest = @contacts.min_by(&:amps)

      # The smallest blade that carries what is drawn. None where that would be more than a contact on the way stands.
      # @return [Figure] A of the blade
      def fuse
        reason = no_fuse
        return Figure.unknown('A', reason) if reason

        rating = Feeds::Blade.for(most_a)
        Figure.new(rating, 'A') do
          Working.new(title: 'Fuse', formula: 'smallest blade ≥ I / 0.8, not over any contact on the way', inputs: fuse_inputs,
            source: 'ISO 8820-3 (from memory); four fifths of its rating: common practice', notes: inrush_note(rating))
        end
      end

      # @return [Figure] mm² that loses no more than it may
      def least_area
        room = (volts * @drop) - (most_a * @fixed)
        return Figure.unknown('mm²', 'joints and contacts alone lose more than may be lost') unless room.positive?

        Figure.new(rho * metres * most_a / room, 'mm²') do
          Working.new(title: 'Least wire for the drop', formula: 'A = ρ · L · I / (share · V − I · R_fixed)', inputs: area_inputs,
            source: 'copper: IEC 60028; the drop: common practice', notes: [])
        end
      end

      # The smallest the shop has that may be fused as high as the fuse is and loses little enough. Where none loses little
      # enough it is the thickest that may be fused so, see #drop_missed.
      # @return [Figure] mm²
      def area
        least = least_area
        wanted = @fused ? fuse : nil
        return Figure.unknown('mm²', wanted.reason) if wanted && !wanted.known?

        sound = sizes.select { |a| Draw::Conductor.carries(a, @material) >= (wanted ? wanted.value : most_a) }
        return Figure.unknown('mm²', "thicker than #{largest_words} is wanted: shorten it, or feed it twice") if sound.empty?

        size = sound.find { |a| least.known? && a >= least.value * 0.995 } || sound.last
        Figure.new(size, 'mm²') do
          Working.new(title: 'Wire', formula: 'smallest size whose fuse ceiling ≥ fuse and area ≥ least area',
            inputs: [
              *(least.known? ? [Input.new(name: 'Least area for the drop', value: least.value, unit: 'mm²', origin: 'worked out')] : []),
              *(wanted ? [Input.new(name: 'Fuse', value: wanted.value, unit: 'A', origin: 'worked out')] : []),
              Input.new(name: 'It may be fused at', value: Draw::Conductor.carries(size, @material), unit: 'A', origin: 'common practice')
            ],
            source: 'AWG: ASTM B258; mm²: ISO 6722 (from memory); ceiling: common practice', notes: [drop_missed].compact)
        end
      end

      # @return [Float] mm², the thickest a shop has
      def largest = sizes.last

      # @return [String, nil] that no size loses as little as it may; nil where the one offered does
      def drop_missed
        least = least_area
        return if least.known? && largest >= least.value * 0.995

        why = least.known? ? "#{largest_words}, the thickest here, loses more than it may" : least.reason
        "#{why}: shorten it, or feed it twice"
      end

      private

      def largest_words = Draw::Conductor.words(largest, @units)

      # @return [String, nil] why no fuse can be said
      def no_fuse
        rating = Feeds::Blade.for(most_a)
        return format('%.1f A is over the largest blade, %g A', most_a, Feeds::Blade::RATINGS.last) unless rating
        return unless weakest && rating > weakest.amps

        format('%.1f A wants a %g A fuse, more than the %s stands', most_a, rating, weakest.words)
      end

      def rho = Draw::Conductor::MATERIALS.fetch(@material).last
      def sizes = Draw::Conductor.sizes(@units)

      def fuse_inputs
        [Input.new(name: 'Draw, settled', value: amps, unit: 'A', origin: 'budget volts'),
          *(cold_a ? [Input.new(name: 'Draw, cold', value: cold_a, unit: 'A', origin: 'reading')] : []),
          *(inrush_a ? [Input.new(name: 'At switching on', value: inrush_a, unit: 'A', origin: 'ten times, common practice')] : [])]
      end

      def area_inputs
        [Input.new(name: 'Resistivity ρ', value: rho, unit: 'Ω·mm²/m', origin: 'IEC 60028'),
          Input.new(name: 'Length L, out and back', value: metres, unit: 'm', origin: 'wires'),
          Input.new(name: 'Current I', value: most_a, unit: 'A', origin: 'draw'),
          Input.new(name: 'May be lost', value: @drop, unit: '1', origin: 'setting'),
          Input.new(name: 'Volts V', value: volts, unit: 'V', origin: 'budget volts'),
          Input.new(name: 'Joints, contact and fuse', value: @fixed, unit: 'Ω', origin: 'assumption')]
      end

      def inrush_note(rating)
        return [] unless inrush_a

        held = Feeds::Blade.opening(inrush_a, rating).soonest
        [format('About %.0f A for milliseconds at switching on%s.', inrush_a,
          held.nil? || held >= INRUSH_S ? ': the fuse holds' : ', over before a blade opens')]
      end
    end
  end
end
