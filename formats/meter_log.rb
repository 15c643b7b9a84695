# frozen_string_literal: true

require 'time'
require_relative 'csv_table'

module Miser
  module Formats
    # A meter's own log, time and value in some columns of a table, as a series of
    # samples; and a series out again.
    class MeterLog
      # Units a column of times may be in. A clock is a time of day or a full date.
      TIMES = %w[s ms min h clock].freeze
      VALUES = %w[A mA].freeze
      MOST_SAMPLES = 2000
      SHOWN = 8

      attr_reader :columns, :mapping, :samples, :errors, :rows

      # @param text [String]
      # @param mapping [Hash, nil] time_column, time_unit, value_column, value_unit; guessed where missing
      # @raise [CsvTable::Unreadable]
      def initialize(text, mapping = nil)
        @cells = CsvTable.cells(text)
        @header = @cells.first.none? { |c| c && number?(c) } ? @cells.shift : nil
        raise CsvTable::Unreadable, 'the file has no rows with figures' if @cells.empty?

        @columns = Array.new(@cells.map(&:size).max) do |i|
          (@header && @header[i]).to_s.strip.then do |t|
            if t.empty?
              "column #{i + 1}"
            else
              t[0, 60]
            end
          end
        end
        @mapping = guess.merge((mapping || {}).compact)
        check_mapping
        read
      end

      # @return [Array<Array<String>>] the first rows as they stand
      def sample_rows = @cells.first(SHOWN).map { |r| columns.each_index.map { |i| r[i].to_s[0, 40] } }

      # A series out, times in seconds since switching on.
      # @param reading [Hash] of a job
      # @return [String] CSV with CRLF ends
      def self.write(reading)
        CSV.generate(row_sep: "\r\n") do |csv|
          csv << ['time [s]', 'amps [A]']
          (reading['samples'] || []).each { |s| csv << [s['t_s'], s['amps']] }
        end
      end

      private

      def number?(text) = !Float(text.strip.tr(',', '.'), exception: false).nil?

      def check_mapping
        wrong = { 'time_column' => columns.size, 'value_column' => columns.size }.find { |key, most| !mapping[key].between?(0, most - 1) }
        raise CsvTable::Unreadable, "there is no column #{mapping[wrong[0]] + 1}; the file has #{columns.size}" if wrong
      end

      # By the words of the header, else first column time, second value.
      def guess
        time = columns.index { |c| c.match?(/time|sec|stamp|elapsed|clock|\bt\b/i) } || 0
        value = columns.index { |c| c.match?(/amp|curr|value|reading|\[m?A\]|\bm?A\b/i) } || columns.each_index.find { |i| i != time } || 0
        { 'time_column' => time, 'time_unit' => time_unit(time), 'value_column' => value,
          'value_unit' => columns[value].match?(/\bmA\b|milli/i) ? 'mA' : 'A' }
      end

      def time_unit(column)
        return 'clock' if @cells.first[column].to_s.match?(/\d:\d/)

        columns[column][/\b(ms|min|h)\b/] || 's'
      end

      def read
        @rows = @cells.size
        @errors = []
        taken = @cells.each_with_index.filter_map { |row, i| sample(row, i + (@header ? 2 : 1)) }
        over_midnight(taken) if mapping['time_unit'] == 'clock'
        start = taken.map(&:first).min || 0.0
        @samples = thin(taken.map { |t, a| [(t - start).round(3), a] }.sort)
      end

      # A time of day that falls back by half a day has passed midnight.
      def over_midnight(taken)
        taken.each_cons(2) { |(before, _), row| row[0] += 86_400 while row[0] < before - 43_200 }
      end

      def sample(row, line)
        [seconds(row[mapping['time_column']].to_s.strip), amps(row[mapping['value_column']].to_s.strip)]
      rescue Quantity::Invalid, ArgumentError => e
        accepts = e.is_a?(Quantity::Invalid) ? e.accepts : 'a time such as 12:04:30 or 2026-01-31T12:04:30'
        @errors << FieldError.new(at: "line #{line}", field: "line #{line}", message: e.message[0, 120], accepts: accepts)
        nil
      end

      def seconds(text)
        if mapping['time_unit'] == 'clock'
          Time.parse(text).to_f
        else
          Quantity.parse(text.match?(/[a-z]/i) ? text : "#{text} #{mapping['time_unit']}", 's')
        end
      end

      def amps(text)
        value = Quantity.parse(text.match?(/[a-z]/i) && !text.match?(/\de[+-]?\d/i) ? text : "#{text} #{mapping['value_unit']}", 'A')
        raise Quantity::Invalid.new("“#{text[0, 40]}” is no draw", '0 to 200 A') unless value.between?(0, 200)

        value.round(9)
      end

      def thin(samples)
        return samples if samples.size <= MOST_SAMPLES

        samples.each_slice((samples.size / MOST_SAMPLES.to_f).ceil).map(&:first)
      end
    end
  end
end
