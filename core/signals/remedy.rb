# frozen_string_literal: true

require_relative '../parts/catalogue'
require_relative 'judgement'
require_relative '../network/e_series'
require_relative 'pin_map'

module Miser
  module Signals
    # A cure for what an LED change does to the signals. Each declares what it costs and
    # changes the harness; whether it works is for the solver to say.
    class Remedy
      # What a remedy adds beside the change itself.
      # @!attribute amps [Float] in the budget, while lit @!attribute watts [Float] W of heat while lit, each
      # @!attribute surface_c [Float] °C @!attribute parts [Array<Parts::Catalogue::Item>]
      # @!attribute minutes [Float, nil]
      Cost = Struct.new(:amps, :watts, :surface_c, :parts, :minutes, :cuts, :loses_warning, :notes, keyword_init: true) do
        # @return [Integer, nil]
        def cents = Parts::Catalogue.cents(parts)
      end

      # What a remedy has to go by.
      # @!attribute harness [Harness] with the LED lamps @!attribute before [Harness] as it came in
      # @!attribute catalogue [Parts::Catalogue]
      Case = Struct.new(:harness, :before, :volts, :plug, :catalogue, keyword_init: true)

      REGISTRY = {} # rubocop:disable Style/MutableConstant -- filled by the remedies as they load

      class << self
        attr_reader :key, :label, :group, :school

        # @param group [Symbol] :rate or :cross, what it mends
        # @param school [String] swap, resistors, or either
        def declare(key, label:, group:, school: 'either')
          @key = key
          @label = label
          @group = group
          @school = school
          REGISTRY[key] = self
        end
      end

      # @param kase [Case]
      def initialize(kase)
        @case = kase
        @harness = kase.harness
      end

      def key = self.class.key

      def label = self.class.label

      # @return [Boolean] whether it could help here at all
      def applies? = true

      # @param harness [Harness] @return [Harness]
      def apply(harness) = harness

      # @return [Cost]
      def cost = plain_cost

      private

      def flasher = @harness.flasher

      # @param tasks [Array<String>] whose minutes it takes, beside the remedy's own
      def plain_cost(parts: [], tasks: [], cuts: 0, loses_warning: false, notes: [], amps: 0.0, watts: 0.0, surface_c: nil)
        Cost.new(amps: amps, watts: watts, surface_c: surface_c, parts: parts,
          minutes: Parts::Catalogue.total([key, *tasks].map { |t| @case.catalogue.minutes("cure.#{t}") }), cuts: cuts,
          loses_warning: loses_warning, notes: notes)
      end

      def part(kind, count = 1, **named) = @case.catalogue.item(kind, count: count, **named)
    end
  end
end
