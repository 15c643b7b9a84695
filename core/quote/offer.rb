# frozen_string_literal: true

require_relative '../buying/list'
require_relative '../buying/tax'
require_relative '../plan/labour'
require_relative '../plan/light'
require_relative '../plan/missing'
require_relative '../plan/work'
require_relative 'mind'

module Miser
  module Quote
    # One way to do the work as it is offered to the owner: what changes, what it costs down to the line, what each
    # scenario keeps before and after. Written down whole: a price list that changes later does not change what was said.
    class Offer
      # What is used up, and said in one sum.
      CONSUMABLES = %w[blade_fuse ring_terminal bullet_pair wire shrink crimp lever tie tape grease alcohol primer].freeze

      # Texts of a list, and letters of one.
      MOST = 100
      LONGEST = 400

      # @param ticket [Ticket] of the job with all of it taken
      def initialize(ticket)
        @ticket = ticket
        @money = ticket.market.money
        @labour = Plan::Labour.new(ticket)
        @list = Buying::List.new(ticket.needs, ticket.market, by_days: ticket.days_left)
      end

      # @param id [String] @param name [String] @param key [String, nil] the plan it is, see Plan::Taking; nil: the job as it stands
      # @return [Hash] a row of a quote
      def row(id, name, key)
        { 'id' => id, 'name' => name, 'key' => key, 'changes' => said(changes), 'left_out' => said(left_out),
          'mind' => said(Mind.of(@ticket)), 'lines' => lines, 'shipping_cents' => @list.shipping_cents, 'work' => work,
          'minutes' => @labour.minutes, 'net_cents' => net, 'tax_cents' => tax.cents, 'total_cents' => total, 'missing' => said(missing),
          'keeps' => keeps, 'light' => Plan::Light.times(@ticket.document)&.round(2), 'lead_days' => lead_days }.compact
      end

      # @return [Integer] cents of all that is known, tax with it
      def total = tax.total

      # @return [Buying::Tax]
      def tax = @tax ||= Buying::Tax.on(net, @money)

      # @return [Integer] cents of goods, shipping and work
      def net = @list.cents + @labour.cents(@money['rate_cents']).to_i

      # @return [Float]
      def minutes = @labour.minutes

      # What the sum does not have in it: it is then what it comes to at least.
      # @return [Array<String>]
      def missing = missing_parts.words

      # @return [Array<String>] what the minutes do not have in them
      def missing_times = missing_parts.times

      private

      # Lists on a sheet of paper have an end.
      def said(texts) = texts.first(MOST).map { |text| text[0, LONGEST] }

      def missing_parts = @missing_parts ||= Plan::Missing.new(@list.unpriced, @labour, @money['rate_cents'])

      def changes
        all = [*fitted, *removed, *cures, *wanted.select { |l| l['taken'] }.map { |l| "#{l['name']}: #{feed_of(l)}" }]
        all.empty? ? ['Nothing is changed or added.'] : all
      end

      def fitted
        sets = Job::Pairs.new(@ticket.document).then { |p| [*p.plain, *p.signals, *p.held] }.select { |lamps| lamps.any?(&:part) }
        sets.map { |lamps| "#{Job::Pairs.called(lamps)}: #{lamps.filter_map(&:part).map { |part| part['name'] }.uniq.join(', ')}" }
      end

      def removed = @ticket.document.lamps.select { |l| l.choice&.fetch('action') == 'remove' }.map { |l| "#{l.name}: taken off" }

      def cures = @ticket.survey.remedies.map { |remedy| "#{Plan::Labour::SIGNALS}: #{remedy.label.downcase}" }

      def wanted = @ticket.document.loads.select { |l| l['wanted'] && !l['fed_by'] }

      def left_out = wanted.reject { |l| l['taken'] }.map { |l| l['name'] }

      def feed_of(load)
        feed = @ticket.wiring.scheme.plan.feeds.find { |f| f.load_id == load['id'] }
        feed ? feed.kind.label.downcase : 'carried'
      end

      def lines
        @list.lines.select { |l| l.need.total.positive? }.map do |l|
          { 'name' => l.name[0, 120], 'count' => l.need.total, 'cents' => l.cents,
            'used_up' => CONSUMABLES.include?(l.need.use) || nil }.compact
        end
      end

      def work
        rate = @money['rate_cents']
        @labour.lines.map { |l| { 'name' => l.name[0, 120], 'minutes' => l.minutes, 'cents' => rate && l.cents(rate) }.compact }
      end

      # In the scenarios that the owner asked for.
      def keeps
        wanted = Plan::Work.wanted(@ticket)
        asked = [*wanted['keeps'], wanted['axis']].uniq
        before = @ticket.budget.lines('before').to_h { |l| [[l.scenario.id, l.circuit.id], l] }
        lines = @ticket.budget.lines('after').select { |l| asked.include?(l.scenario.id) }
        lines.map do |l|
          { 'label' => label(l, lines), **side('before', before[[l.scenario.id, l.circuit.id]]), **side('after', l) }
        end
      end

      # Where a machine has two circuits, which of them.
      def label(line, lines)
        several = lines.map { |l| l.circuit.id }.uniq.size > 1
        several ? "#{line.scenario.name[0, 70]}, #{line.circuit.name[0, 40]}" : line.scenario.name[0, 120]
      end

      def side(name, line)
        return {} unless line&.known?

        { "#{name}_a" => line.keeps.value.round(3), "#{name}_sigma_a" => line.keeps.sigma.to_f.round(3), name => line.verdict }
      end

      def lead_days = @list.orders.flat_map(&:picks).filter_map { |p| p.offer.lead_days }.max
    end
  end
end
