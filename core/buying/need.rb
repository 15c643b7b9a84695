# frozen_string_literal: true

module Miser
  module Buying
    # Something to be had before the work begins, and which checks asked for it.
    # @!attribute key [String] the same for what can be one line @!attribute part_id [String, nil] of the shelf
    # @!attribute use, size [String, nil] kind of a small part, and what it must measure
    # @!attribute pieces [Integer] wanted @!attribute spare [Integer] to lie by, of all of its kind once
    # @!attribute own_cents, own_pack [Integer, nil] what the job itself says it costs
    # @!attribute why [Array<Why>]
    Need = Struct.new(:key, :name, :part_id, :use, :size, :pieces, :spare, :own_cents, :own_pack, :why, keyword_init: true) do
      # @return [Integer] pieces with the spare
      def total = pieces + spare

      # @return [String] what it is for, in a line
      def for = why.map(&:text).uniq.join(', ')
    end

    # Which check asked for it. @!attribute stage [String] key @!attribute subject [String, nil] lamp or load it is about
    # @!attribute text [String] @!attribute pieces [Integer]
    Why = Struct.new(:stage, :subject, :text, :pieces, keyword_init: true)

    # Made of what asks for it; several of one are one line.
    class Need
      # A part for a lamp, as the job has it.
      # @param part [Hash] @param pieces [Integer] @param why [Why]
      def self.part(part, pieces, why)
        id = part['shelf_id']
        own = part.values_at('name', 'base', 'price_cents', 'pack')
        new(key: id ? "part/#{id}" : "own/#{own.join('/')}", name: part['name'], part_id: id, pieces: pieces, spare: 0,
          own_cents: part['price_cents']&.to_i, own_pack: part['pack']&.to_i, why: [why])
      end

      # A small part.
      # @param item [Parts::Catalogue::Item] @param why [Why]
      def self.item(item, why)
        key = ['use', item.kind, item.size, item.size ? nil : item.name].compact.join('/')
        new(key: key, name: item.name, use: item.kind, size: item.size, pieces: item.count, spare: item.spare || 0, why: [why])
      end

      # What is added by hand.
      # @param row [Hash] of the job's order @param why [Why]
      def self.own(row, why)
        new(key: "row/#{row['id']}", name: row['name'], part_id: row['shelf_id'], pieces: (row['count'] || 1).to_i, spare: 0,
          own_cents: row['price_cents']&.to_i, why: [why])
      end

      # What is still wanted where some is had: the spare is the last to be missed.
      # @param had [Integer] pieces @return [Need, nil] nil where nothing is
      def beyond(had)
        left = total - had
        return self if had.zero?
        return nil unless left.positive?

        dup.tap do |need|
          need.spare = [spare, left].min
          need.pieces = left - need.spare
        end
      end

      # One line an article, however many checks ask for it; a spare is wanted once.
      # @param needs [Array<Need>] @return [Array<Need>] in the order they were asked for
      def self.merged(needs)
        needs.group_by(&:key).values.map do |same|
          same.first.dup.tap do |one|
            one.pieces = same.sum(&:pieces)
            one.spare = same.map(&:spare).max
            one.why = same.flat_map(&:why)
          end
        end
      end
    end
  end
end
