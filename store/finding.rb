# frozen_string_literal: true

require 'did_you_mean'

module Miser
  module Store
    # Full text over whatever is kept: words in any order, as they are typed, small slips forgiven (SQLite's FTS5).
    class Finding
      # Words of a question that are looked for; the rest is taken as said.
      WORDS = 8
      # Letters from which a slip is forgiven, and from which two are.
      ONE_SLIP = 4
      TWO_SLIPS = 8
      # Words that a slip may have meant, and rows they are sought among.
      MEANT = 6
      NEAR = 4000
      # Names weigh more than what is written inside.
      WEIGHTS = [10.0, 1.0].freeze

      # @!attribute kind, ref [String] @!attribute words [Array<Array<String>>] of each word asked for, what was taken for it
      Hit = Struct.new(:kind, :ref, :words, keyword_init: true)

      # @param database [Sequel::Database]
      def initialize(database)
        @db = database
        @table = database[:searchable]
      end

      # @param kind [String] @param ref [String] what it is of @param names [String] @param words [String]
      # @return [void]
      def put(kind, ref, names:, words:)
        kept = @table.where(kind: kind, ref: ref).first
        return if kept && kept[:names] == names && kept[:words] == words

        if kept
          @table.where(id: kept[:id]).update(names: names, words: words)
        else
          @table.insert(kind: kind, ref: ref, names: names,
            words: words)
        end
      end

      # @return [void]
      def remove(kind, ref) = @table.where(kind: kind, ref: ref).delete

      # @param text [String] as typed @param kinds [Array<String>, nil]
      # @return [Array<Hit>] the best first
      def search(text, limit, kinds: nil)
        asked = Finding.split(text)
        return [] if asked.empty?

        taken = asked.map { |word| [word] }
        found = matched(taken, limit, kinds)
        return found if found.any?

        taken = asked.map { |word| known?(word) ? [word] : meant(word) }
        taken.any?(&:empty?) ? [] : matched(taken, limit, kinds)
      end

      # The words of a text as they are kept.
      # @return [Array<String>]
      def self.split(text) = text.to_s.unicode_normalize(:nfkd).gsub(/\p{Mn}/, '').downcase.scan(/[[:alnum:]]+/).uniq.first(WORDS)

      # @param text [String] @param words [Array<Array<String>>] see Hit
      # @return [Boolean] whether each word stands there, or what was taken for it
      def self.in?(text, words)
        there = text.to_s.unicode_normalize(:nfkd).gsub(/\p{Mn}/, '').downcase.scan(/[[:alnum:]]+/)
        words.all? { |taken| taken.any? { |word| there.any? { |t| t.start_with?(word) } } }
      end

      private

      def matched(taken, limit, kinds)
        question = taken.map { |words| "(#{words.map { |w| %("#{w}"*) }.join(' OR ')})" }.join(' AND ')
        list = @db[:finding].join(:searchable, id: Sequel[:finding][:rowid]).where(Sequel.lit('finding MATCH ?', question))
        # What is off the board is brought back from there, not found.
        list = list.exclude(Sequel.expr(kind: 'job') & { ref: @db[:jobs].exclude(removed_at: nil).select(:id) })
        list = list.where(kind: kinds) if kinds
        list.order(Sequel.lit("bm25(finding, #{WEIGHTS.join(', ')})"), Sequel[:searchable][:id]).limit(limit).select_map(%i[kind ref])
            .map { |kind, ref| Hit.new(kind: kind, ref: ref, words: taken) }
      end

      def known?(word) = !@db[:finding_terms].where(Sequel.lit('term >= ? AND term < ?', word, "#{word}\u{10FFFF}")).limit(1).empty?

      # Words that are kept and begin with what differs by a letter or two.
      def meant(word)
        slips = slips_of(word) or return []
        lengths = ((word.length - slips)..(word.length + slips)).to_a
        starts = candidates(word, slips).flat_map { |term| lengths.map { |n| term[0, n] } }.uniq
        starts.map { |start| [apart(word, start), start] }.select { |off, _| off <= slips }.min(MEANT).map(&:last)
      end

      # Letters that differ; two that changed places are one slip.
      def apart(word, other)
        off = DidYouMean::Levenshtein.distance(word, other)
        off == 2 && word.length == other.length && word.chars.sort == other.chars.sort ? 1 : off
      end

      def slips_of(word)
        return if word.length < ONE_SLIP || word.match?(/\A\d+\z/)

        word.length < TWO_SLIPS ? 1 : 2
      end

      # That begin with its first letter, or with its second where the two may have changed about: the words stand in their order, so few
      # are gone through.
      def candidates(word, slips)
        word.chars.first(2).uniq.flat_map do |letter|
          @db[:finding_terms].where(Sequel.lit('term >= ? AND term < ?', letter, "#{letter}\u{10FFFF}"))
                             .where(Sequel.function(:length, :term) >= (word.length - slips)).limit(NEAR).select_map(:term)
        end
      end
    end
  end
end
