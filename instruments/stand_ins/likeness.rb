# frozen_string_literal: true

require 'zlib'
require_relative '../../core/volts'
require_relative '../../core/draw/lamp_base'
require_relative 'beam_specimen'

module Miser
  module StandIns
    # Words that put on the simulated bench a lamp such as the job has: near its
    # known figures, but not on them, as real lamps are.
    module Likeness
      # Share by which an LED draws more when cold, and how long it takes to warm: the die, then its heat sink.
      LED_DRIFT = 0.03
      LED_TAU_S = 6.0
      SINK_DRIFT = 0.055
      SINK_TAU_S = 80.0
      GUESS_A = 1.2
      # lx at the light meter for each watt spent.
      LUX_OF = { 'filament' => 18.0, 'heater' => 0.0 }.freeze
      LED_LUX = 95.0

      module_function

      # @param load [Draw::Load]
      # @return [String] arguments of the stand-in's LAMP command
      def of(load)
        volts = load.known? ? load.anchor.volts : Volts::BENCH
        amps = (load.known? ? load.anchor.amps : GUESS_A) * deviation(load)
        law = load.law_key
        warm = !load.drifts?
        words = [law, volts, amps, warm ? 0.0 : LED_DRIFT, LED_TAU_S, LUX_OF.fetch(law, LED_LUX) * volts * amps,
          load.document['min_v'] || 0.0, (law == 'resistor' && load.document['forward_v']) || (0.6 * volts), warm ? 0.0 : SINK_DRIFT,
          SINK_TAU_S]
        words.map { |w| w.is_a?(Float) ? format('%.5g', w) : w }.join(' ')
      end

      # Shares of the distance that a dipped beam is wide, high and low; of its lumens that reach the wall.
      BEAM = { width: 0.16, height: 0.045, under: 0.05 }.freeze
      ON_WALL = 0.4
      GUESS_LM = 700.0

      # The light of the lamp that stands before a wall of the job.
      # @param document [Job::Document] @param side [String] before or after
      # @return [Float, nil] lm
      def lumens(document, side)
        lamp = document.role('head_low')
        part = lamp && document.lamp_of(lamp)&.part
        fitted = part && Job::Functions.taking_over(part, 'head_low', alone: false)
        return fitted['lumens'] if side == 'after' && fitted && fitted['lumens']

        lamp && Draw::LampBase::BY_KEY[lamp['base']]&.filament(lamp['filament'] || Job::Roles::FILAMENTS['head_low'])&.lumens
      end

      # @param lumens [Float, nil] of the lamp @param distance [Float] m
      # @return [String] arguments of the stand-in's BEAM command
      def beam(lumens, distance)
        width, height, under = BEAM.values.map { |share| share * distance }
        # The bell's flux is π·σx·(σ below + σ above)·peak.
        peak = (lumens || GUESS_LM) * ON_WALL / (Math::PI * width * height * (1 + (1 / BeamSpecimen::CUT)))
        [peak, width, height, under].map { |v| format('%.5g', v) }.join(' ')
      end

      # The same lamp always lies the same way off its label.
      def deviation(load) = 0.9 + ((Zlib.crc32(load.id + load.name) % 1000) / 1000.0 * 0.16)
    end
  end
end
