# frozen_string_literal: true

require_relative 'instrument'

module Miser
  module StandIns
    # A simulated hand meter whose leads lie on points of a machine that is solved: volts, volts AC, amps by a clamp.
    class ProbeMeter < Instrument
      # What each SCPI function reads, and its ranges.
      READS = { 'VOLT:DC' => ['volts', [2.0, 20.0, 200.0]], 'VOLT:AC' => ['ac_volts', [20.0, 200.0]],
                'CURR:DC' => ['amps', [40.0, 400.0]] }.freeze
      COUNTS = 4000

      # @param probe [#call] value of a quantity between two points, nil where there is none @param random [Random] of its noise
      def initialize(probe, random: Random.new(1), leads: [nil, nil])
        super(nil, random: random)
        @probe = probe
        @leads = leads
      end

      def identity = 'MISER,SIMULATED PROBE METER,0,1'

      # @param quantity [String] volts, ac_volts, amps @return [Float, nil] as its display has it
      def shows(quantity)
        function = READS.key(READS.values.find { |name, _| name == quantity }) or return
        Float(answer("MEAS:#{function}?") || 'nan', exception: false)
      end

      private

      def scale = 1.0

      def reset
        @function = nil
        nil
      end

      # SIM:LEADS red black puts the leads down.
      def simulate(command, arguments)
        case command
        when 'LEADS' then @leads = arguments.first(2)
        when 'FAULT' then return super
        else return complain(:header)
        end
        nil
      end

      def measure(header, arguments)
        return read(@function) if header == 'READ?' && @function

        verb, function = header.delete_suffix('?').split(':', 2)
        return complain(:header) unless READS.key?(function)

        case verb
        when 'CONF' then configure(function, arguments)
        when 'MEAS' then read(function)
        else complain(:header)
        end
      end

      def configure(function, arguments)
        wanted = arguments[0] && Float(arguments[0], exception: false)
        return complain(:data) if arguments[0] && !wanted
        return complain(:range) if wanted && wanted > READS.fetch(function).last.last

        @function = function
        nil
      end

      def read(function)
        quantity, ranges = READS.fetch(function)
        value = @probe.call(quantity, *@leads) or return complain(:data)
        range = ranges.find { |r| r >= value.abs } or return faulty(OVERLOAD)
        faulty(shown(value, range / COUNTS))
      end
    end
  end
end
