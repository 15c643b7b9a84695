# frozen_string_literal: true

require_relative '../volts'
require_relative 'battery'

module Miser
  module Charging
    # System volts of a battery machine, judged: at rest, at idle, at cruise.
    # Bounds: common practice; the lowest healthy cruise is a setting.
    module Health
      # @!attribute verdict [String] healthy, unhealthy, watch
      Call = Struct.new(:verdict, :text, keyword_init: true)

      FLAT_V, HALF_V, FULL_V = Battery::BY_KEY['lead'].rest.map(&:last)
      HOLDS_V = Volts::RUNNING
      # Days to flat under which a key-off draw is unhealthy, and under which it wants watching: assumption.
      DAYS = { 14 => 'unhealthy', 45 => 'watch' }.freeze
      # Idling, the battery should at least not be the one that feeds.
      LIFT_V = 0.2

      module_function

      # @param volts [Float] an hour after riding
      # @return [Call]
      def rest(volts)
        if volts > FULL_V + 0.2 then call('watch', '%.2f V is surface charge: let it stand an hour, lights on for a minute.', volts)
        elsif volts >= HALF_V + 0.3 then call('healthy', '%.2f V at rest: well charged.', volts)
        elsif volts >= HALF_V then call('watch', '%.2f V at rest: about half. Charge it before reading anything else.', volts)
        elsif volts >= FLAT_V then call('unhealthy', '%.2f V at rest: under half. Charge and test it first.', volts)
        else call('unhealthy', '%.2f V at rest: flat. Charge and load-test it first.', volts)
        end
      end

      # @param volts [Float] idling, usual lights on
      # @param over [Float] V, the highest healthy @param rest_v [Float, nil]
      # @return [Call]
      def idle(volts, over, rest_v = nil)
        if volts > over then call('unhealthy', '%.2f V idling: over %.1f V the regulator is at fault.', volts, over)
        elsif volts >= HOLDS_V then call('healthy', '%.2f V idling: it charges even here.', volts)
        elsif volts >= (rest_v || (HALF_V + 0.4)) + LIFT_V then call('healthy',
          '%.2f V idling: above the battery, so it charges a little.', volts)
        else call('watch', '%.2f V idling: the battery feeds. On many machines usual; the budget says how much.', volts)
        end
      end

      # @param volts [Float] at cruise, light load
      # @param low [Float] V, the lowest healthy @param over [Float] V, the highest
      # @return [Call]
      def cruise(volts, low, over)
        if volts > over then call('unhealthy', '%.2f V at cruise: over %.1f V. Regulator or its earth.', volts, over)
        elsif volts < low then call('unhealthy', '%.2f V at cruise: under %.1f V with a light load is a charging fault, not a budget.',
          volts, low)
        elsif volts < HOLDS_V then call('watch', '%.2f V at cruise: low. Check plugs and earths for drop.', volts)
        else call('healthy', '%.2f V at cruise: healthy.', volts)
        end
      end

      # Key-off draw against the battery.
      # @param amps [Float] @param battery [Battery, nil]
      # @return [Call]
      def key_off(amps, battery)
        return Call.new(verdict: 'watch', text: 'Enter the battery’s capacity, and the days to flat follow.') unless battery

        days = battery.days(amps)
        return Call.new(verdict: 'healthy', text: 'Nothing is drawn with the key out.') unless days

        left = days < 2 ? counted(days * 24, 'hour') : counted(days, 'day')
        words = format('%<ma>.0f mA: %<left>s until it will not crank.', ma: amps * 1000, left: left)
        verdict = DAYS.find { |limit, _| days < limit }&.last || 'healthy'
        Call.new(verdict: verdict, text: words)
      end

      def call(verdict, text, *numbers) = Call.new(verdict: verdict, text: format(text, *numbers))
      def counted(number, what) = "#{number.round} #{what}#{'s' unless number.round == 1}"
      private_class_method :call, :counted
    end
  end
end
