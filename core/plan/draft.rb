# frozen_string_literal: true

require_relative '../buying/list'
require_relative 'labour'
require_relative 'lamp_sets'
require_relative 'problem'
require_relative 'signal_ways'
require_relative 'taking'

module Miser
  module Plan
    # What a plan for this machine is chosen from: every lamp with the parts that go into it, every accessory with the ways
    # to feed it, the signals with the cures that work. Each is tried on the job by itself, as if it were taken, and what
    # that changes is what the search adds up.
    class Draft
      # What is out of the question, and why. @!attribute what [String] @!attribute why [String]
      LeftOut = Struct.new(:what, :why, keyword_init: true)
      # What can't be searched for. facts: why
      class NotYet < DomainError
        def words = self[:why]
      end

      # @return [Array<LeftOut>], [Array<Problem::Line>]
      attr_reader :left_out, :lines

      # @param ticket [Ticket] @param parts [Array<Hash>] of the shelf, those offered @param axis [String, nil] id of the scenario looked at
      # @param told [#call] how many ways were tried
      def initialize(ticket, parts, axis: nil, told: ->(_) {})
        @ticket = ticket
        @parts = parts.reject { |p| p['box'] || p['use'] }
        @told = told
        @axis = axis
        @left_out = ticket.market.foreign.map { |s| LeftOut.new(what: s.name, why: "asks in #{s.currency}, and sums here are in #{ticket.market.currency}") }
        @count = 0
        refusal = ticket.budget.refusal
        raise NotYet.new(why: refusal) if refusal

        @articles = []
        @onces = {}
        @bare = bare_document
        # What everything is measured against: nothing changed, nothing added.
        @bare_ticket = ticket.beside(@bare)
        @lines = lines_of(@bare_ticket)
        raise NotYet.new(why: "what it keeps is not known: #{unknown_reason}") if @lines.empty?
      end

      # @return [Problem]
      def problem
        @problem ||= begin
          groups = [*lamp_groups, *signal_group, *accessory_groups]
          Problem.new(groups: groups, articles: priced, onces: @onces.values, lines: @lines, suppliers: @ticket.market.suppliers,
            axis: axis, tax_percent: @ticket.market.tax_on_top)
        end
      end

      # @return [Integer] the line that the picture looks at: on the scenario asked for, else where least is kept
      def axis
        there = @lines.each_index.select { |i| @axis.nil? || @lines[i].scenario == @axis }
        there = @lines.each_index.to_a if there.empty?
        there.min_by { |i| @lines[i].base }
      end

      # The job with a plan taken, from as it came in.
      # @param words [Hash{String=>String}] see Taking
      # @return [Ticket]
      def with(words) = @ticket.beside(taking.apply(words))

      # @param text [String] why an option is none
      # @return [nil]
      def out(what, why)
        @left_out << LeftOut.new(what: what, why: why)
        nil
      end

      # What one way to decide something changes.
      # @param words [Hash{String=>String}] see Taking @param label [String]
      # @yieldparam ticket [Ticket] with it taken
      # @yieldreturn [Hash] needs (Array<Buying::Need>), minutes, untimed (names of what nobody keeps the time of), once
      #   (numbers), cuts; any may be missing
      # @return [Problem::Option, nil] nil where it can't be
      def option(words, label, **said)
        @told.call(@tried = (@tried || 0) + 1)
        taken = with(words)
        asks = { needs: [], minutes: 0.0, untimed: [], once: [], cuts: 0 }.merge(block_given? ? yield(taken) : {})
        why = unpriced(asks[:needs])
        return out(label, why) if why

        kept, doubt = moved(taken)
        return out(label, 'what it draws is not known') unless kept

        # What is had once counts once, and not with each that asks for it.
        asks[:once].map { |k| @onces.values[k] }.each do |once|
          kept = kept.zip(once.kept).map { |a, b| a - (b || 0.0) }
          doubt = doubt.zip(once.doubt).map { |a, b| b ? a - b : a }
        end
        Problem::Option.of(key: Taking.key(words), label: label, pieces: pieces(asks[:needs]),
          once: (asks[:once] + spares(asks[:needs])).uniq,
          minutes: asks[:minutes].to_f, work_cents: work(asks[:minutes]), kept: kept, doubt: doubt, cuts: asks[:cuts], take: words,
          **said, notes: [*said[:notes], *asks[:untimed].uniq.map { |what| "Time not known: #{what}" }])
      end

      # @return [Ticket] nothing changed
      def as_it_came = @bare_ticket

      # @return [Array<Array<Hash>, Ticket>] shelf and job
      attr_reader :parts, :ticket

      # Something had once, however many want it.
      # @return [Integer] its number
      def once(key, label, needs: [], minutes: 0.0)
        unless @onces.key?(key)
          kept, doubt = block_given? ? yield : [[], []]
          @onces[key] = Problem::Once.new(key: key, label: label, pieces: pieces(needs), minutes: minutes.to_f, work_cents: work(minutes),
            kept: kept, doubt: doubt)
        end
        @onces.keys.index(key)
      end

      # @return [Integer] cents; nothing where the shop has not said what an hour is
      def work(minutes) = Buying::Cents.work(minutes, @ticket.market.money['rate_cents'])

      # @param scenarios [Array<String>] ids
      # @return [Array<Array(String, String)>] of those whose keeping is not known: name, and why
      def unknown_lines(scenarios)
        lines = @bare_ticket.budget.lines('after').select { |l| scenarios.include?(l.scenario.id) && l.scenario.running? }
        lines.reject(&:known?).map { |l| [l.scenario.name, l.keeps.reason] }
      end

      # @return [Array<Buying::Need>] what the feeds of some loads take
      def feed_needs(ticket, loads)
        feeds = ticket.wiring.scheme.plan.feeds.select { |f| loads.include?(f.load_id) }
        feeds.flat_map do |feed|
          ticket.wiring.needs.items(feed).map do |item|
            Buying::Need.item(item, Buying::Why.new(stage: 'wiring', subject: feed.load_id, text: feed.load['name'], pieces: item.count))
          end
        end
      end

      # @return [Array<Integer>] the boxes that the feeds of some loads hang on, see #once
      def boxes(ticket, loads)
        feeds = ticket.wiring.scheme.plan.feeds.select { |f| loads.include?(f.load_id) }
        feeds.filter_map(&:device).uniq { |d| d['id'] }.flat_map { |d| box(ticket, d) }.uniq
      end

      private

      def taking = Taking.new(@bare_ticket, @parts, method(:fresh), feeds: Job::Document.rows(@ticket.document.own('wiring'), 'feeds'))

      def fresh = "plan#{@count += 1}"

      # Nothing decided for lamps that may be decided for, nothing carried, nothing wired, no cure.
      def bare_document
        document = @ticket.document.hash_as_given
        choices = document['choices'].filter_map do |c|
          next c if Job::Pairs::HELD.include?(c['action']) || c['action'] == Job::Lamp::TRIED

          c['part'] && c.merge('action' => Job::Lamp::TRIED)
        end
        loads = document['loads'].map { |l| l['wanted'] ? l.merge('taken' => false) : l }
        wiring = document['wiring']&.merge('feeds' => [], 'devices' => [])
        changed = { 'choices' => choices, 'loads' => loads, 'wiring' => wiring }.compact
        bare = Job::Followers.settle(document.merge(changed), document)
        Signals::CureChoice.take(bare, nil, circuit: nil, volts: nil)
      end

      def lines_of(ticket)
        lines = ticket.budget.lines('after').select { |l| l.scenario.running? && l.known? }
        several = lines.map { |l| l.circuit.id }.uniq.size > 1
        lines.map do |line|
          label = several ? "#{line.scenario.name}, #{line.circuit.name}" : line.scenario.name
          Problem::Line.new(key: "#{line.scenario.id}/#{line.circuit.id}", label: label, scenario: line.scenario.id, circuit: line.circuit.id,
            base: line.keeps.value, doubt: doubt_of(line), curve: line.curve_sigma**2, clamp_earned: line.clamp_earned)
        end
      end

      def doubt_of(line)
        Problem::Doubt.new(line.load_variance - (line.gain**2), line.gain, line.clamp, line.earn_by_volts - line.spend_by_volts)
      end

      def unknown_reason = @bare_ticket.budget.lines('after').select { |l| l.scenario.running? }.filter_map { |l| l.keeps.reason }.first || 'no scenario with the engine running'

      # @return [Array(Array<Float>, Array<Doubt>), nil] by line
      def moved(ticket)
        after = ticket.budget.lines('after').to_h { |l| ["#{l.scenario.id}/#{l.circuit.id}", l] }
        now = @lines.map { |line| after[line.key] }
        return nil unless now.all? { |l| l&.known? }

        [now.zip(@lines).map { |l, base| l.keeps.value - base.base }, now.zip(@lines).map { |l, base| doubt_of(l) - base.doubt }]
      end

      def lamp_groups = LampSets.new(self).groups

      def signal_group = SignalWays.new(self).groups

      def accessory_groups
        wanted = @bare['loads'].select { |l| l['wanted'] && !l['fed_by'] }
        wanted.map do |load|
          left = option({ load['id'] => 'out' }, "#{load['name']}: left out", left_out: true)
          ways = Feeds::Kind::REGISTRY.values.filter_map { |kind| accessory(load, kind) }
          Problem::Group.new(key: load['id'], label: load['name'], options: [left, *clean(ways)].compact)
        end
      end

      # Where it can be fed without anything to mind, nothing else is thought of.
      def clean(ways)
        clean = ways.select { |o| o.notes.empty? }
        return ways if clean.empty?

        (ways - clean).each { |o| out(o.label, o.notes.first) }
        clean
      end

      def accessory(load, kind)
        label = "#{load['name']}: #{kind.label.downcase}"
        taken = with(load['id'] => "feed/#{kind.key}")
        consumer = taken.wiring.scheme.consumer_of(load['id'])
        return out(label, 'what it draws is not known') unless consumer&.known?

        no = taken.wiring.scheme.offers(consumer).find { |k, _| k == kind }&.last
        return out(label, no) if no

        red = taken.wiring.findings.find { |f| f.red? && [nil, load['id']].include?(f.subject) }
        return out(label, red.text) if red

        mind = taken.wiring.findings.find { |f| f.severity == 'amber' && f.subject == load['id'] }
        notes = mind ? [mind.text] : []
        option({ load['id'] => "feed/#{kind.key}" }, label, notes: notes) do |t|
          work = Labour.new(t).fed([load['id']])
          { needs: feed_needs(t, [load['id']]), cuts: kind.cuts, minutes: work.minutes, untimed: work.untimed, once: boxes(t, [load['id']]) }
        end
      end

      def box(ticket, device)
        items = ticket.wiring.needs.boxes(device).map { |name, item| Buying::Need.item(item, Buying::Why.new(stage: 'wiring', text: name, pieces: item.count)) }
        box = once("box/#{device['kind']}", device['name'], needs: items, minutes: ticket.catalogue.minutes('feed.box') || 0.0) do
          moved(@ticket.beside(taking.box(device['kind'])))
        end
        [box, *spares(items)]
      end

      # @return [String, nil] why a part can't be bought
      def unpriced(needs)
        bare = needs.find { |n| n.part_id && @ticket.market.offers(n).empty? && @ticket.market.on_hand(n) < n.pieces }
        bare && "#{bare.name} has no price"
      end

      # @param needs [Array<Buying::Need>] @return [Hash{Integer=>Integer}] pieces by article
      def pieces(needs)
        Buying::Need.merged(needs).to_h { |need| [article(need), need.pieces] }.reject { |_, n| n.zero? }
      end

      # What lies by once a thing is used at all.
      def spares(needs)
        kept = needs.select { |n| n.spare.to_i.positive? }
        kept.map { |n| once("spare/#{n.key}", "#{n.name}, spare", needs: [n.dup.tap { |spare| spare.pieces = n.spare }]) }.uniq
      end

      def article(need)
        at = @articles.index { |n| n.key == need.key }
        return at if at

        @articles << need
        @articles.size - 1
      end

      # Articles that nobody has a price for cost nothing here: the sum is what it comes to at least.
      def priced
        @articles.map do |need|
          offers = @ticket.market.offers(need)
          offers = [Buying::Offer.new(name: need.name, pack: 1, cents: 0)] if offers.empty?
          Problem::Article.new(key: need.key, name: need.name, offers: offers, on_hand: @ticket.market.on_hand(need),
            each_cents: @ticket.market.unit_cents(need) || 0)
        end
      end
    end
  end
end
