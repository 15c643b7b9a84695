# frozen_string_literal: true

require_relative 'look'

module Miser
  module Wiring
    # Two tables side by side: what is wanted of every lamp and accessory in every state of the switches, and
    # what the wiring, solved, does there.
    class Truth
      # What may be wanted. flash: at the flasher's rate, or a strobe's.
      WANTED = { 'off' => 'off', 'on' => 'on', 'dim' => 'dim', 'flash' => 'flashing', 'any' => 'either' }.freeze
      # What is taken for what was wanted.
      SERVES = { 'off' => %w[off], 'on' => %w[on], 'dim' => %w[dim], 'flash' => %w[flash] }.freeze

      # @!attribute consumer [Consumer] @!attribute states [Array<Array<String>>] where it is not as wanted
      # @!attribute wanted, seen [String]
      Difference = Struct.new(:consumer, :states, :wanted, :seen, keyword_init: true)

      attr_reader :scheme

      # @param scheme [Scheme] @param cache [Hash] solutions known already
      def initialize(scheme, cache: {})
        @scheme = scheme
        @cache = cache
        @looks = {}
      end

      def states = scheme.switches.states

      # @param state [Array<String>]
      # @return [Look]
      def look(state) = @looks[state] ||= Look.new(scheme, state, cache: @cache)

      # @return [Look] every channel at full
      def full(state) = (@full ||= {})[state] ||= Look.new(scheme, state, cache: @cache, full: true)

      # @return [Array<Consumer>] that the tables are of
      def judged = @judged ||= scheme.altered.select(&:known?)

      # @param consumer [Consumer] @param state [Array<String>]
      # @return [String] key of WANTED
      def wanted(consumer, state) = said(consumer, state) || by_rule(consumer, state)

      # @return [Boolean] whether somebody said so for this very state
      def said?(consumer, state) = !said(consumer, state).nil?

      # @return [String] as the wiring does
      def seen(consumer, state) = look(state).seen.fetch(consumer.id).looks

      # @return [Boolean]
      def right?(consumer, state)
        want = wanted(consumer, state)
        want == 'any' || SERVES.fetch(want).include?(seen(consumer, state)) ||
          (want == 'on' && seen(consumer, state) == 'dim' && dimmed?(consumer))
      end

      # @return [Array<Difference>] alike ones together
      def differences
        @differences ||= judged.flat_map do |c|
          wrong = states.reject { |s| right?(c, s) }
          alike = wrong.group_by { |s| [wanted(c, s), seen(c, s)] }
          alike.map { |(want, see), set| Difference.new(consumer: c, states: set, wanted: want, seen: see) }
        end
      end

      # @return [Integer] states in which all is as wanted
      def right = @right ||= states.count { |s| judged.all? { |c| right?(c, s) } }

      # @return [Boolean] whether all is as wanted everywhere
      def well? = right == states.size

      # The most that an output of a device gives in any state.
      # @param index [Integer] of the device @param output [Devices::Output] @param full [Boolean] every channel at full
      # @return [Float] A
      def most_a(index, output, full: false) = states.map { |s| (full ? full(s) : look(s)).output_a(index, output) }.max

      # @return [String]
      def words
        of = well? ? "all #{right}" : "#{right} of #{states.size}"
        "As wanted in #{of} switch positions."
      end

      private

      def overrides
        @overrides ||= Job::Document.rows(scheme.wiring, 'wanted').to_h do |row|
          [[row['load_id'], scheme.switches.state(row['state'].to_s.split('+'))], row['want']]
        end
      end

      def said(consumer, state) = overrides[[consumer.id, state]]

      def by_rule(consumer, state)
        return 'flash' if consumer.feed.row['strobe'] && state.include?('horn') && state.include?('key')
        return 'off' if consumer.gives_way && state.include?(consumer.gives_way)
        return 'any' if channel_signals?(consumer, state)

        wish = Wishes.of(consumer)
        on = live_lights(state)
        lit = (wish.on - on).empty? && !wish.off.intersect?(on) && own_switch?(consumer, state)
        return 'off' unless lit

        consumer.signal? ? 'flash' : 'on'
      end

      # A controller that is told of the signals does with its channels what its maker thought of.
      def channel_signals?(consumer, state)
        device = consumer.feed.device
        device && device['kind'] == 'controller' && %w[left right].any? { |s| Devices.triggers(device).key?(s) && state.include?(s) }
      end

      def live_lights(state)
        scheme.wiring['lights'] == 'with_key' && state.include?('key') ? state + ['lights'] : state
      end

      def own_switch?(consumer, state)
        id = consumer.feed.row['switch_id']
        id.nil? || state.include?(Switches.own(id))
      end

      # A channel turned down is on, as far as its owner goes.
      def dimmed?(consumer) = consumer.feed.device&.fetch('kind') == 'controller'
    end
  end
end
