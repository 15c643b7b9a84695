# frozen_string_literal: true

module Miser
  module Feeds
    # Named places of a machine, each with the way to the next one nearer the steering neck: lengths are
    # added up along them, as a wire is laid.
    class Places
      # @!attribute to [String, nil] the next place @!attribute metres [Float] to it
      # @!attribute turns [Boolean] whether the handlebar moves one against the other
      Place = Struct.new(:key, :label, :to, :metres, :turns, :hot, keyword_init: true)
      # @!attribute metres [Float] with slack @!attribute slack [Float] m in it @!attribute via [Array<String>] labels, end to end
      # @!attribute measured [Boolean] whether somebody measured all of it
      Way = Struct.new(:metres, :slack, :via, :turns, :hot, :measured, keyword_init: true)

      def self.place(key, label, to, metres, turns: false, hot: false)
        Place.new(key: key, label: label, to: to, metres: metres, turns: turns, hot: hot)
      end
      private_class_method :place

      # Metres as on a middling machine, for whoever has no tape at hand. Assumption.
      TABLE = [
        place('neck', 'steering neck', nil, 0.0), place('head', 'head', 'neck', 0.35, turns: true),
        place('dash', 'dash', 'neck', 0.25, turns: true), place('bars', 'handlebar', 'neck', 0.45, turns: true),
        place('tank', 'tank', 'neck', 0.45), place('engine', 'engine', 'tank', 0.4, hot: true), place('seat', 'seat', 'tank', 0.45),
        place('tail', 'tail', 'seat', 0.5), place('rack', 'cargo rack', 'tail', 0.3)
      ].freeze
      BY_KEY = TABLE.to_h { |p| [p.key, p] }.freeze
      # m of slack wherever the handlebar turns. Assumption.
      SLACK = 0.1
      # Kinds of machine whose headlamp stays where it is.
      FIXED = %w[snowmobile side_by_side walk_behind].freeze
      # Where a thing of a role usually is.
      OF_ROLE = { 'head_low' => 'head', 'head_high' => 'head', 'position' => 'head', 'tail' => 'tail', 'brake' => 'tail', 'plate' => 'tail',
                  'dash_light' => 'dash', 'telltale' => 'dash', 'grips' => 'bars', 'charger' => 'bars', 'tracker' => 'seat',
                  'aux_lamp' => 'head' }.freeze
      OF_END = { 'front' => 'head', 'rear' => 'tail' }.freeze

      # @param wiring [Hash] of the document @param kind [String, nil] of machine
      def initialize(wiring, kind)
        @said = wiring['places'] || {}
        @battery = wiring['battery_at'] || 'seat'
        @kind = kind
      end

      # @return [String] place of the battery
      attr_reader :battery

      # @return [Float] m from a place to the next
      def metres(key) = @said[key] || BY_KEY.fetch(key).metres

      def measured?(key) = @said.key?(key)

      # Where a load hangs: as its lamp says, as its words say, as is usual.
      # @param row [Hash] of a load @return [String]
      def of(row)
        words = row['position'].to_s.downcase
        named = TABLE.find { |p| !words.empty? && (words.include?(p.label) || words.include?(p.key)) }
        named&.key || OF_END[row['end']] || OF_ROLE.fetch(row['role'], 'seat')
      end

      # @param from [String] @param to [String] places; battery is the battery's
      # @return [Way]
      def way(from, to)
        one = path(resolve(from))
        other = path(resolve(to))
        shared = one & other
        legs = (one - shared) + (other - shared)
        turning = legs.any? { |k| turns?(k) }
        slack = turning ? SLACK : 0.0
        stops = (one - shared) + [shared.first] + (other - shared).reverse
        Way.new(metres: legs.sum { |k| metres(k) } + slack, slack: slack, via: stops.map { |k| BY_KEY.fetch(k).label }, turns: turning,
          hot: stops.any? { |k| BY_KEY.fetch(k).hot }, measured: legs.all? { |k| measured?(k) })
      end

      private

      def turns?(key) = BY_KEY.fetch(key).turns && !FIXED.include?(@kind)

      def resolve(place) = place == 'battery' ? battery : place

      # From a place to the neck.
      def path(key)
        list = []
        while key
          list << key
          key = BY_KEY.fetch(key).to
        end
        list
      end
    end
  end
end
