# frozen_string_literal: true

module Miser
  module Charging
    # A lead-acid battery: volts from charge, resistance, how long it lasts.
    class Battery
      # Open-circuit volts by state of charge: common practice.
      REST = [[0.0, 11.8], [0.5, 12.2], [1.0, 12.8]].freeze

      attr_reader :capacity_ah, :ohms, :charge, :rest_v

      # @param document [Hash] capacity_ah, resistance_ohm, rest_v, charge
      # @param settings [Assumptions]
      # @return [Battery, nil] nil where the capacity is unknown
      def self.from(document, settings)
        document && document['capacity_ah'] ? new(document, settings) : nil
      end

      def initialize(document, settings)
        @settings = settings
        @capacity_ah = document['capacity_ah'].to_f
        @ohms_given = document['resistance_ohm']
        @ohms = @ohms_given || (settings[:battery_ohm_ah] / capacity_ah)
        @given = document['rest_v'] ? 'read' : nil
        @charge = document['charge'] || (document['rest_v'] && self.class.charge_at(document['rest_v'])) || settings[:start_soc]
        @rest_v = document['rest_v'] || self.class.rest_at(@charge)
      end

      def ohms_assumed? = @ohms_given.nil?

      # @param charge [Float] 0 to 1
      # @return [Float] V
      def self.rest_at(charge) = between(REST, charge)

      # @param volts [Float] at rest
      # @return [Float] charge, 0 to 1
      def self.charge_at(volts) = between(REST.map(&:reverse), volts)

      def self.between(table, x)
        return table.first[1] if x <= table.first[0]
        return table.last[1] if x >= table.last[0]

        (x0, y0), (x1, y1) = table.each_cons(2).find { |_, (right, _)| x <= right }
        y0 + ((y1 - y0) * (x - x0) / (x1 - x0))
      end
      private_class_method :between

      # Amps it gives (above 0) or takes (below 0) with its terminals at those volts.
      # @return [Float] A
      def amps(volts)
        return (rest_v - volts) / ohms if volts < rest_v

        -[@settings[:charge_acceptance] * capacity_ah * (volts - rest_v), most_charge].min
      end

      # @return [Float] A it takes at the most
      def most_charge = @settings[:charge_limit_c] * capacity_ah

      # @return [Float] Ah down to where it will not crank
      def usable_ah = [(charge - @settings[:no_crank_soc]) * capacity_ah, 0.0].max

      # Peukert: t = H · (C / (I·H))^k, for the usable share of the charge.
      # @param deficit [Float] A drawn from it
      # @return [Float, nil] hours; nil where nothing is drawn
      def hours(deficit)
        return nil unless deficit.positive?

        rated = @settings[:capacity_hours]
        (usable_ah / capacity_ah) * rated * ((capacity_ah / (deficit * rated))**@settings[:peukert])
      end

      # Peukert's law belongs to discharge of hours; over days a straight division
      # is the careful one.
      # @return [Float, nil] days until it will not crank
      def days(key_off) = key_off.positive? ? usable_ah / key_off / 24 : nil
    end
  end
end
