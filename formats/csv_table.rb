# frozen_string_literal: true

require 'csv'
require_relative 'field_error'
require_relative 'quantity'
require_relative 'job_schema'

module Miser
  module Formats
    # Reads and writes RFC 4180 tables whose columns are fields of the job file.
    # A header names its unit in brackets: amps [mA]. Commas, semicolons and tabs
    # part the columns; figures may have a decimal comma.
    class CsvTable
      # @!attribute header [String] without its unit
      # @!attribute at [Array<String>] keys into the row
      # @!attribute place [String, nil] the field's place in the job file, for its bounds and unit
      # @!attribute given [Hash, nil] its schema, where it is no field of a job
      Column = Struct.new(:header, :at, :place, :given, keyword_init: true) do
        def schema = @schema ||= given || JobSchema.field(place)
        def number? = %w[number integer].include?(schema['type'])
        def unit = given.nil? && number? && schema['unit'] != '1' ? schema['unit'] : nil
        def title = unit ? "#{header} [#{unit}]" : header
      end

      # @!attribute line [Integer] in the file, from 1
      # @!attribute errors [Array<FieldError>]
      Row = Struct.new(:line, :values, :errors, keyword_init: true)

      # The file as a whole can't be read.
      class Unreadable < StandardError; end

      MOST_ROWS = 20_000
      MOST_COLUMNS = 200
      MOST_LETTERS = 4000
      # The line of names is sought in so many characters.
      HEAD = 20_000
      # A text that a spreadsheet would run goes out behind an apostrophe, and comes in without it.
      RUN = /\A[=+\-@\t\r']/
      HELD = /\A'(?=[=+\-@\t\r'])/
      # A column's name is no longer.
      MOST_OF_NAME = 120

      # What a row does to the one it stands for.
      # @param old [Hash, nil] @param new [Hash]
      # @return [String] add, replace, same
      def self.change(old, new)
        return 'add' unless old

        old == new ? 'same' : 'replace'
      end

      # @param change [String] @param list [String] place of the rows @param row [Hash]
      # @return [Hash, nil] edit; nil where nothing changes
      def self.edit(change, list, row)
        case change
        when 'add' then { 'op' => 'add', 'at' => list, 'value' => row }
        when 'replace' then { 'op' => 'set', 'at' => "#{list}/#{row['id']}", 'value' => row }
        end
      end

      # @param columns [Array<Column>]
      def initialize(columns)
        @columns = columns
      end

      # @param rows [Array<Hash>]
      # @return [String] CSV with CRLF ends
      def write(rows)
        CSV.generate(row_sep: "\r\n") do |csv|
          csv << @columns.map(&:title)
          rows.each { |row| csv << @columns.map { |c| cell(row.dig(*c.at)) } }
        end
      end

      # A table of texts for a person, the names of its columns first.
      # @param rows [Array<Array<String, nil>>]
      # @return [String]
      def self.plain(rows)
        rows.map { |row| CSV.generate_line(row.map { |text| held(text) }, row_sep: "\r\n") }.join
      end

      def self.held(text) = text.is_a?(String) && text.match?(RUN) ? "'#{text}" : text

      # Any table's cells, whatever parts its columns.
      # @param text [String]
      # @return [Array<Array<String, nil>>]
      # @raise [Unreadable]
      # @param most [Integer] rows that are taken
      def self.cells(text, most = MOST_ROWS)
        text = text.dup.force_encoding(Encoding::UTF_8).delete_prefix("\uFEFF")
        raise Unreadable, 'the file is not UTF-8 text' unless text.valid_encoding?

        first = text[0, HEAD][/\A(?:"[^"]*"|[^"\r\n])*/]
        table = rows(CSV.new(text, col_sep: %W[; \t ,].max_by { |s| first.count(s) }, skip_blanks: true), most)
        raise Unreadable, 'the file is empty; its first line must name the columns' if table.empty?

        table
      rescue CSV::MalformedCSVError => e
        raise Unreadable, "the file is not well-formed CSV: #{e.message}"
      end

      # What is too much is refused before more of it is read.
      def self.rows(csv, most)
        table = []
        csv.each do |cells|
          raise Unreadable, "the file has more than #{most} rows" if table.size >= most
          raise Unreadable, "line #{csv.lineno} has #{cells.size} columns; at most #{MOST_COLUMNS} are taken" if cells.size > MOST_COLUMNS
          if cells.any? { |text| text && text.length > MOST_LETTERS }
            raise Unreadable, "line #{csv.lineno} has a cell of more than #{MOST_LETTERS} characters"
          end

          table << cells
        end
        table
      end
      private_class_method :rows

      # @raise [Unreadable] where there are more of something than there may be
      def self.most!(count, most, what)
        raise Unreadable, "it has #{count} #{what}; at most #{most} are taken" if count > most
      end

      # @param text [String]
      # @return [Array<Row>]
      # @raise [Unreadable]
      def read(text, most: MOST_ROWS)
        table = CsvTable.cells(text, most)
        heads = headers(table.first)
        table.drop(1).each_with_index.map { |cells, i| row(cells, heads, i + 2) }
      end

      private

      def cell(value)
        return CsvTable.held(value) if value.is_a?(String)

        value.is_a?(Float) && value == value.to_i ? value.to_i : value
      end

      # @return [Array<Array(Column, String)>] column and the unit of its header, by place
      def headers(cells)
        heads = cells.map do |text|
          name, unit = text.to_s.strip[0, MOST_OF_NAME].match(/\A(.*?)\s*(?:[\[(]([^\])]*)[\])])?\z/m).captures
          column = @columns.find { |c| c.header.casecmp?(name) }
          column && [column, unit]
        end
        strange = cells.zip(heads).filter_map { |text, head| text if head.nil? && !text.to_s.strip.empty? }
        known = @columns.map(&:header).join(', ')
        raise Unreadable, "unknown column #{strange.map { |s| "“#{s[0, 40]}”" }.join(', ')}; known columns: #{known}" if strange.any?

        heads
      end

      def row(cells, heads, line)
        result = Row.new(line: line, values: {}, errors: [])
        cells.zip(heads).each do |text, (column, unit)|
          next if column.nil? || text.to_s.strip.empty?

          store(result, column, value(text.sub(HELD, '').strip, column, unit, result))
        end
        result
      end

      def store(result, column, value)
        return if value.nil?

        *path, key = column.at
        path.reduce(result.values) { |h, k| h[k] ||= {} }[key] = value
      end

      def value(text, column, unit, result)
        return %w[yes true 1 x].include?(text.downcase) if column.schema['type'] == 'boolean'
        return text unless column.number?

        text = "#{text} #{unit}" if unit && text.match?(/\A[-+\d.,\s]+\z/)
        number = Quantity.parse(text, column.schema['unit']).round(9)
        number == number.to_i ? number.to_i : number
      rescue Quantity::Invalid => e
        result.errors << FieldError.new(at: "line #{result.line}", field: column.header, message: e.message,
          accepts: JobSchema.accepts(column.schema))
        nil
      end
    end
  end
end
