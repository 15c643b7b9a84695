# frozen_string_literal: true

require_relative '../job/document'

module Miser
  module Parts
    # What the parts of a job come to: those fitted lamp by lamp, each article once, in the packs it
    # is sold in; what their fitting pulls in; and what else is in the order.
    class Bill
      # @!attribute name [String] @!attribute count [Integer] pieces or packs to buy
      # @!attribute pack [Integer] pieces in one @!attribute cents [Integer, nil] of one; nil where its price is not known
      # @!attribute for [String, nil] what it is for
      Row = Struct.new(:name, :count, :pack, :cents, :for, keyword_init: true)

      # @param document [Hash, Job::Document]
      # @param extras [Array<Array(String, Catalogue::Item)>] what fitting pulls in: for which part, what
      # @param feeds [Array<Array(String, Catalogue::Item)>] alike, what feeds do: wires and terminals nobody signs for
      def initialize(document, extras: [], feeds: [])
        @document = Job::Document.of(document)
        @extras = extras
        @feeds = feeds
      end

      # @return [Array<Row>]
      def rows = @rows ||= [*articles, *beside, *rows_of(@feeds)]

      # @return [Array<Row>] what is bought beside the parts themselves, but for what they are wired with
      def beside = [*rows_of(@extras), *ordered]

      # @return [Integer] cents, of the rows whose price is known
      def cents = rows.sum { |r| r.cents ? r.cents * r.count : 0 }

      # @return [Array<String>] parts whose price is not known
      def unpriced = rows.reject(&:cents).map(&:name).uniq

      private

      # One article is ordered once, however many lamps take it.
      def articles
        fitted = @document.lamps.select(&:part)
        fitted.group_by { |lamp| article(lamp.part) }.map do |_, lamps|
          part = lamps.first.part
          pack = (part['pack'] || 1).to_i
          Row.new(name: part['name'], count: (lamps.sum(&:count) / pack.to_f).ceil, pack: pack, cents: part['price_cents']&.to_i,
            for: lamps.map(&:name).join(', '))
        end
      end

      def article(part)
        part['shelf_id'] ? part.values_at('shelf_id', 'name', 'price_cents', 'pack') : part.values_at('name', 'base', 'price_cents', 'pack')
      end

      def rows_of(items) = items.map { |part, item| Row.new(name: item.name, count: item.count, pack: 1, cents: item.cents, for: part) }

      def ordered
        @document.order.map do |r|
          Row.new(name: r['name'], count: (r['count'] || 1).to_i, pack: 1, cents: r['price_cents']&.to_i, for: r['for'])
        end
      end
    end
  end
end
