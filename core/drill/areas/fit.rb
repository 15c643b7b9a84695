# frozen_string_literal: true

require_relative '../../headlight/fit_fault'
require_relative 'area'

module Miser
  module Drill
    # How the headlamp's part sits, and where its light goes.
    class FitArea < Area
      declare 'fit', 'Headlamp’s seat and beam'

      RIDER = 'rider'
      # Figures by the point they are read at, each with the quantity.
      WALL = { 'spot' => 'Wall: spot over the lamp’s height', 'wide' => 'Wall: width of the spot', 'high' => 'Wall: height of the spot',
               'peak' => 'Wall: light in the spot', 'above' => 'Wall: light above eye height' }.freeze
      SEAT = { 'plane' => 'Collar to chips, off the old bulb’s', 'play' => 'Play by hand',
               'mark' => 'Mark of the collar, off the top' }.freeze
      UNITS = { 'spot' => 'cm', 'wide' => 'm', 'high' => 'm', 'peak' => 'lx', 'above' => '%', 'plane' => 'mm', 'play' => 'mm',
                'mark' => '°' }.freeze
      CURED_AT = { 'turned' => 'front', 'cocked' => 'front', 'depth' => 'front' }.freeze

      def switches = { RIDER => 'rider on' }

      def points
        @points ||= [[WALL, 'wall'], [SEAT, 'front']].flat_map { |names, at| names.map { |id, name| Point.new(id: id, name: name, at: at) } }
      end

      # By the point: what a wall read with a tape and a light meter, and a calliper, can tell apart.
      GAP = { 'spot' => 6.0, 'wide' => 0.3, 'high' => 0.2, 'peak' => 4.0, 'above' => 6.0, 'plane' => 0.5, 'play' => 0.4,
              'mark' => 15.0 }.freeze

      def gap(act) = GAP.fetch(act.red, 0.0)

      def chains
        on = %w[key lights]
        [*WALL.keys.product([on, [*on, RIDER]]).map { |p, s| [volts(s, p, p, what: 'wall')] },
          *SEAT.keys.map { |p| [volts([], p, p, what: 'seat')] }]
      end

      def quantities = { 'wall' => WALL.keys, 'seat' => SEAT.keys }

      private

      def faults = Headlight::FitFault.all

      def cure_at(fault) = CURED_AT[fault.kind.key]

      def seat(suspects) = suspects.first&.fault&.does || Headlight::Misfit::SOUND

      def beam(suspects, rider) = kept(:beam, suspects, rider) { Headlight::Misfit.new(seat(suspects), rider: rider) }

      def measured(suspects, state, _what, red, _black)
        beam = beam(suspects, state.on?(RIDER))
        case red
        when 'plane' then seat(suspects).forward_mm
        when 'play' then seat(suspects).play_mm
        when 'mark' then seat(suspects).turned_deg
        else lit?(state) ? on_wall(beam).fetch(red) : 0.0
        end
      end

      def on_wall(beam)
        { 'spot' => beam.spot_cm, 'wide' => beam.wide_m, 'high' => beam.high_m, 'peak' => beam.peak_lx, 'above' => beam.above * 100 }
      end

      # The wall is dark without the lamp.
      def lit?(state) = state.on?('key') || state.running?

      # Shares from which somebody says something: common practice.
      DAZZLES = 0.25
      SHORT = -0.045
      WEAK = 0.7
      private_constant :DAZZLES, :SHORT, :WEAK

      def found_signs(suspects)
        alone, ridden = [false, true].map { |rider| beam(suspects, rider) }
        noticed = { 'dazzles' => ridden.above > DAZZLES, 'short' => ridden.aim < SHORT,
                    'patchy' => alone.peak_lx < Headlight::Misfit::PEAK_LX * WEAK }
        noticed.select { |_, there| there }.keys.map { |k| Sign.new(k, nil) }
      end
    end
  end
end
