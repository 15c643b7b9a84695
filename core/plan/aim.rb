# frozen_string_literal: true

module Miser
  module Plan
    # What is best, by the owner. Each is a sum over what is decided, so that less is better; what is alike by it is
    # told apart by money and time, weighed so lightly that they never decide against it.
    class Aim
      # @!attribute label [String] @!attribute unit [String] of its gap
      Kind = Struct.new(:key, :label, :unit, :cents, :minutes, :kept, :light, keyword_init: true)
      # Weights of a cent, a minute, an amp kept, a lumen.
      TABLE = [
        Kind.new(key: 'money', label: 'least money', unit: 'cents', cents: 1.0, minutes: 1e-5, kept: -1e-4, light: 0.0),
        Kind.new(key: 'kept', label: 'most kept', unit: 'A', cents: 1e-9, minutes: 1e-8, kept: -1.0, light: 0.0),
        Kind.new(key: 'light', label: 'most light', unit: 'lm', cents: 1e-7, minutes: 1e-6, kept: 0.0, light: -1.0),
        Kind.new(key: 'time', label: 'least time', unit: 'min', cents: 1e-7, minutes: 1.0, kept: 0.0, light: 0.0)
      ].freeze
      BY_KEY = TABLE.to_h { |kind| [kind.key, kind] }.freeze

      # @param key [String] of TABLE
      def initialize(key)
        @kind = BY_KEY.fetch(key)
      end

      def key = @kind.key
      def label = @kind.label
      def unit = @kind.unit

      # @return [Float] weight of a cent
      def cents = @kind.cents

      # @return [Float] less is better
      def value(cents:, minutes:, kept:, light:)
        (@kind.cents * cents) + (@kind.minutes * minutes) + (@kind.kept * kept) + (@kind.light * light)
      end

      # @param under [Float] a value to be better than
      # @return [Float] cents that it must come under
      def cents_under(under, **rest) = (under - value(cents: 0, **rest)) / @kind.cents
    end
  end
end
