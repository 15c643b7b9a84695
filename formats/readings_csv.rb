# frozen_string_literal: true

require 'securerandom'
require_relative 'csv_table'

module Miser
  module Formats
    # Readings as a table: one row a reading; a series has one row a sample, under
    # one reading id.
    module ReadingsCsv
      def self.column(header, key, place = "/readings/x/#{key}") = CsvTable::Column.new(header: header, at: key.split('/'), place: place)
      private_class_method :column

      COLUMNS = [
        column('reading', 'id'), column('load', 'load', '/loads/x/name'), column('load id', 'load_id'), column('choice id', 'choice_id'),
        column('kind', 'kind'),
        column('time', 't_s', '/readings/x/samples/x/t_s'),
        column('amps', 'amps'), column('volts', 'volts'), column('volts at', 'volts_at'), column('second amps', 'second/amps'),
        column('second volts', 'second/volts'), column('taken on', 'taken_on'), column('simulated', 'simulated'),
        column('base', 'base'), column('when', 'at'), column('note', 'note')
      ].freeze

      module_function

      # @param document [Hash] job
      # @return [String]
      def write(document)
        names = document['loads'].to_h { |l| [l['id'], l['name']] }
        rows = document['readings'].flat_map do |r|
          row = r.merge('load' => names[r['load_id']])
          samples = r['samples'] || []
          samples.empty? ? [row] : samples.map { |s| row.merge('t_s' => s['t_s'], 'amps' => s['amps']) }
        end
        CsvTable.new(COLUMNS).write(rows)
      end

      # @param text [String]
      # @param document [Hash]
      # @return [Hash] rows (line, name, change, errors) and edits for the good ones
      # @raise [CsvTable::Unreadable]
      def preview(text, document)
        rows = CsvTable.new(COLUMNS).read(text)
        groups = rows.group_by { |r| r.values['id'] || SecureRandom.alphanumeric(10) }
        CsvTable.most!(groups.size, JobSchema.most('readings'), 'readings')
        known = document['readings'].to_h { |r| [r['id'], r] }
        edits = []
        judged = groups.flat_map do |id, members|
          reading = build(id, members, known[id] || {}, document)
          errors = members.to_h { |m| [m, m.errors.dup] }
          errors[members.first].concat(problems(reading, members.first, document))
          change = CsvTable.change(known[id], reading)
          edits << CsvTable.edit(change, '/readings', reading) if errors.values.all?(&:empty?)
          members.map { |m| { line: m.line, name: m.values['load'].to_s, change: change, errors: errors[m] } }
        end
        { rows: judged.sort_by { |r| r[:line] }, edits: edits.compact }
      end

      def build(id, members, old, document)
        first = members.first.values
        reading = old.merge(first.except('load', 't_s')).merge('id' => id)
        reading['load_id'] ||= (document['loads'].find { |l| l['name'].casecmp?(first['load'].to_s) } || {})['id']
        timed = members.select { |m| m.values['t_s'] }
        reading['kind'] ||= timed.any? ? 'series' : 'settled'
        return reading if timed.empty?

        was = old['samples'] || []
        reading.except('amps').merge('samples' => timed.each_with_index.map do |m, i|
          { 'id' => was.dig(i, 'id') || "s#{i + 1}", 't_s' => m.values['t_s'], 'amps' => m.values['amps'] }.compact
        end)
      end

      def problems(reading, row, document)
        unless document['loads'].any? { |l| l['id'] == reading['load_id'] }
          names = document['loads'].map { |l| l['name'] }.first(12).join(', ')
          return [FieldError.new(at: "line #{row.line}", field: 'load',
            message: "“#{row.values['load'].to_s[0, 40]}” is no load of this job",
            accepts: names.empty? ? 'enter the loads first' : names)]
        end
        JobSchema.row_errors('readings', reading).map do |e|
          FieldError.new(at: "line #{row.line}", field: e.field, message: e.message, accepts: e.accepts)
        end
      end
    end
  end
end
