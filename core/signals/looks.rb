# frozen_string_literal: true

require_relative 'fault'
require_relative 'observation'
require_relative 'seen'

module Miser
  module Signals
    # What would be seen of one machine with faults in it: circuits solved once, however
    # often they are asked for and by whatever faults they come about.
    class Looks
      # @param harness [Harness] as it should be
      # @param thresholds [Hash] @param volts [Float] @param lights [Boolean]
      def initialize(harness, thresholds:, volts: Volts::REST, lights: true)
        @harness = harness
        @options = { thresholds: thresholds, volts: volts, lights: lights }
        @by_faults = {}
        @by_circuit = {}
      end

      # @return [Integer] circuits solved
      def solved = @by_circuit.size * 2

      # @param faults [Array<Fault::Instance>] @param command [String]
      # @return [Hash, nil] by kind of observation; nil where the circuit can't be solved
      def at(faults, command) = @by_faults[[faults.map(&:id), command]] ||= circuit(faults.reduce(@harness) { |h, f| f.apply(h) }, command)

      # @param observation [Observation] @param value [Object] as some fault has it
      # @return [String]
      def words(observation, value)
        what = case observation.kind
               when 'lamps', 'lights', 'volts' then @harness.name_of(observation.id)
               when 'check' then 'the check'
               else NAMES.fetch(observation.kind)
               end
        "#{observation.command}: #{what} would be #{said(value)}, seen #{said(observation.value)}"
      end

      NAMES = { 'telltale' => 'tell-tale', 'telltale_fast' => 'tell-tale alone fast', 'afterglow' => 'glow between flashes',
                'rate' => 'rate', 'fuse' => 'fuse blown', 'works_open' => 'works with the housing open' }.freeze

      private

      def said(value) = { true => 'yes', false => 'no', nil => 'not to be told' }.fetch(value, value.to_s)

      def circuit(harness, command)
        @by_circuit[[harness, command]] ||= begin
          view = Seen.new(harness, command, **@options)
          { 'lamps' => looks(view.lamps), 'lights' => looks(view.lights),
            'telltale' => view.telltales.values.map(&:looks).max_by { |l| Observation::LOOKS.index(l) },
            'telltale_fast' => view.telltale_fast?, 'afterglow' => view.afterglow?, 'rate' => view.rate_word,
            'fuse' => view.fuse_blown?, 'volts' => volts(harness, view) }
        rescue Unsolvable
          { 'lamps' => {}, 'lights' => {}, 'volts' => {} }
        end
      end

      def looks(items) = items.transform_values(&:looks)

      # At each lamp, lit, against those where nothing is wrong.
      def volts(harness, view)
        lit = view.lamps.transform_values { |i| i.closed.volts }
        return { good: lit } if harness.equal?(@harness)

        good = circuit(@harness, view.command)['volts'][:good] || {}
        lit.to_h { |id, v| [id, good[id] && Observation.volts_word(v, good[id])] }
      end
    end
  end
end
