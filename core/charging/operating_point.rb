# frozen_string_literal: true

module Miser
  module Charging
    # Where earning and spending meet: the system's volts at one engine speed.
    #
    #     alternator(n, V) + battery(V) = Σ loads(V)
    #
    # and V no higher than the regulator holds. With constant-power drivers the
    # equation can have several roots; the highest is the one a running machine
    # sags down to, so it is looked for from above.
    class OperatingPoint
      # @!attribute regime [Symbol] :held, :sagging, :coil, :starved (a load cuts in and out), :battery, :dead
      Result = Struct.new(:volts, :alternator_a, :battery_a, :regime)

      STEPS = 48
      # Shares of a neighbour's volts within which the balance is looked for first, one after the other.
      NARROW = [0.002, 0.02].freeze
      # The balance is met within so many amps, or between volts no further apart.
      CLOSE = 1e-9
      LOWEST = 0.05 # V; below this nothing is fed

      # @param curve [EarnCurve, nil]
      # @param sum [Draw::Sum]
      # @param battery [Battery, nil]
      # @param held [Float, nil] volts the regulator holds; nil without one
      def initialize(curve:, sum:, battery: nil, held: nil)
        @curve = curve
        @sum = sum
        @battery = battery
        @held = held
      end

      # @param rpm [Float]
      # @param near [Float, nil] volts found at a neighbouring speed, to start from
      # @return [Result]
      def at(rpm, near: nil)
        turning = @curve && rpm.positive?
        return Result.new(0.0, 0.0, 0.0, :dead) unless turning || @battery

        volts = solve(rpm, turning ? ceiling(rpm) : @battery.rest_v, near)
        earned = turning ? @curve.amps(rpm, volts) : 0.0
        Result.new(volts, earned, @battery ? @battery.amps(volts) : 0.0, regime(volts, earned))
      end

      private

      # The most that an engine turning so fast brings the volts to.
      def ceiling(rpm)
        return [@held || @curve.open_circuit(rpm), @battery.rest_v].max if @battery

        @held ? [@held, @curve.open_circuit(rpm)].min : @curve.open_circuit(rpm)
      end

      def regime(volts, earned)
        return :starved if @sum.thresholds.any? { |v| (v - volts).abs < 1e-6 }
        return :battery unless earned.positive?
        return :held if @held && volts >= @held - 1e-6

        @battery ? :sagging : :coil
      end

      # Amps to spare at those volts.
      def spare(rpm, volts)
        earned = @curve && rpm.positive? ? @curve.amps(rpm, volts) : 0.0
        earned += @battery.amps(volts) if @battery
        earned - @sum.amps(volts)
      end

      def solve(rpm, ceiling, near)
        return ceiling if ceiling <= LOWEST || spare(rpm, ceiling) >= 0

        ends = (near && bracket(rpm, near, ceiling)) || descend(rpm, ceiling)
        ends ? close_in(rpm, *ends) : 0.0
      end

      # A narrow bracket round a neighbour's answer, where the sign does change there.
      # @return [Array(Float, Float, Float, Float), nil] low, high and what is to spare at each
      def bracket(rpm, near, ceiling)
        NARROW.each do |share|
          low = near * (1 - share)
          high = [near * (1 + share), ceiling].min
          next unless low < high && (f_low = spare(rpm, low)) >= 0 && (f_high = spare(rpm, high)).negative?

          return [low, high, f_low, f_high]
        end
        nil
      end

      # Steps down from the ceiling, and at every voltage where a load switches.
      def descend(rpm, ceiling)
        stops = (0..STEPS).map { |i| ceiling - ((ceiling - LOWEST) * i / STEPS) }
        @sum.thresholds.each { |v| stops.push(v, v - 1e-9) if v < ceiling }
        above = spare(rpm, ceiling)
        stops.sort.reverse.each_cons(2) do |high, low|
          here = spare(rpm, low)
          return [low, high, here, above] if here >= 0

          above = here
        end
        nil
      end

      # Regula falsi with halving of the stale end (Illinois).
      def close_in(rpm, low, high, f_low, f_high)
        side = 0
        80.times do
          return low if high - low < CLOSE

          mid = f_low == f_high ? (low + high) / 2 : ((low * f_high) - (high * f_low)) / (f_high - f_low)
          mid = (low + high) / 2 unless mid > low && mid < high
          f_mid = spare(rpm, mid)
          return mid if f_mid.abs < CLOSE

          if f_mid.positive?
            low = mid
            f_low = f_mid
            f_high /= 2 if side == 1
            side = 1
          else
            high = mid
            f_high = f_mid
            f_low /= 2 if side == -1
            side = -1
          end
        end
        (low + high) / 2
      end
    end
  end
end
