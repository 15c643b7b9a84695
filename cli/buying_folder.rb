# frozen_string_literal: true

require 'json'
require_relative 'options'
require_relative '../formats/price_list_csv'
require_relative '../store/parts'
require_relative '../store/stock'
require_relative '../store/suppliers'

module Miser
  module Cli
    # Suppliers, their price lists and what lies on the shelf, as a part of the shop's folder.
    class BuyingFolder
      ID = /\A[A-Za-z0-9_-]{1,40}\z/

      # @param database [Sequel::Database]
      def initialize(database)
        @suppliers = Store::Suppliers.new(database)
        @stock = Store::Stock.new(database)
      end

      # @return [void]
      def write(folder)
        rows = @suppliers.all
        return if rows.empty? && @stock.pieces.empty?

        FileUtils.mkdir_p(folder)
        File.binwrite(File.join(folder, 'suppliers.json'), "#{JSON.pretty_generate(rows)}\n")
        linked = @suppliers.linked.group_by { |l| l['supplier_id'] }
        rows.each do |row|
          parts = (linked[row['id']] || []).to_h { |l| [l['article'], l['part_id']] }
          File.binwrite(File.join(folder, "#{row['id']}.csv"),
            Formats::PriceListCsv.write(@suppliers.list(row['id']).values, row['currency'], parts))
        end
        File.binwrite(File.join(folder, 'stock.json'),
          "#{JSON.pretty_generate({ 'pieces' => @stock.pieces, 'reorder_at' => @stock.reorder })}\n")
      end

      # Looked at before anything is written.
      # @param shelf [Array<String>] ids of parts that will be there
      # @return [Hash, nil] nil where the folder has none
      # @raise [Failure]
      def read(folder, shelf)
        path = File.join(folder, 'suppliers.json')
        return unless File.exist?(path)

        rows = json(path)
        unless rows.is_a?(Array) && rows.all? { |r| r.is_a?(Hash) && r['id'].to_s.match?(ID) && !r['name'].to_s.strip.empty? }
          raise Failure, "#{path} is no list of suppliers"
        end

        { rows: rows, prices: rows.to_h { |row| [row['id'], prices(folder, row, shelf)] }, stock: json(File.join(folder, 'stock.json')) }
      end

      # @param data [Hash] as it was read
      # @return [void]
      def take(data)
        data[:rows].each { |row| @suppliers.put(row) }
        data[:prices].each { |id, prices| @suppliers.put_prices(id, prices, whole: true) }
        least = data[:stock]['reorder_at'] || {}
        (data[:stock]['pieces'] || {}).merge(least) { |_, pieces, _| pieces }.each_key do |part|
          @stock.put(part, pieces: [data[:stock].dig('pieces', part).to_i, 0].max, reorder_at: least[part])
        end
      end

      private

      def json(path)
        JSON.parse(Options.read_file(path))
      rescue JSON::ParserError
        raise Failure, "#{path} is no JSON"
      end

      def prices(folder, row, shelf)
        path = File.join(folder, "#{row['id']}.csv")
        judged = Formats::PriceListCsv.read(Options.read_file(path), known: {}, currency: row['currency'], shelf: shelf)
        wrong = judged.flat_map(&:errors)
        raise Failure, "#{path}: #{wrong.first(5).join('; ')}" if wrong.any?

        judged.map(&:price)
      rescue Formats::CsvTable::Unreadable => e
        raise Failure, "#{path}: #{e.message}"
      end
    end
  end
end
