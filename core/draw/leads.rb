# frozen_string_literal: true

module Miser
  module Draw
    # What meter and leads in series take from the lamp: V_lamp = V_battery − I·R.
    class Leads
      # Copper, annealed, at 20 °C: IEC 60028.
      COPPER = 0.017241 # Ω·mm²/m

      attr_reader :ohms, :origin

      # @param length_m [Float, nil] one lead's length; there are two
      # @param area_mm2 [Float, nil] conductor area
      # @param meter_ohm [Float, nil] the meter's own resistance on this range
      # @param measured_ohm [Float, nil] meter and leads together, measured
      # @param default_ohm [Float] the setting, when nothing is known
      def initialize(default_ohm:, length_m: nil, area_mm2: nil, meter_ohm: nil, measured_ohm: nil)
        if measured_ohm
          @ohms = measured_ohm.to_f
          @origin = 'measured'
        elsif length_m && area_mm2
          @ohms = (COPPER * 2 * length_m / area_mm2) + meter_ohm.to_f
          @origin = meter_ohm ? 'from length and area of the leads, and the meter' : 'from length and area of the leads, meter not counted'
        else
          @ohms = default_ohm
          @origin = nil
        end
      end

      def assumed? = origin.nil?

      # @param battery_v [Float] volts at the battery
      # @param amps [Float]
      # @return [Float] volts at the lamp
      def lamp_volts(battery_v, amps) = battery_v - (amps * ohms)
    end
  end
end
