# frozen_string_literal: true

module Miser
  module Charging
    # A battery: volts from charge, resistance, what it takes and how fast it empties.
    class Battery
      # @!attribute rest [Array<Array(Float, Float)>] open-circuit volts by state of charge: common practice
      # @!attribute rested [Range] V that a rested one may have
      # @!attribute ohm_ah, peukert, limit_c, taper [String] settings
      # @!attribute takes_all [Boolean] whether it takes what is given, up to its limit, until it is nearly full
      Kind = Struct.new(:key, :label, :rest, :rested, :ohm_ah, :peukert, :limit_c, :taper, :takes_all, keyword_init: true)

      # The usual one first. Lithium means iron phosphate: the kind sold for starting engines.
      KINDS = [
        Kind.new(key: 'lead', label: 'lead acid', rest: [[0.0, 11.8], [0.5, 12.2], [1.0, 12.8]],
          rested: 11.5..13.2,
          ohm_ah: 'battery_ohm_ah', peukert: 'peukert', limit_c: 'charge_limit_c', taper: 'charge_taper', takes_all: false),
        Kind.new(key: 'lithium', label: 'lithium', rest: [[0.0, 12.0], [0.1, 13.0], [0.2, 13.1], [0.9, 13.3], [1.0, 13.4]],
          rested: 11.5..13.8, ohm_ah: 'lithium_ohm_ah', peukert: 'peukert_lithium', limit_c: 'lithium_limit_c', taper: 'lithium_taper',
          takes_all: true)
      ].freeze
      BY_KEY = KINDS.to_h { |kind| [kind.key, kind] }.freeze

      # Ω: no battery has less, nor can an equation do with none.
      LEAST_OHMS = 1e-4

      attr_reader :capacity_ah, :ohms, :charge, :rest_v, :kind

      # @param document [Hash] kind, capacity_ah, resistance_ohm, rest_v, charge
      # @param settings [Assumptions]
      # @return [Battery, nil] nil where the capacity is unknown
      def self.from(document, settings)
        document && document['capacity_ah'] ? new(document, settings) : nil
      end

      def initialize(document, settings)
        @document = document
        @settings = settings
        @kind = document['kind'] ? BY_KEY.fetch(document['kind']) : KINDS.first
        @capacity_ah = document['capacity_ah'].to_f
        @ohms_given = document['resistance_ohm']
        @ohms = [@ohms_given || (settings[@kind.ohm_ah] / capacity_ah), LEAST_OHMS].max
        @charge = document['charge'] || (document['rest_v'] && charge_at(document['rest_v'])) || settings[:start_soc]
        @takes = @kind.takes_all ? 1.0 / @ohms : settings[:charge_acceptance] * capacity_ah
        @taper = [(1.0 - @charge) / settings[@kind.taper], 1.0].min
        @rest_v = document['charge'] || document['rest_v'].nil? ? rest_at(@charge) : document['rest_v']
      end

      # @param charge [Float] 0 to 1
      # @return [Battery] the same one, so full
      def at(charge) = (@at ||= {})[charge] ||= Battery.new(@document.except('rest_v').merge('charge' => charge), @settings)

      def ohms_assumed? = @ohms_given.nil?

      # @return [Input] where its resistance is from
      def ohms_input
        ohms_assumed? ? @settings.input(kind.ohm_ah) : Input.new(name: 'Battery resistance', value: ohms, unit: 'Ω', origin: 'measured')
      end

      # @param charge [Float] 0 to 1
      # @return [Float] V
      def rest_at(charge) = between(kind.rest, charge)

      # @param volts [Float] at rest
      # @return [Float] charge, 0 to 1
      def charge_at(volts) = between(kind.rest.map(&:reverse), volts)

      # Amps it gives (above 0) or takes (below 0) with its terminals at those volts. What lead takes tapers as it fills,
      # with its rest volts, and to nothing at the end; lithium takes what its resistance lets in, within its limit, till nearly full.
      # @return [Float] A
      def amps(volts)
        return (rest_v - volts) / ohms if volts < rest_v

        -[@takes * (volts - rest_v), most_charge].min * @taper
      end

      # @return [Float] A it takes at the most
      def most_charge = @most_charge ||= @settings[kind.limit_c] * capacity_ah

      # How fast its charge changes. Drawn harder than it is rated for it gives less in all
      # (Peukert), drawn softer never more than it has.
      # @param amps [Float] given (above 0) or taken (below 0)
      # @return [Float] share of its charge an hour, below 0 where it empties
      def rate(amps)
        return -amps * @settings[:charge_efficiency] / capacity_ah unless amps.positive?

        -amps / capacity_ah * [(amps * @settings[:capacity_hours] / capacity_ah)**(@settings[kind.peukert] - 1), 1.0].max
      end

      # @return [Float] charge under which it will not crank
      def no_crank = @settings[:no_crank_soc]

      # @param amps [Float] A drawn from it, steadily
      # @return [Float, nil] hours until it will not crank; nil where nothing is drawn
      def hours(amps) = amps.positive? ? [charge - no_crank, 0.0].max / -rate(amps) : nil

      # @return [Float, nil] days until it will not crank
      def days(key_off) = hours(key_off)&./(24)

      # @return [Array<Input>] what run time rests on
      def inputs
        [Input.new(name: 'Capacity', value: capacity_ah, unit: 'Ah', origin: 'entered'),
          Input.new(name: 'Charge now', value: charge, unit: '1', origin: 'battery'),
          @settings.input(kind.peukert), @settings.input('capacity_hours'), @settings.input('no_crank_soc')]
      end

      private

      def between(table, at)
        return table.first[1] if at <= table.first[0]
        return table.last[1] if at >= table.last[0]

        (x0, y0), (x1, y1) = table.each_cons(2).find { |_, (right, _)| at <= right }
        y0 + ((y1 - y0) * (at - x0) / (x1 - x0))
      end
    end
  end
end
