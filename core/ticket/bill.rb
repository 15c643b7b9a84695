# frozen_string_literal: true

module Miser
  # What the parts of a job come to: those chosen lamp by lamp, and those in the order.
  class Bill
    # @!attribute name [String] @!attribute count [Integer] @!attribute cents [Integer, nil] of one; nil where its price is not known
    Row = Struct.new(:name, :count, :cents, keyword_init: true)

    # @param document [Hash] job
    def initialize(document)
      @document = document
    end

    # A headlight is chosen and ordered at once: it counts where it is ordered.
    # @return [Array<Row>]
    def rows
      ordered = (@document['order'] || []).map { |r| Row.new(name: r['name'], count: r['count'] || 1, cents: r['price_cents']) }
      names = ordered.map(&:name)
      counts = @document['loads'].to_h { |l| [l['id'], l['count'] || 1] }
      swapped = @document['choices'].select { |c| c['action'] == 'swap' && c['part'] && !names.include?(c['part']['name']) }
      swapped.map { |c| Row.new(name: c['part']['name'], count: counts.fetch(c['load_id'], 1), cents: c['part']['price_cents']) } + ordered
    end

    # @return [Integer] cents, of the rows whose price is known
    def cents = rows.sum { |r| r.cents ? r.cents * r.count : 0 }

    # @return [Array<String>] parts whose price is not known
    def unpriced = rows.reject(&:cents).map(&:name).uniq
  end
end
