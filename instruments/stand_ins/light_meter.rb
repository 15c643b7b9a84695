# frozen_string_literal: true

require_relative 'instrument'

module Miser
  module StandIns
    # A simulated illuminance meter in front of the lamp.
    class LightMeter < Instrument
      MOST_LX = 200_000.0
      DIGITS = 4

      def identity = 'MISER,SIMULATED LIGHT METER,0,1'

      private

      def scale = 0.985

      def reset = nil

      def measure(header, _arguments)
        case header
        when 'CONF:ILL' then nil
        when 'READ?', 'MEAS:ILL?' then read
        else complain(:header)
        end
      end

      def read
        lux = @rig.light
        return faulty(OVERLOAD) if lux > MOST_LX

        resolution = lux.positive? ? 10**(Math.log10(lux).floor - DIGITS + 1) : 0.1
        faulty(shown(lux, [resolution, 0.1].max))
      end
    end
  end
end
