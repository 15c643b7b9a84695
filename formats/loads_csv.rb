# frozen_string_literal: true

require 'securerandom'
require_relative 'csv_table'

module Miser
  module Formats
    # Loads as a table: one row a load, with the best of its stated figures.
    module LoadsCsv
      def self.column(header, key, place = "/loads/x/#{key}") = CsvTable::Column.new(header: header, at: key.split('/'), place: place)
      private_class_method :column

      COLUMNS = [
        column('id', 'id'), column('name', 'name'), column('group', 'group'), column('role', 'role'), column('circuit', 'circuit'),
        column('position', 'position'), column('count', 'count'), column('base', 'base'), column('filament', 'filament'),
        column('rated', 'rated_w'),
        column('law', 'law'), column('works from', 'min_v'), column('origin', 'figure/origin', '/loads/x/figures/x/origin'),
        column('amps', 'figure/amps', '/loads/x/figures/x/amps'), column('watts', 'figure/watts', '/loads/x/figures/x/watts'),
        column('at volts', 'figure/volts', '/loads/x/figures/x/volts'), column('key-off', 'key_off_a'), column('wanted', 'wanted'),
        column('taken', 'taken')
      ].freeze

      module_function

      # @param document [Hash] job
      # @return [String]
      def write(document)
        CsvTable.new(COLUMNS).write(document['loads'].map { |l| l.merge('figure' => (l['figures'] || []).first || {}) })
      end

      # @param text [String]
      # @param document [Hash] the job it goes into
      # @return [Hash] rows (line, name, change, errors) and edits for the good ones
      # @raise [CsvTable::Unreadable]
      def preview(text, document)
        known = document['loads'].to_h { |l| [l['id'], l] }
        seen = {}
        rows = CsvTable.new(COLUMNS).read(text).map { |r| judge(r, known, seen) }
        { edits: rows.map { |r| r.delete(:edit) if r[:errors].empty? }.compact, rows: rows.map { |r| r.except(:edit) } }
      end

      def judge(row, known, seen)
        old = known[row.values['id']]
        load = build(row.values, old)
        errors = row.errors + schema_errors(load, row.line)
        if row.values['id'] && seen[row.values['id']]
          errors << FieldError.new(at: "line #{row.line}", field: 'id', message: 'stands in the file twice', accepts: 'each id once')
        end
        seen[row.values['id']] = true
        change = CsvTable.change(old, load)
        { line: row.line, name: load['name'].to_s, change: change, errors: errors, edit: CsvTable.edit(change, '/loads', load) }
      end

      def build(values, old)
        figure = values['figure']
        load = (old || {}).merge(values.except('figure'))
        load['id'] ||= SecureRandom.alphanumeric(10)
        load['group'] ||= 'lamp'
        return load unless figure && (figure['amps'] || figure['watts'])

        first = (old && old['figures']&.first) || { 'id' => SecureRandom.alphanumeric(8) }
        load.merge('figures' => [first.slice('id', 'note').merge({ 'origin' => 'maker' }, figure),
          *((old && old['figures']) || []).drop(1)])
      end

      def schema_errors(load, line)
        probe = { 'loads' => [load] }
        JobSchema.errors(Job::Template.job(id: 'probe', name: 'probe').merge(probe)).map do |e|
          FieldError.new(at: "line #{line}", field: e.field, message: e.message, accepts: e.accepts)
        end
      end
    end
  end
end
