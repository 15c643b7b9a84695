# frozen_string_literal: true

require_relative 'scpi'

module Miser
  module Instruments
    # A bench instrument that reads one quantity at a time.
    class Meter
      # Quantity => [SCPI function, unit]
      FUNCTIONS = { amps: %w[CURR:DC A], volts: %w[VOLT:DC V], lux: %w[ILL lx] }.freeze
      # Stand-ins say so themselves.
      SIMULATED = /simulated/i
      # Maker, model, serial and version, as IEEE 488.2 has it. What says anything else of itself is no instrument, and is not quoted.
      IDENTITY = %r{\A[[:alnum:] ._+-]{0,40}(?:,[[:alnum:] ._:/()+-]{0,60}){2,4}\z}

      attr_reader :identity

      # @param address [Hash] host, port, confirmed
      # @raise [Trouble]
      def initialize(address, timeout: 2.0)
        @link = Scpi.new(address['host'], address['port'], timeout: timeout, confirmed: address['confirmed'] == true)
        @identity = @link.ask('*IDN?')
        raise Trouble, :garbage unless @identity.match?(IDENTITY)
      rescue Trouble
        close
        raise
      end

      def simulated? = identity.match?(SIMULATED)

      # Sets what is read, and the range; the instrument's own verdict is asked for.
      # @param range [Float, nil] in the quantity's unit; nil lets it choose
      # @raise [Trouble] refused
      def set(quantity, range = nil)
        @link.tell('*CLS')
        @link.tell(["CONF:#{FUNCTIONS.fetch(quantity).first}", range && format('%g', range)].compact.join(' '))
        verdict = @link.ask('SYST:ERR?')
        raise Trouble.new(:refused, verdict) unless verdict.start_with?('0', '+0')
      end

      # @return [Float] in the unit of what was set
      # @raise [Trouble]
      def read = @link.ask_number('READ?')

      # Words that only a stand-in takes; a real instrument is never sent them.
      # @return [void]
      def simulate(command)
        raise ArgumentError, 'this instrument is not a stand-in' unless simulated?

        Meter.tell_bench(@link, command)
      end

      # Words to a stand-in whose cable is pulled: it says no name then, so only one that was known for a stand-in before is spoken to.
      # @param address [Hash] host, port, confirmed, simulated @param commands [Array<String>]
      # @raise [Trouble] unreachable, refused
      # @return [void]
      def self.simulate(address, commands, timeout: 2.0)
        raise ArgumentError, 'this instrument is not a stand-in' unless address['simulated'] == true

        link = Scpi.new(address['host'], address['port'], timeout: timeout, confirmed: address['confirmed'] == true)
        commands.each { |command| tell_bench(link, command) }
      ensure
        link&.close
      end

      # @api private
      def self.tell_bench(link, command)
        link.tell("SIM:#{command}")
        verdict = link.ask('SYST:ERR?')
        raise Trouble.new(:refused, verdict) unless verdict.start_with?('0', '+0')
      end

      def close = @link&.close
    end
  end
end
