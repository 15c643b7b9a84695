# frozen_string_literal: true

require_relative '../buying/purchases'
require_relative '../ticket/stage'

module Miser
  module Stages
    # Everything once: what the other stages need, and what is added by hand; ordered, and come.
    class OrderStage < Stage
      declare 'order', label: 'Order', group: 'buy', place: 68
      reads :positions, :loads, :choices, :readings, :sums, :signals, :wiring, :system, :machine, :circuits, :bench, :assumptions, :order,
        :purchases

      SHELF = 'shelf'
      NOBODY = '-'
      # What has no price, or can't be had in time: ordered all the same, for what it will cost.
      UNPRICED = 'unpriced'
      GONE = 'gone'

      # What one supplier is to send, or what the shelf has, put down as ordered or taken; at the price of now.
      act('order_place') do |call|
        rows = OrderStage.rows(call)
        if rows.empty?
          known = [SHELF, UNPRICED, *call.ticket.list.orders.map { |o| o.supplier ? o.supplier.id : NOBODY }]
          raise Stage::Unavailable.new(field: 'Supplier', given: call.value, accepts: known.join(', '))
        end
        OrderStage.with(call, call.document.fetch('purchases', []) + rows)
      end

      # What came of a line: its row, a state, pieces where some came short.
      act('order_came') do |call|
        id, state, got = call.value.split('/')
        rows = call.document.fetch('purchases', [])
        Stages.known!(id.to_s, rows.to_h { |r| [r['id'], r] }, 'Line')
        row = rows.find { |r| r['id'] == id }
        Stages.known!(state.to_s, NEXT.fetch(row['state']).to_h { |key| [key, key] }, 'State')
        if state == 'short' && !got.to_s.match?(/\A\d{1,6}\z/)
          raise Stage::Unavailable.new(field: 'Pieces that came', given: got.to_s, accepts: 'a whole number')
        end

        changed = rows.filter_map { |r| r['id'] == id ? OrderStage.came(r, state, got, call.now[0, 10]) : r }
        OrderStage.with(call, changed)
      end

      # What may come of a line, by how it stands.
      NEXT = { 'ordered' => %w[received short wrong gone], 'short' => %w[received short closed wrong gone],
               'received' => %w[wrong returned gone], 'closed' => %w[received returned gone], 'wrong' => %w[received returned gone],
               'returned' => %w[received gone], 'shelf' => %w[gone] }.freeze

      # @return [Hash, nil] a line with what came of it; nil where it was never ordered
      def self.came(row, state, got, today)
        return nil if state == GONE

        kept = { 'short' => got.to_i, 'closed' => row['got'].to_i }[state]
        here = %w[received short closed].include?(state) ? row['received_on'] || today : nil
        row.except('got', 'received_on').merge({ 'state' => state, 'got' => kept, 'received_on' => here }.compact)
      end

      def self.with(call, rows) = rows.empty? ? call.document.except('purchases') : call.document.merge('purchases' => rows)

      def self.rows(call)
        list = call.ticket.list
        return shelf_rows(call, list) if call.value == SHELF
        return unpriced_rows(call, list) if call.value == UNPRICED

        order = list.orders.find { |o| (o.supplier ? o.supplier.id : NOBODY) == call.value }
        return [] unless order

        shipping = { 'order_id' => call.fresh_id.call, 'shipping_cents' => order.shipping_cents }
        order.picks.map { |pick| row(call, list, order, pick).merge(shipping) }
      end

      def self.unpriced_rows(call, list)
        list.lines.select { |line| line.why_not && line.to_buy.positive? }.map do |line|
          need = line.need
          { 'id' => call.fresh_id.call, 'key' => need.key, 'name' => need.name[0, 120], 'part_id' => need.part_id,
            'packs' => line.to_buy, 'pack' => 1, 'pieces' => line.to_buy, 'state' => 'ordered', 'ordered_on' => call.now[0, 10], **warranty(call, need.part_id) }.compact
        end
      end

      def self.row(call, list, order, pick)
        need = list.lines.find { |l| l.need.key == pick.demand.key }.need
        { 'id' => call.fresh_id.call, 'key' => need.key, 'name' => need.name[0, 120], 'part_id' => pick.offer.part_id,
          'supplier_id' => order.supplier&.id,
          'supplier' => order.supplier&.name, 'article' => pick.offer.article, 'packs' => pick.packs, 'pack' => pick.offer.pack,
          'pieces' => pick.demand.pieces, 'cents' => pick.cents, 'state' => 'ordered', 'ordered_on' => call.now[0, 10],
          'lead_days' => pick.offer.lead_days, **warranty(call, pick.offer.part_id) }.compact
      end

      # What the shop says its maker promises.
      def self.warranty(call, part_id) = (call.ticket.market.part(part_id) || {}).slice('warranty_months', 'warranty_lifetime')

      # Before which step of the work it must be here.
      STEPS = { 'choose' => 'lamps changed', 'headlight' => 'headlight fitted', 'signals' => 'signals put right',
                'wiring' => 'feeds laid' }.freeze

      # @param need [Buying::Need] @return [String]
      def self.needed_by(need)
        first = need.why.map { |w| Stage::REGISTRY.fetch(w.stage) }.min_by(&:place)
        STEPS.fetch(first.key, 'when asked for')
      end

      def self.shelf_rows(call, list)
        list.lines.flat_map do |line|
          list.taken(line.need).map do |part, pieces|
            { 'id' => call.fresh_id.call, 'key' => line.need.key, 'name' => line.need.name[0, 120], 'part_id' => part, 'pieces' => pieces,
              'cents' => line.stock_cents && (line.stock_cents * pieces / line.from_stock.to_r).round(half: :up), 'state' => 'shelf',
              'ordered_on' => call.now[0, 10] }.compact
          end
        end
      end

      # What is added by hand.
      def needs
        document.order.map { |row| Buying::Need.own(row, why(row['for'] || 'added by hand', (row['count'] || 1).to_i, subject: row['id'])) }
      end

      def wants
        waits = ticket.purchases.waits
        waits ? [want('/purchases', "Waits for #{waits}", weight: 'spare')] : []
      end

      def touched? = document.order.any? || ticket.purchases.rows.any?
    end
  end
end
