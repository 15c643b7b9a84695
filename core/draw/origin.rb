# frozen_string_literal: true

require_relative '../errors'

module Miser
  module Draw
    # Where a draw comes from, best first. Figures of different origin are never mixed.
    class Origin
      attr_reader :key, :label, :rank

      def initialize(key, label, rank, setting)
        @key = key
        @label = label
        @rank = rank
        @setting = setting
      end

      TABLE = [
        new('measured_settled', 'measured, settled, this machine', 0, nil),
        new('measured_cold', 'measured cold, this machine', 1, 'sigma_cold'),
        new('summed', 'worked out of sums read on the machine', 2, nil),
        new('same_model', 'same model, measured elsewhere', 2, 'sigma_same_model'),
        new('other_shop', 'same model, measured in other shops', 2, 'sigma_other_shop'),
        new('maker', 'maker’s current figure', 3, 'sigma_maker'),
        new('nominal', 'nominal lamp watts', 4, 'sigma_nominal'),
        new('advertised', 'advertised watts, a range', 5, nil),
        new('default', 'default for this engine kind, not measured', 6, 'sigma_default'),
        new('simulated', 'simulated: no real lamp was measured', 7, 'sigma_default')
      ].freeze
      BY_KEY = TABLE.to_h { |o| [o.key, o] }.freeze

      def self.named(key)
        BY_KEY.fetch(key) { raise UnknownName.new(what: 'origin', given: key, known: BY_KEY.keys) }
      end

      def measured? = rank < 2

      # Whether a figure may be entered with it; the others come of readings.
      def stated? = !measured? && !simulated? && key != 'summed'

      # What a stand-in said: it stands for nothing that anything else is known of.
      def simulated? = key == 'simulated'

      # Whether a figure of this origin rests on a doubt that Miser assumed.
      def assumed? = rank >= 4

      # @param amps [Float] the figure
      # @param settings [Assumptions]
      # @return [Float] one standard uncertainty, A
      def sigma(amps, settings)
        case key
        when 'advertised' then raise ArgumentError, 'advertised watts are a range: ask the claim'
        when 'measured_settled' then Origin.meter_sigma(amps, settings)
        else Math.hypot(amps * settings[@setting], measured? ? Origin.meter_sigma(amps, settings) : 0.0)
        end
      end

      # The setting its doubt rests on.
      # @return [Array<String>] setting keys
      def settings
        case key
        when 'advertised' then %w[advertised_low advertised_high]
        when 'summed' then %w[clamp_pct]
        when 'measured_settled' then %w[meter_pct meter_digits meter_resolution]
        else [@setting]
        end
      end

      # Meter's own error: share of reading plus last digits.
      # @return [Float] A
      def self.meter_sigma(amps, settings)
        (amps * settings[:meter_pct]) + (settings[:meter_digits] * settings[:meter_resolution])
      end
    end
  end
end
