# frozen_string_literal: true

require_relative 'settled'

module Miser
  module Wiring
    # What a person sees with the switches standing so: every lamp and accessory, every wire and fuse, in both
    # phases of the flasher where one is on.
    class Look
      # @!attribute looks [String] off, ghost, dim, on, flash, unknown @!attribute volts, amps [Float, nil] while it is on
      # @!attribute source_v [Float] at the source @!attribute duty [Float]
      Seen = Struct.new(:id, :looks, :volts, :amps, :share, :duty, keyword_init: true) do
        # @return [Boolean] whether it is taken for on
        def lit? = LIT.include?(looks)
      end
      # What is taken for on.
      LIT = %w[dim on flash].freeze
      # @!attribute drop [Float] V lost out and back, share of the source's
      WireSeen = Struct.new(:feed, :key, :amps, :drop, keyword_init: true)
      # @!attribute share [Float] of its rating @!attribute open [Boolean]
      FuseSeen = Struct.new(:id, :of, :name, :rating, :amps, :share, :open, keyword_init: true)

      attr_reader :state, :on, :off

      # @param scheme [Scheme] @param state [Array<String>] switches that are on @param cache [Hash]
      # @param full [Boolean] channels at full @param volts [Float, nil] at the source @param hurt [Hurt] what is wrong with it
      def initialize(scheme, state, cache: {}, full: false, volts: nil, hurt: Hurt::NONE)
        @scheme = scheme
        @state = state
        @full = full
        @hurt = hurt
        @on = settled(true, full, volts, cache)
        @off = flashing? ? settled(false, full, volts, cache) : @on
      end

      # @return [Boolean] whether the flasher is at work, or a strobe
      def flashing? = state.intersect?(%w[left right horn])

      def source_v = @on.volts('bat')

      # @return [Hash{String=>Seen}] by load
      def seen = @seen ||= @scheme.consumers.to_h { |c| [c.id, c.known? ? of(c) : unknown(c)] }

      # @return [Array<WireSeen>]
      def wires
        @wires ||= @scheme.known.select(&:feed).flat_map do |c|
          c.feed.wires.map do |w|
            amps = @on.amps(c.part("w_#{w.key}_"))
            WireSeen.new(feed: c.id, key: w.key, amps: amps, drop: (amps * w.ohms).abs)
          end
        end
      end

      # @return [Array<FuseSeen>]
      def fuses
        @fuses ||= @scheme.known.select { |c| c.feed&.fuse_a }.map { |c| fuse(c.part('f'), c.id, c.name, c.feed.fuse_a) } +
                   @scheme.devices.each_with_index.filter_map { |d, i| d['fuse_a'] && fuse("df#{i}", d['id'], d['name'], d['fuse_a']) }
      end

      # @return [Array<String>] loads whose relay is pulled in
      def relays = @scheme.known.select { |c| c.feed&.kind&.relay? && @on.state.pulled.include?(c.part('k')) }.map(&:id)

      # V lost to a load out and back, as a share of the source's.
      # @return [Float, nil] nil where it is off
      def drop(consumer)
        item = seen.fetch(consumer.id)
        item.amps&.positive? && item.lit? ? (source_v - item.volts) / source_v : nil
      end

      # @return [Array<Consumer>] that are on
      def lit = @scheme.consumers.select { |c| seen.fetch(c.id).lit? }

      # @return [Float, nil] the highest drop, as a share of the source's volts
      def worst_drop = @scheme.known.filter_map { |c| drop(c) }.max

      # @param output [Devices::Output]
      # @return [Float] A that an output of a device gives
      def output_a(index, output) = @on.amps("o#{index}_#{output.part}")

      def restless? = @on.restless? || @off.restless?

      # @return [Float] A, worst imbalance of the sums of currents
      def residual = [@on, @off].map { |s| s.solution.residual }.max

      private

      # One answer for all states in which the same wires are live and the same is commanded.
      def settled(flash, full, volts, cache)
        on = Circuit::State.new(on: state, flash: flash, full: full, volts: volts, hurt: @hurt)
        cache[[live(flash), commanded, flash, full, volts, @hurt]] ||= Settled.new(@scheme, on, cache)
      end

      def live(flash) = Feeds::Lines::TABLE.select { |l| @scheme.switches.live?(l, state) && (flash || !l.flashes?) }.map(&:key)

      # What lamps and channels go by beside the wires that are live.
      def commanded = state - Switches::USUAL.keys + (state & %w[key left right horn])

      def fuse(id, of, name, rating)
        amps = @on.amps(id)
        FuseSeen.new(id: id, of: of, name: name, rating: rating, amps: amps, share: amps / rating, open: @on.opened.include?(id))
      end

      def unknown(c) = Seen.new(id: c.id, looks: 'unknown')

      def of(c)
        bright, dark = [@on, @off].map { |s| glow(c, s) }
        shown = flashing? && dark.share > bright.share ? dark : bright
        Seen.new(id: c.id, looks: looks(bright, dark), volts: shown.volts, amps: shown.amps, share: shown.share * shown.duty,
          duty: shown.duty)
      end

      Glow = Struct.new(:level, :volts, :amps, :share, :duty, keyword_init: true)
      private_constant :Glow

      def glow(c, settled)
        amps = @hurt.dead.include?(c.id) ? 0.0 : settled.amps(c.part('lamp'))
        volts = settled.volts(c.part('c'), c.part('e')).abs
        duty = settled.duty(c.id)
        share = amps.zero? ? 0.0 : c.share(volts, amps, duty)
        Glow.new(level: level(share, duty), volts: volts, amps: amps, share: share, duty: duty)
      end

      def level(share, duty)
        settings = @scheme.settings
        return 'off' if share < settings[:seen_ghost]
        return 'ghost' if share < settings[:seen_dim]

        share < settings[:seen_lit] || duty < 1 ? 'dim' : 'on'
      end

      def looks(bright, dark)
        return bright.level unless flashing? && bright.level != dark.level

        [bright, dark].any? { |glow| LIT.include?(glow.level) } ? 'flash' : bright.level
      end
    end
  end
end
