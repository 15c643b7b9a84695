# frozen_string_literal: true

require_relative 'instrument'

module Miser
  module StandIns
    # A simulated bench meter: amps in series, volts across the lamp.
    class Meter < Instrument
      # Ranges of each jack, A, and of volts, V.
      RANGES = { 'ten' => [10.0], 'milli' => [0.02, 0.2, 0.4] }.freeze
      VOLT_RANGES = [2.0, 20.0, 200.0].freeze
      COUNTS = 10_000

      def identity = 'MISER,SIMULATED BENCH METER,0,1'

      private

      def scale = 1.004

      def reset
        @function = nil
        @range = nil
      end

      def measure(header, arguments)
        case header
        when 'CONF:CURR:DC' then configure(:amps, arguments, RANGES.fetch(@rig.jack))
        when 'CONF:VOLT:DC' then configure(:volts, arguments, VOLT_RANGES)
        when 'CONF?' then format('"%s %g"', @function == :volts ? 'VOLT' : 'CURR', @range || 0)
        when 'READ?' then read
        when 'MEAS:CURR:DC?' then configure(:amps, [], RANGES.fetch(@rig.jack)) || read
        when 'MEAS:VOLT:DC?' then configure(:volts, [], VOLT_RANGES) || read
        else complain(:header)
        end
      end

      # The smallest range that holds what is asked for; without asking, the largest.
      def configure(function, arguments, ranges)
        wanted = arguments[0] ? Float(arguments[0], exception: false) : ranges.last
        return complain(:data) unless wanted

        range = ranges.find { |r| r >= wanted - 1e-9 } or return complain(:range)
        @function = function
        @range = range
        nil
      end

      def read
        return complain(:header) unless @function

        moment = @rig.moment(in_series: @function == :amps)
        value = @function == :amps ? moment.amps : moment.lamp_v
        return faulty(OVERLOAD) if value > @range * 1.1

        faulty(shown(value, @range / COUNTS))
      end
    end
  end
end
