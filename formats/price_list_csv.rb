# frozen_string_literal: true

require_relative 'csv_table'

module Miser
  module Formats
    # A supplier's price list as a table: an article a row. What is no part of the shelf is kept as well, so that it can be
    # found and linked later.
    module PriceListCsv
      # Rows of one list.
      MOST = 60_000
      TEXT = { 'type' => 'string' }.freeze
      MONEY = { 'type' => 'integer', 'unit' => 'cents', 'description' => 'money, none or more' }.freeze
      COUNT = { 'type' => 'integer', 'unit' => '1' }.freeze
      COLUMNS = [['article', TEXT], ['name', TEXT], ['price', MONEY, 'cents'], ['currency', TEXT], ['pack', COUNT],
        ['lead days', COUNT, 'lead_days'],
        ['category', TEXT], ['part', TEXT]].map do |header, schema, key|
        CsvTable::Column.new(header: header, at: [key || header], given: schema)
      end.freeze
      MOST_CENTS = 10_000_000
      LONGEST = { 'article' => 40, 'name' => 120, 'category' => 40 }.freeze

      # @!attribute change [String] add, replace, same @!attribute price [Hash, nil] as it is kept; nil where something is wrong
      Judged = Struct.new(:line, :name, :change, :errors, :price, keyword_init: true)

      module_function

      # @param prices [Array<Hash>] article, name, cents, pack, lead_days, category @param currency [String, nil]
      # @param parts [Hash{String=>String}] part of the shelf by article
      # @return [String]
      def write(prices, currency, parts = {})
        CsvTable.new(COLUMNS).write(prices.map do |p|
          p.merge('currency' => currency, 'part' => parts[p['article']], 'cents' => format('%.2f', p['cents'] / 100.0))
        end)
      end

      # @param text [String] @param known [Hash{String=>Hash}] the list as it is, by article
      # @param currency [String, nil] that the supplier's prices are in @param shelf [Array<String>] ids of parts
      # @return [Array<Judged>]
      # @raise [CsvTable::Unreadable]
      def read(text, known:, currency:, shelf:)
        rows = CsvTable.new(COLUMNS).read(text, most: MOST)
        seen = {}
        ids = shelf.to_h { |id| [id, true] }
        money = currency || rows.filter_map { |r| r.values['currency'] }.first
        rows.map { |row| judge(row, known, seen, money, ids) }
      end

      def judge(row, known, seen, money, ids)
        said = row.values
        errors = [*row.errors, *missing(row), *wrong(row, money, ids)]
        article = said['article'].to_s
        if seen.key?(article) && !article.empty?
          errors << error(row, 'article', "stands in line #{seen[article]} already",
            'each article once')
        end
        seen[article] ||= row.line
        return Judged.new(line: row.line, name: said['name'].to_s[0, 80], change: 'same', errors: errors) if errors.any?

        price = { 'article' => article, 'name' => said['name'], 'cents' => said['cents'].to_i, 'pack' => said['pack'] || 1,
                  'lead_days' => said['lead_days'],
                  'category' => said['category'] }
        Judged.new(line: row.line, name: said['name'][0, 80], change: CsvTable.change(known[article], price), errors: [],
          price: price.merge('part_id' => said['part']).compact)
      end

      def missing(row)
        %w[article name].select { |key| row.values[key].to_s.strip.empty? }.map { |key| error(row, key, 'is missing', 'a text') } +
          (if row.values.key?('cents') || row.errors.any? do |e|
            e.field == 'price'
          end
             []
           else
             [error(row, 'price', 'is missing', '12.50 or 12,50')]
           end)
      end

      def wrong(row, money, ids)
        said = row.values
        list = LONGEST.filter_map do |key, most|
          error(row, key, "has #{said[key].length} letters", "at most #{most}") if said[key].to_s.length > most
        end
        list << bounds(row, 'price', said['cents'], 0, MOST_CENTS,
          '0 to 100000.00') << bounds(row, 'pack', said['pack'], 1, 1000, '1 to 1000 pieces') <<
          bounds(row, 'lead days', said['lead_days'], 0, 365, '0 to 365 days')
        if said['currency'] && said['currency'] != money
          list << error(row, 'currency', "is #{said['currency']}",
            "#{money}: a list has one currency")
        end
        if said['part'] && !ids[said['part']]
          list << error(row, 'part', "is not on the shelf: #{said['part'][0, 40]}",
            'the id of a part on the shelf, or nothing')
        end
        list.compact
      end

      def bounds(row, field, value, least, most, accepts)
        return if value.nil? || (value.is_a?(Integer) && value.between?(least, most))

        error(row, field, if value.is_a?(Integer)
                            "is #{field == 'price' ? format('%.2f', value / 100.0) : value}"
                          else
                            'is no whole number'
                          end,
          accepts)
      end

      def error(row, field, message, accepts) = FieldError.new(at: "line #{row.line}", field: field, message: message, accepts: accepts)
    end
  end
end
