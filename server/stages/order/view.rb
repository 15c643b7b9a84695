# frozen_string_literal: true

require_relative '../../../core/buying/tax'
require_relative '../../../core/buying/warranty'
require_relative '../../../formats/csv_table'
require_relative '../../days'

module Miser
  module Server
    # What the job needs, as its screen is given it.
    module OrderView
      module_function

      # @param ticket [Ticket]
      # @return [Hash]
      def view(ticket)
        list = ticket.list
        cost = ticket.cost
        { left_out: ticket.market.left_out, open: open_points(ticket), all_cents: cost.cents, all_unpriced: cost.unpriced,
          lines: list.lines.map { |l| line(l) }, orders: list.orders.map { |o| order(o) }, cents: list.cents,
          shipping_cents: list.shipping_cents, tax: tax(list, ticket.market.money), unpriced: list.unpriced, stuck: list.stuck,
          purchases: purchases(ticket), waits: ticket.purchases.waits, currency: ticket.market.money['currency'] }
      end

      # What keeps the machine from going, of what is to be had.
      def open_points(ticket)
        ticket.left_open.points.select { |p| p.key.start_with?('order/') }.map(&:to_h)
      end

      def tax(list, money)
        tax = Buying::Tax.on(list.cents, money)
        { cents: tax.cents, total_cents: tax.total, added: tax.added, percent: tax.percent }
      end

      def line(line)
        need = line.need
        pick = line.pick
        { key: need.key, name: need.name, pieces: need.pieces, spare: need.spare, from_stock: line.from_stock,
          packs: pick ? pick.packs : 0, pack: line.pack,
          cents: line.cents, why_not: line.why_not, supplier: line.supplier&.name,
          article: pick&.offer&.article, needed_by: Stages::OrderStage.needed_by(need), lead_days: pick&.offer&.lead_days,
          why: need.why.map { |w| { **w.to_h, label: Stage::REGISTRY.fetch(w.stage).label } } }
      end

      # What was ordered, with the day it should be here.
      def purchases(ticket)
        needed = ticket.needs.to_h { |n| [n.key, true] }
        ticket.purchases.rows.map do |r|
          { id: r['id'], name: r['name'], supplier: r['supplier'], article: r['article'], packs: r['packs']&.to_i, pack: r['pack']&.to_i,
            pieces: r['pieces'].to_i, got: r['got']&.to_i, cents: r['cents']&.to_i, state: r['state'],
            words: Buying::Purchases::STATES.fetch(r['state']), ordered_on: r['ordered_on'], received_on: r['received_on'],
            due: Days.after(r['ordered_on'], r['lead_days']&.to_i), needed: needed.key?(r['key']),
            warranty: warranty(r), receipt: r['receipt'], next: Stages::OrderStage::NEXT.fetch(r['state']) }
        end
      end

      def warranty(row)
        warranty = Buying::Warranty.new(row, until_day: Days.method(:months_after), days: Days.method(:until))
        claims = warranty.claims.map { |c| { id: c['id'], words: warranty.claim_words(c) } }
        { state: warranty.state, words: warranty.words, claims: claims }
      end

      def order(order)
        { supplier_id: order.supplier ? order.supplier.id : Stages::OrderStage::NOBODY, supplier: order.supplier&.name,
          mode: order.mode.label, goods_cents: order.goods_cents, shipping_cents: order.shipping_cents,
          lines: order.picks.size,
          lead_days: order.picks.filter_map { |p| p.offer.lead_days }.max }
      end

      # @return [String] CSV
      def csv(ticket)
        rows = ticket.list.lines.map do |l|
          view = line(l)
          [view[:supplier], view[:article], view[:name], view[:packs], view[:pack], view[:from_stock], Buying::Cents.words(view[:cents]),
            view[:lead_days], view[:needed_by], l.need.for]
        end
        head = ['supplier', 'article', 'name', 'packs', 'pieces a pack', 'from the shelf', 'price', 'lead days', 'needed by', 'for']
        Formats::CsvTable.plain([head, *rows.sort_by { |row| [row[0].to_s, row[2]] }])
      end
    end

    StageViews.declare('order') { |ticket, _look| OrderView.view(ticket) }
  end
end
