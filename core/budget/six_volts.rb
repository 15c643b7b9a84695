# frozen_string_literal: true

require_relative '../job/document'

module Miser
  module Budget
    # A machine of 6 V: parts, bases, limits and settings here are of 12 V, so nothing is said of it.
    module SixVolts
      # Under this with the engine running no 12 V system is: common practice (a full 6 V battery takes 7.2 to 7.5 V).
      RUNNING_MOST = 9.0
      # Between these at rest is a 6 V battery, flat to full; a 12 V one so low is dead, and its machine runs at more: common practice.
      RESTED = (4.0..7.5)

      module_function

      # @param document [Job::Document]
      # @return [String, nil] why Miser says nothing of the machine; nil where it is none of 6 V, or nobody read volts
      def refusal(document)
        volts, where = found(document)
        return unless volts

        format('This is a machine of 6 V (%<volts>.1f V %<where>s). Miser reckons machines of 12 V alone so far: nothing here holds for it.',
          volts: volts, where: where)
      end

      def found(document)
        running = document.circuits.flat_map { |c| running(c) } + checked(document)
        return if running.any? { |v| v >= RUNNING_MOST }
        return [running.max, 'running'] if running.any?

        rested = document.circuits.filter_map { |c| c.dig('battery', 'rest_v') }.find { |v| RESTED.cover?(v) }
        rested && [rested, 'at rest']
      end

      def running(circuit)
        alternator = Job::Document.part(circuit, 'alternator')
        points = Job::Document.rows(alternator, 'points').map { |p| p['volts'] }
        [circuit.dig('regulator', 'volts'), alternator['rated_v'], *points].compact
      end

      def checked(document) = %w[before after].flat_map { |side| document.checks(side).values_at('idle_v', 'cruise_v') }.compact
      private_class_method :found, :running, :checked
    end
  end
end
