# frozen_string_literal: true

require 'json'
require 'sequel'

module Miser
  module Store
    # Whom the shop buys from, their price lists, and which of their articles is which part of the shelf.
    class Suppliers
      # Prices written in one go.
      SLICE = 500
      PAGE = 100

      # @param database [Sequel::Database]
      def initialize(database)
        @db = database
      end

      # @return [Integer] another whenever a part, a price, a supplier or the stock changes
      def version = @db[:market].get(:version)

      # @return [Array<Hash>] by name
      def all = @db[:suppliers].order(:name).select_map(:body).map { |body| JSON.parse(body) }

      # @return [Hash, nil]
      def find(id) = @db[:suppliers].where(id: id).get(:body)&.then { |body| JSON.parse(body) }

      # @param row [Hash] with its id and name
      # @return [Hash]
      # @raise [Sequel::UniqueConstraintViolation] where another has that name
      def put(row)
        kept = { name: row['name'], body: JSON.generate(row) }
        @db.transaction(mode: :immediate) do
          @db[:suppliers].insert(id: row['id'], **kept) if @db[:suppliers].where(id: row['id']).update(kept).zero?
        end
        row
      end

      # With its price list and what was linked to it.
      # @return [Boolean] whether there was one
      def remove(id) = @db.transaction(mode: :immediate) { @db[:suppliers].where(id: id).delete.positive? }

      # @return [Hash{String=>Integer}] how many prices each lists
      def counts = @db[:prices].group_and_count(:supplier_id).as_hash(:supplier_id, :count)

      # @param word [String] in its number or its name @param from [Integer]
      # @return [Array(Array<Hash>, Integer)] a page, and how many there are; each with the parts it is linked to
      def prices(supplier_id, word: '', from: 0)
        rows = @db[:prices].where(supplier_id: supplier_id)
        unless word.empty?
          like = "%#{word.downcase.gsub(/[\\%_]/) { |c| "\\#{c}" }}%"
          rows = rows.where(Sequel.lit("lower(article) LIKE ? ESCAPE '\\' OR lower(name) LIKE ? ESCAPE '\\'", like, like))
        end
        page = rows.order(:article).limit(PAGE, from).all
        links = @db[:part_articles].where(supplier_id: supplier_id, article: page.map do |r|
          r[:article]
        end).select_hash_groups(:article, :part_id)
        [page.map { |r| r.except(:supplier_id).merge(parts: links[r[:article]] || []) }, rows.count]
      end

      # @return [Hash{String=>Hash}] the whole list by article: name, cents, pack, lead_days, category
      def list(supplier_id)
        @db[:prices].where(supplier_id: supplier_id).order(:article).all.to_h do |r|
          [r[:article], r.except(:supplier_id).transform_keys(&:to_s)]
        end
      end

      # @param rows [Array<Hash>] article, name, cents, pack, lead_days, category; and part_id, where it is a part of the shelf
      # @param whole [Boolean] whether what is not among them is listed no more
      # @return [void]
      def put_prices(supplier_id, rows, whole: false)
        @db.transaction(mode: :immediate) do
          drop(supplier_id, rows) if whole
          rows.each_slice(SLICE) { |slice| insert(supplier_id, slice) }
          rows.each { |row| link(row['part_id'], supplier_id, row['article']) if row['part_id'] }
        end
      end

      # @return [Boolean] whether there was such a price
      def remove_price(supplier_id, article) = @db[:prices].where(supplier_id: supplier_id, article: article).delete.positive?

      # @return [void]
      def link(part_id, supplier_id, article)
        @db[:part_articles].insert_conflict.insert(part_id: part_id, supplier_id: supplier_id, article: article)
      end

      # @return [Boolean] whether it was linked
      def unlink(part_id, supplier_id, article)
        @db[:part_articles].where(part_id: part_id, supplier_id: supplier_id, article: article).delete.positive?
      end

      # Prices of what is on the shelf.
      # @param part_id [String, nil] of one part alone
      # @return [Array<Hash>] part_id, supplier_id, article, name, cents, pack, lead_days, category
      def linked(part_id = nil)
        rows = @db[:part_articles].join(:prices, supplier_id: :supplier_id, article: :article)
        rows = rows.where(part_id: part_id) if part_id
        columns = %i[part_id] + %i[supplier_id article name cents pack lead_days category].map { |c| Sequel[:prices][c] }
        rows.select(*columns).order(:part_id, Sequel[:prices][:supplier_id], Sequel[:prices][:article]).all.map do |r|
          r.transform_keys(&:to_s)
        end
      end

      private

      def drop(supplier_id, rows)
        kept = rows.to_h { |row| [row['article'], true] }
        gone = @db[:prices].where(supplier_id: supplier_id).select_map(:article).reject { |article| kept[article] }
        gone.each_slice(SLICE) { |slice| @db[:prices].where(supplier_id: supplier_id, article: slice).delete }
      end

      # Over what is there, so that links to it stay.
      def insert(supplier_id, rows)
        columns = %w[name cents pack lead_days category]
        @db[:prices].insert_conflict(target: %i[supplier_id article], update: columns.to_h { |c| [c.to_sym, Sequel[:excluded][c.to_sym]] })
                    .import([:supplier_id, :article, *columns.map(&:to_sym)],
                      rows.map { |r| [supplier_id, r['article'], r['name'], r['cents'], r['pack'] || 1, r['lead_days'], r['category']] })
      end
    end
  end
end
