# frozen_string_literal: true

require_relative '../errors'

module Miser
  module Draw
    # How a load's current follows its voltage. Each law declares itself in its
    # own file and is found by name; a new law is a new file.
    #
    # A law is anchored at one reference point (volts, amps). Below min_v it draws
    # nothing and gives no light.
    class Law
      REGISTRY = {} # rubocop:disable Style/MutableConstant -- filled by the laws as they load

      class << self
        attr_reader :key, :exponent, :label, :used_for, :source, :drifts

        # Declares a law.
        # @param key [String] name in job files
        # @param exponent [Float, nil] of I ∝ V^exponent; nil where it is no power law
        # @param drifts [Boolean] whether its draw goes on falling for minutes as it warms
        def declare(key, label:, used_for:, source:, exponent: nil, drifts: true)
          @key = key
          @label = label
          @used_for = used_for
          @source = source
          @exponent = exponent
          @drifts = drifts
          REGISTRY[key] = self
        end

        # @param key [String]
        # @return [Class] the law
        # @raise [UnknownName] naming the laws there are
        def named(key)
          REGISTRY.fetch(key) { raise UnknownName.new(what: 'draw law', given: key, known: REGISTRY.keys) }
        end
      end

      attr_reader :volts, :amps, :min_v

      # @param volts [Float] reference volts, > 0
      # @param amps [Float] reference amps, >= 0
      # @param min_v [Float] volts below which it is dark
      # @param exponent [Float, nil] a measured exponent, in place of the law's own
      def initialize(volts:, amps:, min_v: 0.0, exponent: nil)
        raise ArgumentError, "reference volts must be above 0, got #{volts}" unless volts.to_f.positive?
        raise ArgumentError, "reference amps must not be negative, got #{amps}" if amps.to_f.negative?

        @volts = volts.to_f
        @amps = amps.to_f
        @min_v = min_v.to_f
        @exponent = exponent
      end

      def exponent = @exponent || self.class.exponent

      # The same law through another point.
      # @param volts [Float] @param amps [Float]
      # @return [Law]
      def anchored(volts, amps) = self.class.new(volts: volts, amps: amps, min_v: min_v, exponent: @exponent)

      # Loads of one group differ only by a factor.
      # @return [Array(Float, Float)] exponent and threshold
      def group = @group ||= [exponent, min_v].freeze

      # @return [Float] k of I = k · V^exponent
      def coefficient = @coefficient ||= amps / (volts**exponent)

      # @param at [Float] volts
      # @return [Float] amps
      def current(at)
        return 0.0 if at <= 0 || at < min_v

        amps * ((at / volts)**exponent)
      end

      # @return [Float] watts at those volts
      def watts(at) = at * current(at)

      # Light at one voltage as a share of the light at another.
      # @return [Float, nil] nil where the load gives no light
      def light(at, of:)
        return nil unless of.positive?
        return 0.0 if at < min_v

        current(at) / current(of)
      end

      # Life at one voltage as a multiple of life at another.
      # @return [Float, nil] nil where no law is published
      def life(_at, of:) = nil # rubocop:disable Lint/UnusedMethodArgument -- the laws that know it answer

      # Change of amps with volts, per cent per per cent, at those volts.
      # @return [Float]
      def sensitivity(at) = at < min_v ? 0.0 : exponent
    end
  end
end
