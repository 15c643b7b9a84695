# frozen_string_literal: true

require_relative 'truth'

module Miser
  module Wiring
    # What touching a live wire to earth would do: how much flows, which fuse opens, how fast.
    class Shorts
      # V of a rested battery that gives all it has.
      VOLTS = Volts::REST
      # @!attribute amps [Float] @!attribute fuse_a [Float, nil] @!attribute words [String]
      Short = Struct.new(:load, :wire, :name, :amps, :fuse_a, :opening, :words, keyword_init: true)

      # @param scheme [Scheme]
      def initialize(scheme)
        @scheme = scheme
      end

      # At the end of every wire somebody lays that the battery feeds.
      # @return [Array<Short>]
      def all
        return [] unless @scheme.battery?

        @scheme.altered.flat_map { |c| c.feed.wires.reject { |w| %w[earth coil_earth].include?(w.key) }.map { |w| short(c, w) } }
      end

      private

      def short(c, wire)
        ohms = @scheme.source_ohms + before(c, wire)
        amps = VOLTS / ohms
        rating = fuse(c, wire)
        opening = rating && Feeds::Blade.opening(amps, rating)
        Short.new(load: c.id, wire: wire.key, name: "#{c.name}, #{wire.label}", amps: amps, fuse_a: rating, opening: opening,
          words: words(amps, rating, opening, wire))
      end

      # Ω from the battery to where it touches.
      def before(c, wire)
        own = c.feed.wires.select { |w| w.carries == wire.carries }
        path = own.take_while { |w| w.key != wire.key }.reject { |w| %w[earth coil_earth].include?(w.key) } + [wire]
        fuse = fuse(c, wire)
        machine = c.feed.source == 'battery' && wire.carries == :lamp ? 0.0 : @scheme.settings[:feed_ohm]
        contact = wire.key == 'out' && c.feed.kind.relay? ? Feeds::CONTACT_OHM : 0.0
        path.sum(&:ohms) + (fuse ? Feeds.fuse_ohms(fuse) : 0.0) + machine + contact
      end

      def fuse(c, wire)
        return c.feed.device && c.feed.device['fuse_a'] if c.feed.kind.device?
        return @scheme.wiring['fuse_a'] if wire.carries == :coil || (c.feed.kind.on_machine? && !c.feed.kind.fused?)

        c.feed.fuse_a
      end

      def words(amps, rating, opening, wire)
        flows = format('About %.0f A flow', amps)
        return "#{flows}; the machine’s own fuse opens, its rating is not entered." if rating.nil? && (wire.carries == :coil || !wire.fused)
        return "#{flows}, and no fuse opens: the wire burns." if rating.nil?

        format('%s through its %g A fuse: %s', flows, rating, opening.words)
      end
    end
  end
end
