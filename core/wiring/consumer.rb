# frozen_string_literal: true

require_relative '../draw/filament'
require_relative '../feeds/feed'
require_relative '../network/elements'
require_relative '../volts'

module Miser
  module Wiring
    # A lamp or an accessory as it stands after the change, and how it is fed.
    class Consumer
      # Where an LED begins at the least, V: a junction's.
      LED_FROM_V = 3.0
      # Ω; less is a wire.
      LEAST_OHMS = 1e-4

      attr_reader :entry, :feed, :why, :index

      # @param entry [Budget::Entry] @param index [Integer] by which its parts are named
      # @param feed [Feeds::Feed, nil] nil for what hangs on the machine as it did
      # @param decided [Boolean] whether somebody took that feed @param why [String, nil] why it is proposed
      def initialize(entry, index, feed: nil, decided: false, why: nil)
        @entry = entry
        @index = index
        @feed = feed
        @decided = decided
        @why = why
      end

      def id = entry.id
      def name = entry.row['name']
      def role = entry.row['role']
      def row = entry.row
      def load = entry.load
      def known? = load.known?
      def decided? = @decided
      def altered? = !feed.nil?
      def lamp? = entry.lit? || role == 'aux_lamp'
      def signal? = role.start_with?('signal_')
      def filament? = load.law_key == 'filament'

      # @return [String] the machine's wire it hangs on where it has no feed of its own
      def line = entry.row['stays_on'] && role == 'head_low' ? 'lights' : Feeds::Lines.of(role)

      # @return [String, nil] signal that it goes out for
      def gives_way = entry.row['gives_way']&.delete_prefix('signal_')

      # @return [Float] Ω of the machine's own wire to it and back, all of the count beside each other
      def machine_ohms
        own = decided? && feed ? load.count * feed.loop_ohms : 0.0
        [((load.feed&.ohms || 0.0) - own) / load.count, LEAST_OHMS].max
      end

      # @return [Float] A all together at the volts its law is known at
      def nominal_a = load.count * load.law.amps

      # @param a [String] @param b [String] nodes @param duty [Float] share of its full strength
      # @return [Network::Element]
      def element(a, b, duty = 1.0)
        law = load.law
        amps = [nominal_a * duty, 1e-9].max
        case load.law_key
        when 'filament' then Network::Filament.new(part('lamp'), a, b, law.volts, amps)
        when 'heater' then Network::Resistor.new(part('lamp'), a, b, law.volts / amps)
        else Network::Led.new(part('lamp'), a, b, kind: load.law_key, volts: law.volts, amps: amps, from_v: [law.min_v, LED_FROM_V].max)
        end
      end

      # Share of its full light.
      # @param volts [Float] across it @param amps [Float] through it @param duty [Float]
      # @return [Float]
      def share(volts, amps, duty)
        return [volts / load.law.volts, 0.0].max**Draw::Filament::LIGHT if filament?
        return [volts / load.law.volts, 0.0].max**2 if load.law_key == 'heater'

        [amps, 0.0].max / [nominal_a * duty, 1e-9].max
      end

      # @return [String] name of one of its parts in the circuit
      def part(what) = "#{what}#{index}"
    end
  end
end
