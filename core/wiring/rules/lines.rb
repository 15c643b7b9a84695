# frozen_string_literal: true

require_relative '../finding'

module Miser
  module Wiring
    # On with the key off: seen in the solved table.
    class OnWithKeyOff < Rule
      declare 'hot_lamp', label: 'On with the key off', severity: 'red',
        caution: 'It drains the battery, and a lamp gets hot with nobody by.'

      def findings
        fed.select { |c| c.known? && c.lamp? }.filter_map do |c|
          wrong = off_states.select { |s| truth.wanted(c, s) == 'off' && truth.seen(c, s) != 'off' }
          next if wrong.empty?

          found("#{c.name}: on with the key off. It hangs on #{hot_words(c)}.", subject: c.id, wire: c.feed.kind.relay? ? 'trigger' : nil, cures: cures(c))
        end
      end

      private

      def off_states = truth.states.reject { |s| s.include?('key') }

      def hot_words(c) = c.feed.trigger == 'battery' ? 'a relay that the battery itself pulls in' : 'a wire that is always hot'

      def cures(c)
        line = Wishes.of(c).line
        return [on_feed(c, "trigger from the #{Feeds::Lines::BY_KEY[line].label}", 'trigger' => line)] if c.feed.kind.relay?

        [as_kind(c, Feeds::Relay, "a relay on the #{Feeds::Lines::BY_KEY[line].label}", 'trigger' => line)]
      end
    end

    # Not as wanted, with the key on: seen in the solved table.
    class NotAsWanted < Rule
      declare 'not_as_wanted', label: 'Not as wanted', severity: 'amber'
      SEEN = { 'on' => 'on', 'off' => 'dark', 'ghost' => 'glowing', 'dim' => 'dim', 'flash' => 'flashing' }.freeze
      WANTED = { 'on' => 'should be on', 'off' => 'should be off', 'dim' => 'should be dim', 'flash' => 'should flash' }.freeze

      def findings
        told = truth.differences.filter_map do |d|
          set = hot?(d) ? d.states.select { |s| s.include?('key') } : d.states
          set.empty? || hot_trigger?(d) ? nil : said(d, set)
        end
        told.uniq(&:text)
      end

      # Always live, it is on with the key off as well, and that is said.
      def hot_trigger?(d)
        d.wanted == 'off' && d.consumer.lamp? && [d.consumer.feed.trigger || d.consumer.feed.source].include?('battery')
      end

      private

      # What is said of lamps with the key off stands by itself.
      def hot?(d) = d.consumer.lamp? && d.wanted == 'off'

      def said(d, set)
        c = d.consumer
        where = scheme.switches.common(set) || "in #{set.size} of #{truth.states.size} switch positions, such as #{scheme.switches.words(set.first)}"
        found("#{c.name}: #{SEEN.fetch(d.seen, d.seen)} #{where}; it #{WANTED.fetch(d.wanted)}.#{why(c, d, set)}", subject: c.id,
          caution: Wishes.of(c).law ? Wishes::LAW : nil, cures: cures(c, d, set))
      end

      # The usual ways to get it wrong, named.
      def why(c, d, set)
        return ' The factory plug holds it back on high beam.' if held_back?(c, set)
        return ' It is on the switched wire of the brake switch; the other one is live with the key.' if switched_brake?(c, d)

        ''
      end

      def held_back?(c, set) = c.feed.row['interlock'] && !c.feed.row['jumper'] && set.all? { |s| s.include?('high') }
      def switched_brake?(c, d) = [c.feed.source, c.feed.trigger].include?('brake') && d.wanted == 'on' && c.role != 'brake'

      def cures(c, d, set)
        return [on_feed(c, 'a jumper in the relay’s place', 'jumper' => true)] if held_back?(c, set)

        key = source_key(c) or return []
        return [on_feed(c, 'the wire live with the key instead', key => 'brake_live')] if switched_brake?(c, d)

        line = Wishes.of(c).line
        return [] if c.feed.row[key] == line || (key == 'source' && c.feed.source == line)

        [on_feed(c, "from the #{Feeds::Lines::BY_KEY[line].label}", key => line)]
      end

      # What of its feed says when it is live.
      def source_key(c)
        return 'trigger' if c.feed.kind.relay?

        c.feed.kind.source || c.feed.kind.wires.empty? || c.feed.kind.device? ? nil : 'source'
      end
    end

    # A wire of a data bus does not pull a relay in, nor feed anything.
    class FromDataBus < Rule
      declare 'bus_trigger', label: 'From a data-bus wire', severity: 'red', caution: 'A body controller sees every milliamp more, and shuts the lamp off.'

      def findings
        return [] unless scheme.document.data_bus?

        fed.select { |c| lines(c).any? { |l| Feeds::Lines::BY_KEY[l]&.lamp } }.map do |c|
          found("#{c.name}: taken from a lamp wire that a data bus watches.", subject: c.id,
            cures: [as_kind(c, Feeds::Hub, 'through an isolating hub')])
        end
      end

      private

      def lines(c) = c.feed.kind.wires.empty? || c.feed.kind.device? ? [] : [c.feed.source, c.feed.trigger].compact
    end

    # A feed that cuts into a data bus.
    class SplicedBus < Rule
      declare 'bus_splice', label: 'Spliced on a data bus', severity: 'red', caution: Budget::Flags::DATA_BUS
      JOINS = %w[solder crimp lever tap].freeze

      def findings
        return [] unless scheme.document.data_bus?

        fed.select { |c| cut?(c) }.map do |c|
          found("#{c.name}: #{c.feed.kind.label.downcase} with a splice in the machine’s wires.", subject: c.id,
            cures: [as_kind(c, Feeds::Hub, 'through an isolating hub')])
        end
      end

      private

      def cut?(c)
        return true if c.feed.kind == Feeds::PiercingTap
        return false if c.feed.kind.relay? && !Feeds::Lines::BY_KEY[c.feed.trigger]&.lamp

        c.feed.kind.relay? || c.feed.wires.any? do |w|
          w.from_place != scheme.places.battery && JOINS.include?(w.join) && c.feed.kind.on_machine?
        end
      end
    end

    # A tap beyond the plug stays with the lamp.
    class TapSide < Rule
      declare 'tap_side', label: 'Tap on the lamp’s side of the plug', severity: 'amber'

      def findings
        fed.select { |c| c.feed.kind.wires.any? && c.feed.row['tap_side'] == 'lamp' }.map do |c|
          found("#{c.name}: tapped on the lamp’s side of the connector; the lamp no longer unplugs.", subject: c.id,
            cures: [on_feed(c, 'on the machine’s side', 'tap_side' => 'machine')])
        end
      end
    end

    # More than one thin wire of the machine should carry.
    class TapOver < Rule
      declare 'tap_over', label: 'Too much for a tapped wire', severity: 'red'

      def findings
        fed.select { |c| c.feed.kind.most_a && c.known? && scheme.most_amps(c) > c.feed.kind.most_a }.map do |c|
          found(format('%s; %s is for %g A at the most.', draws(c), c.feed.kind.label.downcase, c.feed.kind.most_a),
            subject: c.id, cures: [scheme.battery? ? as_kind(c, Feeds::Relay, 'a relay instead') : nil])
        end
      end
    end

    # DC things on a coil's AC.
    class RectifierFirst < Rule
      declare 'rectifier', label: 'Rectifier first', severity: 'red', caution: 'AC crests go over what an LED stands.'

      def findings
        there = fed.select { |c| needs_dc?(c.load.document, c.row) }.map { |c| said(c.name, subject: c.id) }
        there + waiting.map { |row| said(row['name'], severity: 'amber') }
      end

      private

      def said(name, **rest) = found("#{name} wants DC, and the coil gives AC: a rectifier-regulator with smoothing comes first.", **rest)

      # What its owner wants, and is not taken yet.
      def waiting = scheme.document.loads.select { |l| l['wanted'] && !l['taken'] && needs_dc?(l, l) }

      def needs_dc?(thing, row) = thing['supply'] == 'dc' && scheme.budget.feed(scheme.budget.circuit_of(row)) == 'ac'
    end

    # A kind that this machine, or this lamp, has no place for.
    class NotToBeHad < Rule
      declare 'not_to_be_had', label: 'Not to be had here', severity: 'amber'

      def findings
        fed.filter_map do |c|
          why = scheme.offers(c).to_h[c.feed.kind] or next
          found("#{c.name}: no #{c.feed.kind.label.downcase} here, #{why}.", subject: c.id)
        end
      end
    end

    # Two rows of feeds for one thing.
    class FedTwice < Rule
      declare 'twice', label: 'Fed twice', severity: 'amber'

      def findings
        wiring_rows('feeds').group_by { |f| f['load_id'] }.select { |_, rows| rows.size > 1 }.map do |load, rows|
          gone = rows.first(rows.size - 1).map { |f| { 'op' => 'remove', 'at' => "/wiring/feeds/#{f['id']}" } }
          name = scheme.document.load(load)&.fetch('name') || load
          found("#{name} has #{rows.size} feeds; the last one counts.", subject: load,
            cures: [Cure.new(label: 'the last alone', edits: gone)])
        end
      end
    end

    # Relays that pull one another in.
    class Circle < Rule
      declare 'circle', label: 'Feeds in a circle', severity: 'red'

      def findings = rings + chatter

      private

      # Each waits for the other to be fed.
      def rings
        fed.select { |c| round?(c) }.map do |c|
          found("#{c.name} is taken from what it feeds itself, by way of others: nothing of it ever comes on.", subject: c.id,
            cures: [on_feed(c, 'not from there', 'from_load' => nil)])
        end
      end

      def round?(consumer)
        seen = []
        at = consumer
        while at&.feed && at.feed.row['from_load'] && !seen.include?(at.id)
          seen << at.id
          at = scheme.consumer_of(at.feed.row['from_load'])
          return true if at.equal?(consumer)
        end
        false
      end

      def chatter
        restless = truth.states.find { |s| truth.look(s).restless? } or return []
        [found("With #{scheme.switches.words(restless)} a relay switches itself on and off.")]
      end
    end
  end
end
