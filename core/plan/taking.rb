# frozen_string_literal: true

require_relative '../job/followers'
require_relative '../signals/cure_choice'
require_relative '../ticket/ticket'

module Miser
  module Plan
    # Puts a plan into a job: a part or none for every lamp, accessories carried or left out and how each is fed, the
    # signals' cure. A plan is written as what it decides, word by word:
    #
    #     l1=part/p-lantern-7;l3=keep;w1=feed/relay;w4=out;cure=flasher_3+diodes
    class Taking
      # What a plan asks for is not to be had. facts: field, given, accepts
      class Unknown < DomainError
        def words = "“#{given.to_s[0, 60]}” is not known"
        def field = self[:field]
        def given = self[:given]
        def accepts = self[:accepts]
      end

      CURE = 'cure'
      # Words that leave something as it is.
      NOTHING = %w[keep out none].freeze
      # What the shop says of a part, not the part of itself.
      OF_SHELF = %w[id retired starter picture].freeze
      # Circuits that cures are figured on.
      SIGNAL = 'signal_left'

      # @param key [String] @return [Hash{String=>String}] what it decides
      # @raise [Unknown]
      def self.read(key)
        key.split(';').to_h do |word|
          name, _, what = word.partition('=')
          raise Unknown.new(field: 'Plan', given: word, accepts: 'what is decided, as lamp=part/…, lamp=keep, load=feed/…, load=out, cure=…') if what.empty?

          [name, what]
        end
      end

      # @param words [Hash{String=>String}] @return [String]
      def self.key(words) = words.map { |name, what| "#{name}=#{what}" }.join(';')

      # @param ticket [Ticket] of the job as it stands @param parts [Array<Hash>] of the shelf
      # @param fresh_id [#call]
      # @param feeds [Array<Hash>] rows of feeds there were: what the owner wants of each stays with another kind
      def initialize(ticket, parts, fresh_id, feeds: nil)
        @feeds = (feeds || Job::Document.rows(ticket.document.own('wiring'), 'feeds')).to_h { |row| [row['load_id'], row] }
        @ticket = ticket
        @was = ticket.document.hash_as_given
        @parts = parts.to_h { |part| [part['id'], part] }
        @fresh = fresh_id
      end

      # @param words [Hash{String=>String}]
      # @return [Hash] the new document
      # @raise [Unknown]
      def apply(words)
        lamps, loads = words.except(CURE).partition { |_, what| what == 'keep' || what.start_with?('part/', 'choice/') }
        document = @was.merge('choices' => @was['choices'].dup, 'loads' => @was['loads'].dup)
        lamps.each { |lamp, what| decide(document, lamp, what) }
        document = Job::Followers.settle(document, @was)
        document = carried(document, loads.to_h)
        document = cured(document, words[CURE]) if words.key?(CURE)
        fed(document, lamps.map(&:first), loads.to_h)
      end

      # @param kind [String] hub or controller @return [Hash] the document with one of it, and nothing on it
      def box(kind) = with_box(@was, kind)

      private

      def unknown!(field, given, accepts) = raise(Unknown.new(field: field, given: given, accepts: accepts))

      def decide(document, id, what)
        lamp = @ticket.document.lamp(id) or unknown!('Lamp', id, @ticket.document.lamps.map(&:id).join(', '))
        document['choices'] = document['choices'].map do |c|
          c['position_id'] == id && c['action'] != Job::Lamp::TRIED ? undecided(c) : c
        end.compact
        row = what == 'keep' ? { 'id' => @fresh.call, 'position_id' => id, 'action' => 'keep' } : nil
        document['choices'] = row ? [*document['choices'], row] : fitted(document['choices'], lamp, what)
      end

      # A part decided for before stays beside the lamp, with what was read on it.
      def undecided(choice) = choice['part'] && choice.merge('action' => Job::Lamp::TRIED)

      def fitted(choices, lamp, what)
        kind, _, id = what.partition('/')
        there = choices.find do |c|
          c['position_id'] == lamp.id && (kind == 'choice' ? c['id'] == id : c['part'] && c['part']['shelf_id'] == id)
        end
        return choices.map { |c| c.equal?(there) ? c.merge('action' => 'swap') : c } if there

        part = kind == 'part' && @parts[id] or unknown!('Part', what, @parts.keys.first(20).join(', '))
        [*choices, { 'id' => @fresh.call, 'position_id' => lamp.id, 'action' => 'swap', 'part' => of_shelf(part) }]
      end

      # What the shop says of a part stays on the shelf.
      def of_shelf(part) = part.except(*OF_SHELF).merge('shelf_id' => part['id'])

      def carried(document, loads)
        return document if loads.empty?

        known = document['loads'].select { |l| l['wanted'] && !l['fed_by'] }.map { |l| l['id'] }
        loads.each_key { |id| unknown!('Accessory', id, known.join(', ')) unless known.include?(id) }
        settled(document, 'loads' => document['loads'].map { |l| loads.key?(l['id']) ? l.merge('taken' => loads[l['id']] != 'out') : l })
      end

      def cured(document, what)
        keys = what.split('+')
        bare = Signals::CureChoice.take(document, nil, circuit: nil, volts: nil)
        return bare if keys.empty? || keys == ['none']

        ticket = ticket_of(bare)
        cure = ticket.survey.ready? && ticket.survey.cures.ranked.find { |c| c.keys.sort == keys.sort }
        unknown!('Cure', what, ticket.survey.ready? ? ticket.survey.cures.ranked.map { |c| c.keys.join('+') }.join(', ') : 'the signals’ wiring first') unless cure
        Signals::CureChoice.take(bare, cure, circuit: ticket.budget.circuit_of(ticket.document.role(SIGNAL) || {}), volts: Signals::Survey::CURE_V)
      end

      # What the plan decides gets its feed anew; what nobody decided on is proposed.
      def fed(document, lamps, loads)
        mine = document['loads'].select { |l| lamps.include?(Job::Document.lamp_id(l)) || loads.key?(l['id']) }.map { |l| l['id'] }
        document = without_feeds(document, mine)
        loads.each { |id, what| document = feed(document, id, what.delete_prefix('feed/')) unless what == 'out' }
        scheme = ticket_of(document).wiring.scheme
        rest = scheme.altered.reject(&:decided?).select { |c| c.feed && lamps.include?(Job::Document.lamp_id(c.entry.row)) }
        without_idle_boxes(with_feeds(document, rest.map { |c| c.feed.row }))
      end

      def without_feeds(document, loads)
        wiring = document['wiring'] or return document
        rows = wiring['feeds'] || []
        kept = rows.reject { |f| loads.include?(f['load_id']) }
        kept == rows ? document : settled(document, 'wiring' => wiring.merge('feeds' => kept))
      end

      # A box that something hung on and nothing does any more.
      def without_idle_boxes(document)
        rows = Job::Document.rows(document['wiring'], 'devices')
        used = ->(doc) { Job::Document.rows(doc['wiring'], 'feeds').filter_map { |f| f['device_id'] } }
        idle = rows.map { |d| d['id'] }.select { |id| used[@was].include?(id) && !used[document].include?(id) }
        return document if idle.empty?

        settled(document, 'wiring' => document['wiring'].merge('devices' => rows.reject { |d| idle.include?(d['id']) }))
      end

      def feed(document, load, key)
        kind = Feeds::Kind::REGISTRY[key] or unknown!('Feed', key, Feeds::Kind::REGISTRY.keys.join(', '))
        document = with_box(document, key) if kind.device?
        scheme = ticket_of(document).wiring.scheme
        consumer = scheme.consumer_of(load) or return document
        kept = (@feeds[load] || {}).slice('at', 'wish', 'strobe').merge((@feeds[load] || {}).slice('switch_id').select do |_, id|
          switch?(document, id)
        end)
        with_feeds(document, [scheme.filled_as(consumer, kind, kept)])
      end

      def switch?(document, id) = Job::Document.rows(document['wiring'], 'switches').any? { |s| s['id'] == id }

      # A box for it to hang on, where there is none of its kind.
      def with_box(document, kind)
        wiring = document['wiring'] || {}
        return document if (wiring['devices'] || []).any? { |d| d['kind'] == kind }

        row = { 'id' => @fresh.call, **Wiring::Devices.fresh(kind) }
        settled(document, 'wiring' => wiring.merge('devices' => [*wiring['devices'], row]))
      end

      def with_feeds(document, rows)
        return document if rows.empty?

        wiring = document['wiring'] || {}
        settled(document, 'wiring' => wiring.merge('feeds' => [*wiring['feeds'], *rows.map { |row| Job::Plain.of(row) }]))
      end

      def settled(document, changes) = Job::Followers.settle(document.merge(changes), document)

      def ticket_of(document) = @ticket.beside(document)
    end
  end
end
