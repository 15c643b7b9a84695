# frozen_string_literal: true

require 'fileutils'
require_relative '../store/jobs'
require_relative '../store/parts'
require_relative '../store/shop'
require_relative '../store/stock'
require_relative '../store/suppliers'
require_relative '../formats/price_list_csv'
require_relative '../formats/job_file'
require_relative 'kept'

module Miser
  module Cli
    # The made-up shop: a ranger station's fleet and a shelf of parts.
    module DemoData
      ROOT = File.expand_path('../demo', __dir__)

      module_function

      # @param path [String] database file
      # @param reset [Boolean] lay it out afresh
      # @param history [Boolean] whether its book begins with the year before
      # @return [Sequel::Database]
      def open(path, reset: false, history: false)
        Store::Database.remove(path) if reset
        database = Kept.open(path)
        shop = Store::Shop.new(database)
        lay_out(database, shop) unless shop['demo']
        year_before(database, shop) if history && !shop['demo_year']
        database
      end

      # The year before in the book, once: a demo that was laid out by an older Miser gets it as well.
      def year_before(database, shop)
        require_relative '../demo/history'
        warn 'miser: writing the made-up shop’s last year into its book (some seconds)'
        database.transaction(mode: :immediate) do
          History.new(database).lay_out
          shop['demo_year'] = true
        end
      end

      def lay_out(database, shop)
        database.transaction(mode: :immediate) do
          shelf(database, shop)
          buying(database, shop)
          jobs = Store::Jobs.new(database)
          files.each { |read| jobs.create(read.document, files: read.attachments) unless jobs.taken?(read.document['id']) }
          shop['demo'] = true
        end
      end

      # Parts a new shop starts with, all made up; thrown away, they stay away.
      def shelf(database, shop)
        return if shop['shelf_laid_out']

        parts = Store::Parts.new(database)
        JSON.parse(File.read(File.join(ROOT, 'shelf.json'))).each { |part| parts.put(part.merge('starter' => true)) } if parts.all.empty?
        shop['shelf_laid_out'] = true
      end

      # Nobody sells made-up parts: in a shop of one's own they have no price, whichever Miser laid them out.
      def unpriced(database, shop)
        return if shop['demo'] || shop['starters_unpriced']

        parts = Store::Parts.new(database)
        database.transaction(mode: :immediate) do
          parts.all.select { |part| part['starter'] && part['price_cents'] }.each { |part| parts.put(part.except('price_cents')) }
          shop['starters_unpriced'] = true
        end
      end

      # Whom the made-up shop buys from, their prices, what lies on its shelf.
      def buying(database, shop)
        suppliers = Store::Suppliers.new(database)
        return if suppliers.all.any?

        known = Store::Parts.new(database).all.map { |part| part['id'] }
        read('suppliers').each do |row|
          suppliers.put(row)
          suppliers.put_prices(row['id'], prices(row, known))
        end
        kept = read('stock')
        kept['stock'].each do |row|
          Store::Stock.new(database).put(row['part'], pieces: row['pieces'], reorder_at: row['reorder_at']) if known.include?(row['part'])
        end
        shop['money'] = kept['money'] unless shop['money']
      end

      # @param supplier [Hash] @param parts [Array<String>] ids on the shelf
      # @return [Array<Hash>] of its list
      def prices(supplier, parts)
        text = File.read(File.join(ROOT, 'prices', "#{supplier['id']}.csv"))
        Formats::PriceListCsv.read(text, known: {}, currency: supplier['currency'], shelf: parts).filter_map(&:price)
      end

      def read(name) = JSON.parse(File.read(File.join(ROOT, "#{name}.json")))

      # The made-up shop's market, as the core takes it.
      # @return [Buying::Market]
      def market
        parts = read('shelf')
        ids = parts.map { |part| part['id'] }
        kept = read('stock')
        listed = read('suppliers').flat_map { |row| prices(row, ids).map { |price| price.merge('supplier_id' => row['id']) } }
        Buying::Market.new(suppliers: read('suppliers'), parts: parts, prices: listed, stock: kept['stock'].to_h do |r|
          r.values_at('part', 'pieces')
        end,
          money: kept['money'])
      end

      # @return [Array<Formats::JobFile::Read>]
      def files = texts.values.map { |text| Formats::JobFile.read(text) }

      # The job files whole, each of a folder's parts: one of its own for a stage that keeps a part of the document.
      # @return [Hash{String=>String}] by the folder's name
      # @raise [KeyError] where two parts claim one name
      def texts
        Dir[File.join(ROOT, 'jobs/*/')].to_h do |folder|
          parts = Dir[File.join(folder, '*.json')].sort_by { |path| [File.basename(path) == 'base.json' ? 0 : 1, path] }
          whole = parts.map { |path| JSON.parse(File.read(path)) }.reduce do |all, part|
            all.merge(part) { |key| raise KeyError, "#{key} stands in two parts of #{folder}" }
          end
          [File.basename(folder), "#{JSON.pretty_generate(whole, indent: ' ')}\n"]
        end
      end

      # @return [Array<Hash>] job documents
      def documents = files.map(&:document)
    end
  end
end
