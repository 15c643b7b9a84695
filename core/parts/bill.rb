# frozen_string_literal: true

require_relative '../job/document'

module Miser
  module Parts
    # What the parts of a job come to: those chosen lamp by lamp, and those in the order.
    class Bill
      # @!attribute name [String] @!attribute count [Integer] @!attribute cents [Integer, nil] of one; nil where its price is not known
      Row = Struct.new(:name, :count, :cents, keyword_init: true)

      # @param document [Hash, Job::Document]
      def initialize(document)
        @document = Job::Document.of(document)
      end

      # A headlight is chosen and ordered at once: it counts where it is ordered.
      # @return [Array<Row>]
      def rows
        ordered = @document.order.map { |r| row(r['name'], r['count'], r['price_cents']) }
        names = ordered.map(&:name)
        swapped = @document.choices.select { |c| c['action'] == 'swap' && c['part'] && !names.include?(c['part']['name']) }
        swapped.map { |c| row(c['part']['name'], @document.load(c['load_id'])&.fetch('count', 1), c['part']['price_cents']) } + ordered
      end

      # @return [Integer] cents, of the rows whose price is known
      def cents = rows.sum { |r| r.cents ? r.cents * r.count : 0 }

      # @return [Array<String>] parts whose price is not known
      def unpriced = rows.reject(&:cents).map(&:name).uniq

      private

      def row(name, count, cents) = Row.new(name: name, count: (count || 1).to_i, cents: cents&.to_i)
    end
  end
end
