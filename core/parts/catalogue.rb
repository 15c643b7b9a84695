# frozen_string_literal: true

module Miser
  module Parts
    # What work pulls into an order and how long it takes: kinds of part and tasks by key,
    # with the prices and minutes that somebody keeps for them. Without a figure both stay
    # unknown.
    class Catalogue
      # @!attribute kind [String] key @!attribute cents [Integer, nil] of one; nil where no price is known
      # @!attribute size [String, nil] what it must measure: a fuse’s amps, a wire’s mm² @!attribute spare [Integer, nil] to lie by
      Item = Struct.new(:kind, :name, :count, :cents, :size, :spare, keyword_init: true)

      NAMES = {
        'flasher_3' => 'Load-independent flasher, three terminals', 'flasher_2' => 'Load-independent flasher, two terminals',
        'earth_lead' => 'Earth lead with ring terminal',
        'load_resistor' => 'Load resistor', 'tap' => 'Tap connector', 'diode_pair' => 'Diode pair, 1 A, with leads',
        'led_telltale' => 'LED tell-tale',
        'rectifier' => 'Rectifier-regulator with smoothing', 'angle_plug' => 'Right-angle lamp plug', 'wide_boot' => 'Lamp boot, wide',
        'lamp_adapter' => 'Adapter harness, headlamp',
        'lamp_extension' => 'Extension lead, headlamp', 'adapter_ring' => 'Adapter ring', 'year_ring' => 'Mounting ring for the year',
        'year_harness' => 'Adapter harness for the year',
        'lamp_hub' => 'Plug-in isolating hub, headlamp',
        'hub' => 'Isolating hub', 'hub_lead' => 'Harness lead of the hub', 'controller' => 'Two-channel light controller',
        'relay' => 'Relay, 12 V 30 A, make contact', 'relay_socket' => 'Relay socket with leads',
        'fuse_holder' => 'Blade fuse holder, in line',
        'blade_fuse' => 'Blade fuse', 'ring_terminal' => 'Ring terminal', 'bullet_pair' => 'Bullet and socket, pair',
        'piercing_tap' => 'Piercing tap', 'branch_adapter' => 'Branch adapter', 'wire' => 'Wire, a metre',
        'shrink' => 'Heat-shrink with glue, a length', 'crimp' => 'Crimp connector', 'lever' => 'Lever connector', 'tie' => 'Cable tie',
        'tape' => 'Harness tape, a roll', 'grease' => 'Dielectric grease, a tube', 'alcohol' => 'Alcohol wipe', 'primer' => 'Primer wipe'
      }.freeze

      # @param cents [Hash{String=>Integer}] by kind of part
      # @param minutes [Hash{String=>Numeric}] by task
      def initialize(cents: {}, minutes: {})
        @cents = cents
        @minutes = minutes
      end

      # @param kind [String] of NAMES @param name [String] where one is more particular
      # @param size [String, nil] @param spare [Integer, nil] see Item
      # @return [Item]
      def item(kind, count: 1, name: NAMES.fetch(kind), size: nil, spare: nil)
        Item.new(kind: kind, name: name, count: count, cents: @cents[kind], size: size, spare: spare)
      end

      # @param task [String]
      # @return [Float, nil]
      def minutes(task) = @minutes[task]&.to_f

      # @param figures [Array<Numeric, nil>]
      # @return [Numeric, nil] nil where one is unknown
      def self.total(figures) = figures.include?(nil) ? nil : figures.sum

      # @param items [Array<Item>]
      # @return [Integer, nil]
      def self.cents(items) = total(items.map { |i| i.cents && (i.cents * i.count) })

      NONE = new
    end
  end
end
