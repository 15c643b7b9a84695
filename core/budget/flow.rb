# frozen_string_literal: true

module Miser
  module Budget
    # What one line does to the battery as its charge moves: at each charge the circuit is
    # solved with the battery at its own volts, and what flows then fills or empties it.
    # Between such charges the rate runs straight, so a time is worked out and not stepped:
    # halves of it add up.
    class Flow
      # Charges at which the circuit is solved.
      KNOTS = (0..10).map { |i| i / 10.0 }.freeze
      # An hour's change less than this is none: a share of the charge.
      STILL = 1e-7

      # @param battery [Charging::Battery]
      # @yieldparam battery [Charging::Battery] the same, so full
      # @yieldreturn [Float] A that it gives (above 0) or takes
      def initialize(battery, &solve)
        @battery = battery
        @solve = solve
        @rates = {}
      end

      # @param charge [Float] 0 to 1
      # @return [Float] share of the charge an hour
      def rate(charge)
        low, high = span(charge)
        return at(low) if low == high

        at(low) + ((at(high) - at(low)) * (charge - low) / (high - low))
      end

      # @param charge [Float] to begin with
      # @param hours [Float]
      # @return [Float] charge after
      def after(charge, hours)
        walk(charge) do |from, to, needs|
          return reached(from, hours) if needs.nil? || needs >= hours

          hours -= needs
          return to if to <= 0.0 || to >= 1.0
        end
      end

      # @param charge [Float] to begin with
      # @param least [Float] charge that it may not fall below
      # @return [Float, nil] hours until it does; nil where it never comes to that
      def until(charge, least)
        return 0.0 if charge <= least
        return nil unless rate(charge) < -STILL

        total = 0.0
        walk(charge, least) do |_, to, needs|
          return nil if needs.nil?

          total += needs
          return total if to <= least
        end
      end

      # @param charge [Float] to begin with
      # @param least [Float]
      # @return [Float] charge at which it comes to rest, or the least where it falls below that
      def settles(charge, least)
        walk(charge, least) do |from, to, needs|
          return rest_between(from, to) if needs.nil?
          return to if to <= least || to >= 1.0
        end
      end

      private

      def at(knot) = @rates[knot] ||= @battery.rate(@solve.call(@battery.at(knot)))

      # Knots about a charge.
      def span(charge)
        index = (charge.clamp(0.0, 1.0) * (KNOTS.size - 1)).floor.clamp(0, KNOTS.size - 2)
        KNOTS[index, 2]
      end

      # Stretches of straight rate that it passes through from a charge on.
      # @yieldparam from, to [Float] @yieldparam needs [Float, nil] hours; nil where it never gets to the end of it
      def walk(charge, least = 0.0)
        from = charge
        loop do
          falls = rate(from).negative?
          to = bound(from, falls, least)
          yield from, to, hours(from, to)
          return if from == to

          from = to
        end
      end

      def bound(from, falls, least)
        if falls then [KNOTS.reverse.find { |k| k < from - 1e-12 } || 0.0, least].max
        else KNOTS.find { |k| k > from + 1e-12 } || 1.0
        end
      end

      # dq/dt = a + b·q between two charges.
      def slope(from, to)
        middle = (from + to) / 2
        low, high = span(middle)
        (at(high) - at(low)) / (high - low)
      end

      def hours(from, to)
        start = rate(from)
        return nil if start.abs < STILL || from == to

        bend = slope(from, to)
        stop = start + (bend * (to - from))
        return nil if (start * stop) <= 0 || stop.abs < STILL
        return (to - from) / start if (bend * (to - from) / start).abs < 1e-9

        Math.log(stop / start) / bend
      end

      def reached(from, hours)
        start = rate(from)
        return from if start.abs < STILL

        bend = slope(from, bound(from, start.negative?, 0.0))
        (bend.abs < 1e-9 ? from + (start * hours) : from + (start * (Math.exp(bend * hours) - 1) / bend)).clamp(0.0, 1.0)
      end

      def rest_between(from, to)
        start = rate(from)
        bend = slope(from, to)
        start.abs < STILL || bend.zero? ? from : (from - (start / bend)).clamp(0.0, 1.0)
      end
    end
  end
end
