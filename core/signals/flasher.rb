# frozen_string_literal: true

require_relative '../errors'

module Miser
  module Signals
    # How a flasher behaves for the current it sees. Each kind declares itself in the
    # table below; shapes are fits to what is seen in the field (common practice), the
    # preset rate is a setting of the harness once it was counted.
    class Flasher
      # @!attribute rhythm [String] flashes, steady (on and stays on), none (never on)
      # @!attribute rate [Float, nil] flashes a minute @!attribute on_share [Float, nil]
      # @!attribute first_s [Float, nil] until the first flash
      # @!attribute telltale_rate [Float, nil] where a controller flashes it at a rate of its own
      Pattern = Struct.new(:rhythm, :rate, :on_share, :first_s, :telltale_rate, :note, keyword_init: true) do
        def flashes? = rhythm == 'flashes'
      end

      # @!attribute terminals [Array<String>] by DIN 72552: 49 supply, 49a to the switch, 31 earth
      Kind = Struct.new(:key, :label, :terminals, :outage, :listens, :model, keyword_init: true)

      PRESET = 85.0
      # Above this the eye sees no gaps.
      BLUR = 260.0

      # Share of the design current under which a lamp is believed out.
      OUTAGE_SHARE = 0.75
      # A thermal heater starved under this share never opens its contact.
      HEATS_SHARE = 0.55
      # Share from which a flasher is overloaded.
      OVER_SHARE = 2.2
      # With more than it was made for, as in hazard, a bimetal or a capacitor hardly minds: the exponent of its rate.
      OVERFED = 0.2
      # Amps a two-terminal electronic flasher needs through the lamps to live on.
      TRICKLE_A = 0.003

      TABLE = [
        Kind.new(key: 'thermal', label: 'thermal, two terminals', terminals: %w[49 49a], outage: true, listens: true, model: lambda { |x, r|
          if x < HEATS_SHARE
            Pattern.new(rhythm: 'steady', note: 'Its heater never heats.')
          else
            Pattern.new(rhythm: 'flashes', rate: r * (x**(x < 1 ? 0.8 : OVERFED)), on_share: 0.5, first_s: 0.9 / x)
          end
        }),
        Kind.new(key: 'capacitor', label: 'capacitor, two terminals', terminals: %w[49 49a], outage: true, listens: true,
          model: lambda { |x, r|
            rate = r * (x < 1 ? [x, 0.02].max**-0.75 : x**-OVERFED)
            Pattern.new(rhythm: rate > BLUR ? 'steady' : 'flashes', rate: rate, on_share: rate > BLUR ? nil : 0.5, first_s: 0.2,
              note: rate > BLUR ? 'So fast that it looks steady.' : nil)
          }),
        Kind.new(key: 'outage', label: 'outage-sensing electronic, three terminals', terminals: %w[49 49a 31], outage: true, listens: true,
          model: lambda { |x, r|
            Pattern.new(rhythm: 'flashes', rate: x < OUTAGE_SHARE ? r * 2.2 : r, on_share: 0.48, first_s: 0.1,
              note: x < OUTAGE_SHARE ? 'It believes a lamp is out.' : nil)
          }),
        Kind.new(key: 'free_2', label: 'load-independent, two terminals', terminals: %w[49 49a], outage: false, listens: false,
          model: lambda { |_x, r|
            Pattern.new(rhythm: 'flashes', rate: r, on_share: 0.5, first_s: 0.1)
          }),
        Kind.new(key: 'free_3', label: 'load-independent, three terminals', terminals: %w[49 49a 31], outage: false, listens: false,
          model: lambda { |_x, r|
            Pattern.new(rhythm: 'flashes', rate: r, on_share: 0.5, first_s: 0.1)
          }),
        Kind.new(key: 'controller', label: 'inside a body controller', terminals: [], outage: true, listens: true, model: lambda { |x, r|
          low = x < OUTAGE_SHARE
          Pattern.new(rhythm: 'flashes', rate: r, on_share: 0.5, first_s: 0.05, telltale_rate: low ? r * 2 : r,
            note: low ? 'Its outage test sees a lamp out: fast tell-tale and a fault code.' : nil)
        })
      ].freeze
      BY_KEY = TABLE.to_h { |k| [k.key, k] }.freeze

      attr_reader :kind, :rate, :design_a, :earthed, :crossed, :dead, :welded, :outage_off, :leak_ohm

      # @param kind [String] key
      # @param design_a [Float] A of one side it was made for
      # @param rate [Float, nil] flashes a minute at that load, as counted; the preset where not
      # @param earthed [Boolean] whether a third terminal has its earth
      # @param crossed [Boolean] supply and output the wrong way round
      # @param leak_ohm [Float, nil] what its open contact lets through
      # @param outage_off [Boolean] a controller told not to look
      # @raise [UnknownName]
      def initialize(kind:, design_a:, rate: nil, earthed: true, crossed: false, dead: false, welded: false, outage_off: false,
                     leak_ohm: nil)
        @kind = BY_KEY.fetch(kind) { raise UnknownName.new(what: 'flasher', given: kind, known: BY_KEY.keys) }
        @rate = rate || PRESET
        @design_a = design_a
        @earthed = earthed
        @crossed = crossed
        @dead = dead
        @welded = welded
        @outage_off = outage_off
        @leak_ohm = leak_ohm
      end

      def with(**changes)
        Flasher.new(kind: kind.key, design_a: design_a, rate: rate, earthed: earthed, crossed: crossed, dead: dead, welded: welded,
          outage_off: outage_off, leak_ohm: leak_ohm, **changes)
      end

      # Two flashers alike are one, so that what is known of a loop is found again.
      def ==(other) = other.is_a?(Flasher) && traits == other.traits
      alias eql? ==
      def hash = traits.hash

      # Whether any current gets through it at all.
      def passes? = !dead && !(electronic? && crossed) && !(kind.terminals.include?('31') && !earthed)

      def electronic? = !%w[thermal capacitor].include?(kind.key)

      # Whether it warns of a lamp that is out.
      def warns? = kind.outage && !outage_off

      # It knows one thing: the amps through it, against those of the one side it was made for. In hazard both sides pass through it.
      # @param amps [Float] through its closed contact
      # @return [Pattern]
      def pattern(amps)
        return Pattern.new(rhythm: 'steady', note: 'Its contact has stuck.') if welded
        return Pattern.new(rhythm: 'none', note: dead_words) unless passes?
        return Pattern.new(rhythm: 'none', note: 'Too little flows for it to live on.') if kind.key == 'free_2' && amps < TRICKLE_A
        return Pattern.new(rhythm: 'none', note: 'Nothing flows.') if kind.listens && kind.key != 'controller' && amps < TRICKLE_A

        share = outage_off ? 1.0 : amps / design_a
        overload(amps / design_a, kind.model.call([share, 1e-3].max, rate))
      end

      protected

      def traits = [kind.key, design_a, rate, earthed, crossed, dead, welded, outage_off, leak_ohm]

      private

      # Far over what it was made for, contacts and electronics get hot.
      def overload(share, pattern)
        pattern.note ||= 'Far over its rating: it gets hot and may cut out.' if share > OVER_SHARE
        pattern
      end

      def dead_words
        return 'It has no earth.' if kind.terminals.include?('31') && !earthed

        crossed ? 'Its supply and output are crossed.' : 'It is dead.'
      end
    end
  end
end
