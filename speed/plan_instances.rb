# frozen_string_literal: true

require_relative '../core/plan/search'
require_relative '../core/buying/market'

module Miser
  module Speed
    # Selection problems made by chance, as a shop's might be: lamps with parts in their place, some bought in packs, from
    # suppliers with shipping, discounts and least orders.
    module PlanInstances
      # Adapters, rings, connectors.
      SMALL = 4

      module_function

      # @param seed [Integer] @param groups [Integer] things to decide @param parts [Integer] parts for each @param suppliers [Integer]
      # @return [Plan::Problem]
      def problem(seed, groups: 4, parts: 3, suppliers: 2, scenarios: 1)
        random = Random.new(seed)
        shops = Array.new(suppliers) { |i| supplier(random, i) }
        # Each lamp's parts, then small things that many ask for.
        articles = Array.new((groups * parts) + SMALL) { |i| article(random, i, shops, small: i >= groups * parts) }
        onces = [Plan::Problem::Once.new(key: 'box', label: 'Box', pieces: { 0 => 1 }, minutes: 20.0, work_cents: 1200, cuts: 0)]
        kinds = Array.new(groups) { |g| group(random, g, parts, articles, scenarios) }
        total = kinds.sum { |g| g.options.map { |o| o.kept[0] }.max }
        lines = Array.new(scenarios) { |i| line(random, i, total) }
        Plan::Problem.new(groups: kinds, articles: articles, onces: onces, lines: lines, suppliers: shops)
      end

      def supplier(random, index)
        discounts = [{ 'code' => 'FROST', 'percent' => random.rand(5..12) }, { 'category' => 'lamps', 'percent' => random.rand(10..25) }]
        Buying::Supplier.new('id' => "s#{index}", 'name' => "Supplier #{index + 1}", 'shipping_cents' => random.rand(300..900),
          'free_over_cents' => random.rand < 0.6 ? random.rand(6000..16_000) : nil,
          'minimum_cents' => random.rand < 0.3 ? random.rand(1000..4000) : 0,
          'lead_days' => random.rand(1..9), 'discounts' => discounts.sample(random.rand(0..2), random: random))
      end

      def article(random, index, shops, small: false)
        base = small ? random.rand(100..1500) : random.rand(300..9000)
        asked = shops.sample(random.rand(1..shops.size), random: random)
        offers = asked.map do |s|
          pack = if random.rand < (small ? 0.5 : 0.1)
                   random.rand(2..4)
                 else
                   1
                 end
          Buying::Offer.new(supplier_id: s.id, article: "A#{index}", part_id: "p#{index}", name: "Article #{index}", pack: pack,
            cents: (base * pack * random.rand(0.9..1.15)).round, lead_days: s.lead_days, category: random.rand < 0.5 ? 'lamps' : 'wire')
        end
        on_hand = random.rand < 0.2 ? random.rand(1..3) : 0
        Plan::Problem::Article.new(key: "a#{index}", name: "Article #{index}", offers: offers, on_hand: on_hand, each_cents: base)
      end

      def group(random, index, parts, articles, scenarios)
        stays = Plan::Problem::Option.of(key: 'keep', label: 'keep', lines: scenarios, heat: 1)
        # What the filament drew and an LED does not: much the same, whichever is fitted.
        filament = random.rand(0.3..3.5)
        fitted = Array.new(parts) do |p|
          own = (index * parts) + p
          small = random.rand < 0.4 ? { articles.size - 1 - random.rand(SMALL) => random.rand(1..2) } : {}
          saved = filament * random.rand(0.75..0.95)
          minutes = random.rand(5..60)
          Plan::Problem::Option.of(key: "p#{p}", label: "part #{p}", pieces: { own => 1 }.merge(small),
            once: random.rand < 0.15 ? [0] : [], minutes: minutes.to_f, work_cents: minutes * 75, cuts: random.rand < 0.2 ? 1 : 0,
            kept: Array.new(scenarios) { saved * random.rand(0.6..1.0) }, light: random.rand(0..1500).to_f,
            doubt: Array.new(scenarios) { Plan::Problem::Doubt.new((saved * random.rand(0.02..0.15))**2, saved * 0.01, 0.0, 0.0) })
        end
        Plan::Problem::Group.new(key: "g#{index}", label: "Lamp #{index + 1}", options: [stays, *fitted])
      end

      # So that a middling plan only just keeps.
      def line(random, index, total)
        Plan::Problem::Line.new(key: "l#{index}", label: 'Idle, night', scenario: 'idle', circuit: 'main',
          base: -total * random.rand(0.35..0.7),
          doubt: Plan::Problem::Doubt.new(0.01, -0.05, 0.0, 0.02), curve: 0.02, clamp_earned: 0.0)
      end
    end
  end
end
