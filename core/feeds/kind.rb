# frozen_string_literal: true

module Miser
  module Feeds
    # A way to feed a lamp or an accessory. Each declares its wires, its parts, how long it takes and
    # whether it can be undone, and says itself when it is the one to take.
    class Kind
      # A wire it needs. @!attribute from, to [Symbol] line, trigger, battery, relay, device, load, earth
      # @!attribute area [Float] mm², as kits have it (common practice)
      Spec = Struct.new(:key, :label, :carries, :from, :to, :area, :fused, keyword_init: true)
      # What a proposal goes by.
      # @!attribute amps [Float, nil] A it draws; nil where unknown @!attribute swapped [Boolean] a part in an old lamp's place
      # @!attribute brought [Boolean] a function its lamp never had @!attribute plugs_differ [Boolean]
      # @!attribute bus [Boolean] @!attribute battery [Boolean] whether the machine has one
      # @!attribute extras [Integer] auxiliary lamps added
      Case = Struct.new(:role, :group, :amps, :swapped, :brought, :plugs_differ, :bus, :battery, :extras, keyword_init: true)

      REGISTRY = {} # rubocop:disable Style/MutableConstant -- filled by the kinds as they load

      class << self
        attr_reader :key, :label, :what, :wires, :parts, :cuts, :undo, :source, :most_a, :extra_ohms

        # @param what [String] in a sentence @param wires [Array<Spec>] @param parts [Hash{String=>Integer}] kinds of part
        # @param cuts [Integer] places where insulation is opened @param undo [String] what is left when it is taken out
        # @param source [String, nil] the machine's wire it always takes @param most_a [Float, nil] A, more is for a relay
        # @param extra_ohms [Float] of what is in it beside wires and fuse
        def declare(key, label:, what:, undo:, wires: [], parts: {}, cuts: 0, source: nil, most_a: nil, extra_ohms: 0.0)
          @key = key
          @label = label
          @what = what
          @wires = wires
          @parts = parts
          @cuts = cuts
          @undo = undo
          @source = source
          @most_a = most_a
          @extra_ohms = extra_ohms
          REGISTRY[key] = self
        end

        def wire(key, label, from, to, area, carries: :lamp, fused: false)
          Spec.new(key: key, label: label, from: from, to: to, area: area, carries: carries, fused: fused)
        end

        # @param kase [Case]
        # @return [String, nil] why it is the one to take; nil where it is not
        def reason(_kase) = nil

        # @param kase [Case]
        # @return [String, nil] why it can't be taken
        def no(_kase) = nil

        # @return [Boolean] whether the lamp's current comes by the machine's own wire
        def on_machine? = source.nil? && !device? && !relay?

        def relay? = false
        def device? = false
        def fused? = wires.any?(&:fused)

        # @return [Class] @raise [KeyError]
        def named(key) = REGISTRY.fetch(key)

        # The first whose reason holds.
        # @param kase [Case]
        # @return [Array(Class, String)]
        def propose(kase) = REGISTRY.values.filter_map { |kind| (why = kind.reason(kase)) && kind.no(kase).nil? && [kind, why] }.first
      end
    end
  end
end
