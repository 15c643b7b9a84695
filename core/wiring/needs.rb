# frozen_string_literal: true

require_relative '../parts/catalogue'
require_relative 'scheme'

module Miser
  module Wiring
    # What a feed pulls in: its parts, fuses and a spare, metres of wire; and how long it takes.
    class Needs
      # m of wire to a tie. Common practice.
      TIE_EVERY_M = 0.25
      # A wire's two ends, by how they are joined. Common practice.
      JOINED = { 'bullet' => { 'bullet_pair' => 1 }, 'tap' => { 'piercing_tap' => 1 }, 'lever' => { 'lever' => 1 },
                 'crimp' => { 'crimp' => 2, 'shrink' => 2 }, 'solder' => { 'shrink' => 2 } }.freeze
      # Lies by at every job with wires.
      BESIDE = %w[tape grease].freeze

      # @param scheme [Scheme]
      def initialize(scheme)
        @scheme = scheme
        @catalogue = scheme.catalogue
      end

      # @param feed [Feeds::Feed]
      # @return [Array<Parts::Catalogue::Item>]
      def items(feed)
        parts = feed.kind.parts.map { |kind, count| kind == 'blade_fuse' ? fuse(feed.fuse_a) : @catalogue.item(kind, count: count) }
        parts + wires(feed) + joins(feed)
      end

      # @return [Float, nil] min; nil where it is not known
      def minutes(feed) = @catalogue.minutes("feed.#{feed.kind.key}")

      # @return [Integer, nil] cents; nil where a price is not known
      def cents(feed) = Parts::Catalogue.cents(items(feed))

      # Of every feed decided on, and of the boxes they hang on: for which, what. One kind of wire is one row.
      # @return [Array<Array(String, Parts::Catalogue::Item, String)>] name, item, id of what is fed
      def decided
        own = @scheme.plan.feeds.flat_map { |feed| items(feed).map { |item| [feed.load['name'], item, feed.load_id] } }
        own + @scheme.devices.flat_map { |d| boxes(d) }
      end

      # @param device [Hash] @return [Array<Array(String, Parts::Catalogue::Item)>] what a hub or a controller takes
      def boxes(device)
        fuse = device['fuse_a'] && fuse(device['fuse_a'])
        box = Parts::Catalogue::Item.new(kind: device['kind'], name: device['name'], count: 1,
          cents: device['price_cents']&.to_i || @catalogue.item(device['kind']).cents)
        [box, @catalogue.item('fuse_holder'), fuse, @catalogue.item('ring_terminal', count: 2)].compact.map do |item|
          [device['name'], item]
        end
      end

      private

      # By size and colour, whole metres.
      def wires(feed)
        return [] if feed.kind.device? || feed.kind == Feeds::BranchAdapter

        feed.wires.group_by { |w| [w.area, w.colour, w.material] }.map do |(area, colour, material), list|
          name = ['Wire', Draw::Conductor.words(area, @scheme.units), colour, material == 'copper' ? nil : 'copper-clad'].compact.join(', ')
          @catalogue.item('wire', count: list.sum(&:length).ceil, name: "#{name}, a metre", size: format('%g', area))
        end
      end

      # A fuse, and a spare of each rating.
      def fuse(amps)
        @catalogue.item('blade_fuse', spare: 1, size: amps && format('%g', amps),
          name: amps ? format('Blade fuse, %g A', amps) : Parts::Catalogue::NAMES.fetch('blade_fuse'))
      end

      # By use: what each wire is joined with, ties along its way, tape and grease to lie by.
      def joins(feed)
        return [] if feed.wires.empty?

        used = feed.wires.map(&:join).tally.flat_map { |join, count| (JOINED[join] || {}).map { |kind, each| [kind, each * count] } }
        used = used.reject { |kind, _| feed.kind.parts.key?(kind) }.map { |kind, count| @catalogue.item(kind, count: count) }
        ties = (feed.wires.map(&:length).max / TIE_EVERY_M).ceil
        [*used, @catalogue.item('tie', count: ties), *BESIDE.map { |kind| @catalogue.item(kind, count: 0, spare: 1) }]
      end
    end
  end
end
