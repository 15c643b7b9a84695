# frozen_string_literal: true

require_relative 'fault'
require_relative 'operating_point'

module Miser
  module Charging
    # A charging system with something wrong in it, solved at a speed with loads on: what a meter shows at the battery, at the
    # regulator, between the stator's legs.
    class Troubled
      # The alternator as the battery sees it: behind joints, with what is left of it, its regulator at its own terminals.
      Behind = Struct.new(:curve, :share, :ohms, :held) do
        def amps(rpm, volts)
          given = ->(v) { share * curve.amps(rpm, v) }
          return given.call(volts) if ohms.zero?

          low = 0.0
          high = held ? [given.call(volts), [held - volts, 0.0].max / ohms].min : given.call(volts)
          40.times do
            mid = (low + high) / 2
            given.call(volts + (mid * ohms)) > mid ? low = mid : high = mid
          end
          low
        end

        def open_circuit(rpm) = share.zero? ? 0.0 : curve.open_circuit(rpm)
      end

      # A battery of more resistance than it had.
      Tired = Struct.new(:battery, :times) do
        def rest_v = battery.rest_v
        def amps(volts) = battery.amps(volts) / times
      end

      # @!attribute volts [Float] V at the battery @!attribute regulator_v [Float] V across the regulator
      # @!attribute output_a, battery_a [Float] A out of the regulator; out of the battery (below 0: into it)
      # @!attribute output_drop, earth_drop [Float] V lost on the way to battery +, and in the regulator's earth
      Reading = Struct.new(:volts, :regulator_v, :output_a, :battery_a, :output_drop, :earth_drop, keyword_init: true)

      # @param curve [EarnCurve] @param battery [Battery] @param held [Float] V the regulator should hold
      # @param trouble [Fault::Trouble]
      def initialize(curve:, battery:, held:, trouble: Fault::NONE)
        @curve = curve
        @trouble = trouble
        @held = trouble.held || held
        charged = trouble.charge ? battery.at(trouble.charge) : battery
        @battery = trouble.ohms_times > 1 ? Tired.new(charged, trouble.ohms_times) : charged
        @behind = Behind.new(curve, trouble.share, trouble.out_ohm + trouble.earth_ohm, @held)
      end

      # @param rpm [Float] @param sum [Draw::Sum] of what is on
      # @return [Reading]
      def at(rpm, sum)
        turning = rpm.positive? && @trouble.share.positive?
        result = OperatingPoint.new(curve: turning ? @behind : nil, sum: sum, battery: @battery, held: @held).at(rpm)
        given = result.battery_a + (rpm.positive? ? 0.0 : @trouble.leak_a)
        out = turning ? [sum.amps(result.volts) - result.battery_a, 0.0].max : 0.0
        drops = [@trouble.out_ohm, @trouble.earth_ohm].map { |ohms| out * ohms }
        Reading.new(volts: result.volts, regulator_v: result.volts + drops.sum, output_a: out, battery_a: given, output_drop: drops[0],
          earth_drop: drops[1])
      end

      # V AC between two legs of the unplugged stator, rms: at cut-in their crest just passes the battery's volts and the bridge.
      # @param pair [String] such as ab @return [Float]
      def legs(rpm, pair)
        (@curve.open_circuit(rpm) + @curve.form.drop_v) / Math.sqrt(2) * @trouble.legs.fetch(pair, 1.0)
      end

      # V AC from a leg to the frame. @return [Float]
      def leg_to_frame(rpm) = @trouble.earthed ? legs(rpm, 'ab') / Math.sqrt(3) : 0.0
    end
  end
end
