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
      # Lithium: empty, low, level over most of its charge, full.
      LITHIUM_FLAT_V = Battery::BY_KEY['lithium'].rest.first.last
      LITHIUM_LOW_V = 13.0
      LITHIUM_LEVEL = (13.1..13.3)
      LITHIUM_FULL_V = Battery::BY_KEY['lithium'].rest.last.last
      HOLDS_V = Volts::RUNNING
      # Days to flat under which a key-off draw is unhealthy, and under which it wants watching: assumption.
      DAYS = { 14 => 'unhealthy', 45 => 'watch' }.freeze
      # Idling, the battery should at least not be the one that feeds.
      LIFT_V = 0.2

      module_function

      # @param volts [Float] an hour after riding
      # @param kind [String, nil] of Battery::KINDS; nil where nobody said: then it is judged as lead, and says so where lithium differs
      # @return [Call]
      def rest(volts, kind = nil)
        return rest_of_lithium(volts) if kind == 'lithium'

        found = rest_of_lead(volts)
        return found unless kind.nil? && found.verdict == 'healthy'

        call('healthy', '%s As a lead battery: one of lithium would be nearly empty, so say its kind.', found.text)
      end

      # Iron phosphate: its volts tell an empty and a full one, and nothing between: common practice.
      def rest_of_lithium(volts)
        if volts > LITHIUM_FULL_V + 0.2 then call('watch', '%.2f V is surface charge: let it stand an hour, lights on for a minute.', volts)
        elsif volts > LITHIUM_LEVEL.end then call('healthy', '%.2f V at rest: nearly full, for lithium.', volts)
        elsif volts >= LITHIUM_LEVEL.begin
          call('healthy', '%.2f V at rest: in order for lithium. How full it is, these volts do not tell.', volts)
        elsif volts >= LITHIUM_LOW_V then call('watch', '%.2f V at rest: low for lithium. Charge it, not below 0 °C.', volts)
        elsif volts >= LITHIUM_FLAT_V
          call('unhealthy', '%.2f V at rest: nearly empty for lithium. Charge it, with a charger made for it, not below 0 °C.', volts)
        else
          call('unhealthy', '%.2f V at rest: flat for lithium, or its protection has disconnected. Test it; never charge it below 0 °C.', volts)
        end
      end

      def rest_of_lead(volts)
        if volts > FULL_V + 0.2 then call('watch', '%.2f V is surface charge: let it stand an hour, lights on for a minute.', volts)
        elsif volts >= HALF_V + 0.3 then call('healthy', '%.2f V at rest: well charged.', volts)
        elsif volts >= HALF_V then call('watch', '%.2f V at rest: about half. Charge it before reading anything else.', volts)
        elsif volts >= FLAT_V then call('unhealthy', '%.2f V at rest: under half. Charge and test it first.', volts)
        else call('unhealthy', '%.2f V at rest: flat. Charge and load-test it first.', volts)
        end
      end

      # @param volts [Float] idling, usual lights on
      # @param over [Float] V, the highest healthy @param rest_v [Float, nil] @param kind [String, nil] of Battery::KINDS
      # @return [Call]
      def idle(volts, over, rest_v = nil, kind = nil)
        if volts > over then call('unhealthy', '%.2f V idling: over %.1f V the regulator is at fault.', volts, over)
        elsif volts >= HOLDS_V then call('healthy', '%.2f V idling: it charges even here.', volts)
        elsif volts >= (rest_v || usual_rest(kind)) + LIFT_V then call('healthy',
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
      # What a battery in order has at rest, where it was not read.
      def usual_rest(kind) = kind == 'lithium' ? LITHIUM_LEVEL.end : HALF_V + 0.4
      private_class_method :call, :counted, :rest_of_lithium, :rest_of_lead, :usual_rest
    end
  end
end
