# frozen_string_literal: true

require_relative '../../core/plan/search'

module Miser
  # The best plan by trying every one, each with every share-out among the suppliers: slow and simple.
  module EveryPlan
    def self.best(problem, conditions, aim)
      allowed = problem.groups.map { |g| g.options.each_index.select { |o| conditions.allow?(g.options[o]) } }
      sums = Plan::Sums.new(problem, conditions, allowed)
      all = allowed.first.product(*allowed.drop(1)).filter_map { |choice| sums.found(choice, aim) { cents(problem, sums.totals(choice)) } }
      all.min_by(&:value)
    end

    # What pieces come to: every line at every supplier, every supplier dealt with in every way.
    def self.cents(problem, totals)
      shelf = 0
      lines = totals.filter_map do |a, pieces|
        article = problem.articles[a]
        taken = [article.on_hand, pieces].min
        shelf += taken * article.each_cents
        taken == pieces ? nil : [article.offers, pieces - taken]
      end
      return shelf if lines.empty?

      goods = ways(problem.suppliers).filter_map { |ways| share(lines, ways) }.min
      goods && (goods + shelf)
    end

    def self.ways(suppliers)
      each = suppliers.map { |s| [nil, *s.modes.map { |mode| [s, mode] }] }
      each.first.product(*each.drop(1)).map { |list| list.compact.to_h { |s, mode| [s.id, [s, mode]] } }
    end

    def self.share(lines, ways)
      options = lines.map { |offers, pieces| offers.filter_map { |o| (w = ways[o.supplier_id]) && [o.supplier_id, price(o, pieces, *w)] } }
      return nil if options.any?(&:empty?)

      options.first.product(*options.drop(1)).filter_map { |picks| placed(picks, ways) }.min
    end

    def self.price(offer, pieces, _supplier, mode)
      whole = (pieces.to_f / offer.pack).ceil * offer.cents
      whole - ((whole * mode.percent(offer.category).to_r / 100) + Rational(1, 2)).floor
    end

    def self.placed(picks, ways)
      picks.group_by(&:first).sum do |id, list|
        supplier, = ways[id]
        goods = list.sum(&:last)
        return nil if goods < supplier.minimum

        goods + (supplier.free_over && goods >= supplier.free_over ? 0 : supplier.shipping_cents)
      end
    end
  end
end
