# frozen_string_literal: true

require_relative '../job/functions'
require_relative 'key'
require_relative 'lessons'
require_relative 'model_record'

module Miser
  module Book
    # What the book has for a job that nobody measured yet: charging points and draws of its model, draws of its parts; and the job
    # with them taken. They keep where they come from, and the doubt that their own spread leaves.
    class Offers
      # @!attribute load_id [String] @!attribute choice_id [String, nil] a part in its place @!attribute function_id [String, nil]
      # @!attribute amps, sigma [Float] of one, at Lessons::AT_V @!attribute n [Integer] @!attribute origin [String]
      Draw = Struct.new(:load_id, :choice_id, :function_id, :name, :amps, :sigma, :n, :origin, :words, :key, keyword_init: true)
      Points = Struct.new(:circuit, :name, :groups, :words, keyword_init: true)

      # @param ticket [Ticket] @param book [#model, #part]
      def initialize(ticket, book)
        @ticket = ticket
        @document = ticket.document
        @book = book
      end

      # @return [ModelRecord, nil] of its model, this machine left out
      def model
        return @model if defined?(@model)

        @model = @book.model(Key.of(@document.machine['model']), but: @document.to_h['machine_id'] || @document.id)
      end

      # @return [Array<Draw>] of loads nobody measured here and nobody took from the book yet
      def draws
        return [] unless model

        rows = @document.loads.reject { |l| l['wanted'] || l['added'] || l['brought_by'] || known?(l, nil) }
        rows.filter_map { |row| (group = model.draw_of(row, Lessons.item(row, @ticket.budget.as_is(row).law_key))) && of_load(row, group) }
      end

      # @return [Array<Points>] of circuits where nothing was measured
      def points
        return [] unless model

        @document.circuits.reject { |c| rows(c).any? }.filter_map do |c|
          groups = model.points.select { |g| g.item == c['kind'] }
          groups.any? && Points.new(circuit: c['id'], name: c['name'] || c['id'], groups: groups.sort_by { |g| g.more['rpm'] },
            words: point_words(groups))
        end
      end

      # @return [Array<Draw>] of parts chosen or tried of which the shop has read others
      def parts
        @document.lamps.flat_map { |lamp| lamp.parts.flat_map { |choice| of_part(lamp, choice) } }
      end

      # @param value [String] points, draws, all; a load; a load and a part in its place: l1.c1
      # @yieldreturn [String] a fresh id
      # @return [Hash] the document with it
      def taken(document, value, &fresh)
        wanted = (draws + parts).select { |d| %w[draws all].include?(value) || [d.load_id, d.choice_id].compact.join('.') == value }
        done = wanted.reduce(document) { |doc, draw| draw.choice_id ? part_taken(doc, draw, &fresh) : load_taken(doc, draw, &fresh) }
        %w[points all].include?(value) ? points.reduce(done) { |doc, list| points_taken(doc, list, &fresh) } : done
      end

      private

      ORIGINS = { 'same_model' => 'in this shop', 'other_shop' => 'in other shops' }.freeze
      private_constant :ORIGINS

      def rows(circuit) = Job::Document.rows(Job::Document.part(circuit, 'alternator'), 'points')

      # Read on this very thing, or taken from the book already.
      def known?(row, choice)
        budget = @ticket.budget
        return true if budget.readings_on(row, part: choice).any?(&:counts?)
        return true if choice.nil? && budget.sums.stands?(row['id'])

        said = choice ? [choice['part'], budget.function_of(choice['part'], row)].compact : [row]
        said.flat_map { |s| Job::Document.rows(s, 'figures') }.any? { |f| ORIGINS.key?(f['origin']) }
      end

      def of_load(row, group)
        Draw.new(load_id: row['id'], name: row['name'], amps: group.amps, sigma: group.sigma, n: group.n, origin: group.origin, key: Key.of(@document.machine['model']),
          words: words(group.amps, group.sigma, group.n, group.origin, 'machine'))
      end

      def of_part(lamp, choice)
        record = @book.part(choice['part']['name'], choice['part']['shelf_id']) or return []
        lamp.own_loads.filter_map do |row|
          function = @ticket.budget.function_of(choice['part'], row) or next
          next if %w[kept dark].include?(function['how']) || known?(row, choice)

          draw = record.draw_of(function['does'] || Job::Functions.of(row['role'])) or next
          from = origin(draw)
          Draw.new(load_id: row['id'], choice_id: choice['id'], function_id: function['id'],
            name: "#{choice['part']['name']}, #{draw.words}", amps: draw.spread.mean, sigma: draw.sigma, n: draw.spread.n, origin: from, key: Key.of(choice['part']['name']),
            words: words(draw.spread.mean, draw.sigma, draw.spread.n, from, 'copy'))
        end
      end

      def origin(draw) = draw.lessons.any? ? 'same_model' : 'other_shop'

      def words(amps, sigma, count, origin, of_what)
        plural = { 'machine' => 'machines', 'copy' => 'copies' }.fetch(of_what)
        format('%<a>.2f ± %<s>.2f A at %<v>.1f V: read on %<n>d other %<w>s %<o>s', a: amps, s: sigma, v: Lessons::AT_V, n: count, w: count == 1 ? of_what : plural,
          o: ORIGINS.fetch(origin))
      end

      def point_words(groups)
        speeds = groups.map { |g| format('%<a>.1f ± %<s>.1f A at %<r>d rpm', a: g.amps, s: g.sigma, r: g.more['rpm'].round) }
        "#{speeds.join(', ')}: read on #{groups.map(&:n).max} other #{groups.map(&:n).max == 1 ? 'machine' : 'machines'} #{ORIGINS.fetch(groups.first.origin)}"
      end

      def figure(draw)
        { 'id' => yield, 'origin' => draw.origin, 'amps' => draw.amps.round(4), 'volts' => Lessons::AT_V, 'doubt_a' => draw.sigma.round(4), 'note' => draw.words[0, 400] }
      end

      def load_taken(document, draw, &fresh)
        document.merge('loads' => document['loads'].map { |l| l['id'] == draw.load_id ? with_figure(l, draw, &fresh) : l })
      end

      def part_taken(document, draw, &fresh)
        document.merge('choices' => document['choices'].map do |c|
          next c unless c['id'] == draw.choice_id

          part = c['part']
          functions = (part['functions'] || []).map { |f| f['id'] == draw.function_id ? with_figure(f, draw, &fresh) : f }
          c.merge('part' => part.merge('functions' => functions))
        end)
      end

      def with_figure(row, draw, &)
        row.merge('figures' => (row['figures'] || []).reject { |f| ORIGINS.key?(f['origin']) } + [figure(draw, &)])
      end

      def points_taken(document, list, &fresh)
        document.merge('circuits' => document['circuits'].map do |c|
          next c unless c['id'] == list.circuit

          c.merge('alternator' => (c['alternator'] || {}).merge('points' => list.groups.map { |g| point(g, &fresh) }))
        end)
      end

      def point(group)
        { 'id' => yield, 'rpm' => group.more['rpm'].round, 'amps' => group.amps.round(3), 'volts' => group.more['volts']&.round(2),
          'stator' => group.more['stator'] || 'hot', 'taken_on' => group.origin, 'doubt_a' => group.sigma.round(3) }.compact
      end
    end
  end
end
