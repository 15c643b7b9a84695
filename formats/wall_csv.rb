# frozen_string_literal: true

require_relative 'csv_table'

module Miser
  module Formats
    # A wall's readings as a bare table of lux: a line a row from the top, a column a
    # mark from the left; an empty cell, a dash or a question mark was not read.
    module WallCsv
      UNREAD = ['', '-', '–', '?', '·'].freeze

      module_function

      # @param text [String] @param columns, rows [Integer] of the wall
      # @return [Array(Hash{String=>Float, nil}, Array<FieldError>)] lux by cell, nil where not read; and what is wrong
      # @raise [CsvTable::Unreadable]
      def read(text, columns:, rows:)
        table = table(text)
        raise CsvTable::Unreadable, "the table has #{table.size} rows, the wall #{rows}" if table.size > rows

        wide = table.index { |row| row.size > columns }
        raise CsvTable::Unreadable, "line #{wide + 1} has #{table[wide].size} columns, the wall #{columns}" if wide

        errors = []
        cells = table.each_with_index.flat_map do |row, j|
          row.each_with_index.map do |word, i|
            ["r#{j}c#{i}", lux(word.to_s.strip, j, i, errors)]
          end
        end.to_h
        [cells, errors]
      end

      # @param wall [Beam::Wall]
      # @return [String]
      def write(wall)
        CSV.generate(row_sep: "\r\n") { |csv| wall.even_rows.times { |j| csv << Array.new(wall.columns) { |i| wall.lux(wall.row_numbers.index(j), i) } } }
      end

      # Blank lines between rows are rows not read only where something parts their columns.
      def table(text)
        lines = text.dup.force_encoding(Encoding::UTF_8).scrub('?').delete_prefix("\uFEFF").lines.map(&:chomp)
        lines.pop while lines.any? && lines.last.strip.empty?
        raise CsvTable::Unreadable, 'the table is empty' if lines.empty?

        separator = ["\t", ';', ','].find { |s| lines.any? { |l| l.include?(s) } }
        separator ? CSV.parse(lines.join("\n"), col_sep: separator).map(&:to_a) : lines.map(&:split)
      rescue CSV::MalformedCSVError => e
        raise CsvTable::Unreadable, "it is not well-formed CSV: #{e.message}"
      end

      def lux(word, row, column, errors)
        return nil if UNREAD.include?(word)

        schema = JobSchema.field('/beam/walls/w/cells/c/lux')
        number = Quantity.parse(word, 'lx')
        return number if number.between?(schema['minimum'], schema['maximum'])

        complain(errors, row, column, "#{word[0, 20]} is out of range", schema)
      rescue Quantity::Invalid => e
        complain(errors, row, column, e.message, schema)
      end

      def complain(errors, row, column, message, schema)
        errors << FieldError.new(at: "line #{row + 1}", field: "column #{column + 1}", message: message, accepts: JobSchema.accepts(schema))
        nil
      end
    end
  end
end
