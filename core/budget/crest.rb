# frozen_string_literal: true

module Miser
  module Budget
    # An LED unit on raw AC that a regulator holds: its limit is for DC, and its input sees the crest.
    module Crest
      # Crest of a sine over its rms.
      FACTOR = Math.sqrt(2)
      # What a part's supply says of one that may hang on AC; what does not mind its crests anyway.
      AC_RATED = %w[ac either].freeze
      PATIENT = %w[filament heater].freeze

      # @!attribute entry [Entry] @!attribute volts [Float] rms @!attribute crest_v, limit_v [Float]
      Over = Struct.new(:entry, :volts, :crest_v, :limit_v, keyword_init: true)

      # @param entry [Entry]
      # @return [Boolean] whether its limit is for DC
      def self.dc_only?(entry)
        %w[led accessory].include?(entry.kind) && !PATIENT.include?(entry.load.law_key) && !AC_RATED.include?(entry.load.document['supply'])
      end

      # @param ledger [Ledger]
      # @return [Array<Over>] of those whose supply nobody says
      def self.over(ledger)
        volts = ledger.circuit.held
        return [] unless ledger.circuit.ac? && !ledger.circuit.rectified? && volts

        ledger.entries.select { |e| dc_only?(e) && e.load.document['supply'].nil? }.filter_map do |entry|
          limit = entry.limit_v(ledger.settings)
          crest = volts * FACTOR
          limit && crest > limit ? Over.new(entry: entry, volts: volts, crest_v: crest, limit_v: limit) : nil
        end
      end
    end
  end
end
