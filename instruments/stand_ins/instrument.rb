# frozen_string_literal: true

require_relative 'beam_specimen'
require_relative 'rig'

module Miser
  module StandIns
    # What the simulated instruments have in common: an identity, an error queue, a
    # small set of commands, and faults to practise on. Error numbers are SCPI's.
    class Instrument
      ERRORS = { header: '-113,"Undefined header"', range: '-222,"Data out of range"', data: '-104,"Data type error"' }.freeze
      FAULTS = %w[none silent garbage overload pulled].freeze
      # What follows the law in the words that put a lamp on the bench.
      NAMES = %i[volts amps drift tau_s lux min_v forward_v slow_drift slow_tau_s].freeze
      OVERLOAD = '+9.90000000E+37'

      attr_reader :fault

      # @param rig [Rig]
      # @param random [Random] of its noise
      def initialize(rig, random: Random.new(1))
        @rig = rig
        @random = random
        @errors = []
        @fault = 'none'
        @lock = Mutex.new
      end

      # @param line [String] one command
      # @return [String, nil] its answer; nil where it has none
      def answer(line)
        @lock.synchronize { respond(*line.strip.split(/[\s,]+/)) }
      end

      private

      def respond(header = '', *arguments)
        case header.upcase
        when '' then nil
        when '*IDN?' then identity
        when '*CLS' then @errors.clear && nil
        when '*RST' then reset
        when 'SYST:ERR?' then @errors.shift || '0,"No error"'
        when /\ASIM:/ then simulate(header.upcase.delete_prefix('SIM:'), arguments)
        else measure(header.upcase, arguments)
        end
      end

      def complain(error)
        @errors.push(ERRORS.fetch(error)) if @errors.size < 20
        nil
      end

      # Commands of the stand-in itself, not of the standard.
      def simulate(command, arguments)
        case command
        when 'LAMP' then @rig.put(specimen(arguments))
        when 'BEAM' then @rig.shine(BeamSpecimen.new(*arguments.first(4).map { |v| Float(v) }))
        when 'MARK' then @rig.carry(Float(arguments[0]), Float(arguments[1]))
        when 'OFF' then @rig.take_off
        when 'JACK' then Rig::JACKS.key?(arguments[0]) ? @rig.jack = arguments[0] : complain(:data)
        when 'SOURCE' then Rig::SOURCES.key?(arguments[0]) ? @rig.source = arguments[0] : complain(:data)
        when 'PACE' then @rig.pace = Float(arguments[0]).clamp(1.0, 200.0)
        when 'FAULT' then FAULTS.include?(arguments[0]) ? @fault = arguments[0] : complain(:data)
        else complain(:header)
        end
        nil
      rescue ArgumentError, TypeError, FloatDomainError
        complain(:data)
      end

      # law volts amps [drift tau_s lux min_v forward_v slow_drift slow_tau_s]
      def specimen(arguments)
        Specimen.new(law: arguments[0].to_s.downcase, **NAMES.zip(arguments.drop(1)).to_h.compact.transform_values { |v| Float(v) })
      end

      # A reading as a real meter gives it: noise, an error of scale, so many digits.
      def shown(value, resolution)
        noise = (value * 0.0012 * gauss) + (resolution * 0.4 * gauss)
        format('%+.8E', ((value * scale) + noise).fdiv(resolution).round * resolution)
      end

      # Box and Muller's normal deviate.
      def gauss = Math.sqrt(-2 * Math.log(1 - @random.rand)) * Math.cos(2 * Math::PI * @random.rand)

      def faulty(text)
        case fault
        when 'garbage' then "?#\u0007~ERR"
        when 'overload' then OVERLOAD
        else text
        end
      end
    end
  end
end
