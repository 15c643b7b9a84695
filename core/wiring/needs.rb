# frozen_string_literal: true

require_relative '../parts/catalogue'
require_relative 'scheme'

module Miser
  module Wiring
    # What a feed pulls in: its parts, fuses and a spare, metres of wire; and how long it takes.
    class Needs
      # @param scheme [Scheme]
      def initialize(scheme)
        @scheme = scheme
        @catalogue = scheme.catalogue
      end

      # @param feed [Feeds::Feed]
      # @return [Array<Parts::Catalogue::Item>]
      def items(feed)
        parts = feed.kind.parts.map do |kind, count|
          name = kind == 'blade_fuse' && feed.fuse_a ? format('Blade fuse, %g A', feed.fuse_a) : Parts::Catalogue::NAMES.fetch(kind)
          @catalogue.item(kind, count: count, name: name)
        end
        parts + wires(feed)
      end

      # @return [Float, nil] min; nil where it is not known
      def minutes(feed) = @catalogue.minutes("feed.#{feed.kind.key}")

      # @return [Integer, nil] cents; nil where a price is not known
      def cents(feed) = Parts::Catalogue.cents(items(feed))

      # Of every feed decided on, and of the boxes they hang on: for which, what. One kind of wire is one row.
      # @return [Array<Array(String, Parts::Catalogue::Item)>]
      def decided
        own = @scheme.plan.feeds.flat_map { |feed| items(feed).map { |item| [feed.load['name'], item] } }
        own + @scheme.devices.flat_map { |d| boxes(d) }
      end

      private

      # By size and colour, whole metres.
      def wires(feed)
        return [] if feed.kind.device? || feed.kind == Feeds::BranchAdapter

        feed.wires.group_by { |w| [w.area, w.colour, w.material] }.map do |(area, colour, material), list|
          name = ['Wire', Draw::Conductor.words(area, @scheme.units), colour, material == 'copper' ? nil : 'copper-clad'].compact.join(', ')
          @catalogue.item('wire', count: list.sum(&:length).ceil, name: "#{name}, a metre")
        end
      end

      def boxes(device)
        fuse = device['fuse_a'] && @catalogue.item('blade_fuse', count: 2, name: format('Blade fuse, %g A', device['fuse_a']))
        box = Parts::Catalogue::Item.new(kind: device['kind'], name: device['name'], count: 1,
          cents: device['price_cents']&.to_i || @catalogue.item(device['kind']).cents)
        [box, @catalogue.item('fuse_holder'), fuse, @catalogue.item('ring_terminal', count: 2)].compact.map do |item|
          [device['name'], item]
        end
      end
    end
  end
end
