# frozen_string_literal: true

require_relative '../../draw/conductor'
require_relative '../../feeds/joins'
require_relative '../../length'
require_relative '../block'
require_relative 'boxed'
require_relative 'opened'

module Miser
  module Card
    # A feed: its wires laid, joined, earthed, looked at; its fuse last of all.
    class Fed < Block
      JOINS = Feeds::Joins::TABLE.to_h { |j| [j.key, j] }.freeze
      # Of a feed's minutes: laid, tapped, joined, earthed, looked at, fused. Assumption.
      SHARES = { 'plug' => 4, 'lay' => 4, 'relay' => 2, 'tap' => 2, 'join' => 2, 'earth' => 1, 'look' => 1, 'fuse' => 1 }.freeze

      def steps = @plan.feeds.flat_map { |feed| of(feed) }

      private

      def of(feed)
        parts = feed.wires.any? ? laid(feed) : [[:plug, "Plug #{feed.load['name']} in: #{feed.kind.label.downcase}.", feed.kind.what, {}]]
        minutes = shared(@plan.ticket.wiring.needs.minutes(feed), parts.map { |part, *| SHARES.fetch(part.to_s) })
        chain(parts.zip(minutes).map { |(part, text, detail, more), time| step(feed, part, text, detail, time, more) })
      end

      def step(feed, part, text, detail, minutes, more)
        fuse = part == :fuse
        Step.of(key: "feed/#{feed.load_id}/#{part}", phase: fuse ? :power : :feed, kind: 'wire', block: "Feed: #{feed.load['name']}",
          where: place(feed.at),
          text: text, detail: detail, minutes: minutes, cautions: [], gives: fuse ? [Block::POWER_ON] : [JOINED],
          needs: fuse ? [Powered::BATTERY_ON] : [POWER_OFF, Ready::PARTS, Opened.opened('wiring'), *fitted(feed)],
          why: why('wiring', "#{feed.kind.label} for #{feed.load['name']}", subject: feed.load_id)).tap do |s|
          more.each { |k, v| s[k] = v }
        end
      end

      # A wire to a lamp waits for the lamp.
      def fitted(feed)
        lamp = document.lamp_of(feed.load) or return []
        list = @plan.lamps.find { |lamps| lamps.any? { |l| l.id == lamp.id } }
        list&.first&.part ? ["fit/#{list.map(&:id).join('+')}/plug"] : []
      end

      def place(key) = Feeds::Places::BY_KEY[key]&.label || key.to_s

      def laid(feed)
        [lay(feed), relay(feed), tap(feed), join(feed), earth(feed), look(feed), fuse(feed)].compact
      end

      def lay(feed)
        wires = feed.wires.map { |w| wire_words(w) }
        hot = feed.wires.any?(&:hot?) ? ['Away from the exhaust.'] : []
        turns = feed.wires.any? { |w| w.way.turns } ? ['Slack where the bars turn: look at both locks.'] : []
        [:lay, "Lay #{wires.size == 1 ? 'the wire' : "#{wires.size} wires"} for #{feed.load['name']}.",
          [*wires.map { |w| "#{w}." }, *turns, *hot, 'Fish them with a long tie; tie slack clear of steering, suspension and heat.'].join(' '), { tool: 'long tie, cutter' }]
      end

      def wire_words(wire)
        size = Draw::Conductor.words(wire.area, ticket.units)
        "#{wire.label.capitalize}: #{[size, wire.colour, Length.tape(wire.length, ticket.units)].compact.join(', ')}, by #{wire.way.via.join(', ')}"
      end

      def relay(feed)
        return unless feed.kind.relay?

        at = feed.row['relay_at']
        at = feed.places.battery if at.nil? || at == 'battery'
        [:relay, "Fix the relay of #{feed.load['name']} at the #{place(at)}, terminals down.",
          "30 from the battery, 87 to #{feed.load['name']}, 86 the trigger, 85 earth. Water runs off terminals that look down.", {}]
      end

      # Into a wire of the machine: proved first.
      def tap(feed)
        key = feed.trigger || (feed.kind.on_machine? ? feed.source : nil) || (feed.kind.key == 'accessory' ? feed.source : nil)
        line = key && Feeds::Lines::BY_KEY[key] or return
        live = line.on.empty? ? 'live at all times' : "live with #{line.on.map { |s| Wiring::Switches::USUAL.fetch(s, s) }.join(' and ')}, and dead without"
        cut = feed.kind.cuts.positive?
        [:tap, "Find the #{line.label} and prove it with the meter.", "It is #{live}: battery on for the proof alone, and off again. #{cut ? JOINS.fetch('tap').mind : 'Nothing is cut: it plugs in.'}",
          { tool: 'meter', cautions: caution(*(cut ? %w[battery_first] : [])) }]
      end

      def join(feed)
        how = feed.wires.filter_map(&:join).uniq
        mind = how.filter_map { |h| JOINS[h]&.mind }.uniq
        [:join, "Join the wires of #{feed.load['name']}#{" with #{how.map { |h| JOINS[h]&.label || h }.join(' and ')}" if how.any?}.",
          [*mind, 'Colours as in the joining table.'].join(' '), { tool: 'crimper', cautions: caution('fuse_last') }]
      end

      def earth(feed)
        return unless feed.earth_wire?

        words = Feeds::Feed::EARTHS.fetch(feed.earth)
        detail = feed.earth == 'bracket' ? 'Paint is no earth: scrape to bright metal under the ring, and grease it.' : 'Bright metal under the ring.'
        [:earth, "Earth of #{feed.load['name']} to #{words}.", detail, { tool: 'ring terminal, 8 mm socket' }]
      end

      def look(feed)
        [:look, "Pull at each joint of #{feed.load['name']}, then cover and tie it.", 'Nothing bare, nothing that rubs, drain loops down.',
          { hold: 'The fuse stays out until each joint was looked at.' }]
      end

      def fuse(feed)
        return unless feed.kind.fused?

        rating = feed.fuse_a ? format('%g A', feed.fuse_a) : 'as planned'
        [:fuse, "Fuse of #{feed.load['name']} in: #{rating}.", 'A spare of the same rating taped beside it.',
          { cautions: caution('fuse', 'fuse_last') }]
      end
    end

    # Power back on, while it is still open.
    class Powered < Block
      BATTERY_ON = 'battery on'

      def steps = chain([locks, *(@plan.battery? ? [battery] : [])].compact)

      private

      def locks
        return unless @plan.any?

        Step.of(key: 'power/locks', phase: :power, kind: 'check', block: 'Power on, still open', where: 'handlebar', minutes: 1.0,
          needs: [JOINED],
          text: 'Turn to both locks: nothing pulls, nothing is pinched.', hold: 'Wires that pull at the lock are led anew.',
          gives: [BATTERY_ON],
          why: why('fit', 'wires pass the steering'))
      end

      def battery
        Step.of(key: 'power/battery', phase: :power, kind: 'check', block: 'Power on, still open', where: 'battery', minutes: 2.0,
          tool: '10 mm open',
          text: 'Battery negative back on.', detail: 'Fuses of new feeds are still out.', needs: [JOINED], gives: [BATTERY_ON, POWER_ON],
          cautions: caution('battery_first', 'battery_acid'), why: why('fit', 'it is tried while it is open'))
      end
    end
  end
end
