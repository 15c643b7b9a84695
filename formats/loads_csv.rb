# frozen_string_literal: true

require 'securerandom'
require_relative 'csv_table'

module Miser
  module Formats
    # Loads as a table: one row a load, with the best of its stated figures. Functions of one lamp name
    # the same lamp; what belongs to the lamp stands in each of its rows.
    module LoadsCsv
      def self.column(header, key, place = "/loads/x/#{key}") = CsvTable::Column.new(header: header, at: key.split('/'), place: place)
      private_class_method :column

      COLUMNS = [
        column('id', 'id'), column('name', 'name'), column('group', 'group'), column('role', 'role'), column('circuit', 'circuit'),
        column('lamp', 'lamp/id', '/positions/x/id'), column('lamp name', 'lamp/name', '/positions/x/name'),
        column('position', 'position'), column('end', 'lamp/end', '/positions/x/end'), column('side', 'lamp/side', '/positions/x/side'),
        column('count', 'count'), column('base', 'base'), column('filament', 'filament'), column('contact', 'contact'),
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
        places = document['positions'].to_h { |p| [p['id'], p] }
        CsvTable.new(COLUMNS).write(document['loads'].map do |l|
          p = places[l['position_id']]
          of_lamp = p ? { 'lamp' => p, 'position' => p['place'], 'count' => p['count'], 'base' => p.dig('holder', 'base') } : {}
          { **l, **of_lamp, 'figure' => (l['figures'] || []).first || {} }
        end)
      end

      # @param text [String]
      # @param document [Hash] the job it goes into
      # @return [Hash] rows (line, name, change, errors) and edits for the good ones
      # @raise [CsvTable::Unreadable]
      def preview(text, document)
        taking = Taking.new(document)
        read = CsvTable.new(COLUMNS).read(text)
        CsvTable.most!(read.size, JobSchema.most('loads'), 'loads')
        rows = read.map { |r| taking.judge(r) }
        { edits: rows.flat_map { |r| r.delete(:edits).then { |e| r[:errors].empty? ? e : [] } }, rows: rows }
      end

      # A table as it comes in, row by row.
      class Taking
        def initialize(document)
          @known = document['loads'].to_h { |l| [l['id'], l] }
          @lamps = document['positions'].to_h { |p| [p['id'], p] }
          @seen = {}
        end

        # @return [Hash] line, name, change, errors, edits
        def judge(row)
          old = @known[row.values['id']]
          load = build(row.values, old)
          lamp = lamp(row.values, load)
          errors = row.errors + schema_errors(load, lamp, row.line) + twice(row)
          changes = [CsvTable.change(lamp && @lamps[lamp['id']], lamp || {}), CsvTable.change(old, load)]
          edits = [lamp && CsvTable.edit(changes.first, '/positions', lamp), CsvTable.edit(changes.last, '/loads', load)].compact
          @lamps[lamp['id']] = lamp if lamp && errors.empty?
          change = changes.last == 'same' && edits.any? ? 'replace' : changes.last
          { line: row.line, name: load['name'].to_s, change: change, errors: errors, edits: edits }
        end

        private

        def twice(row)
          id = row.values['id'] or return []
          return @seen[id] = [] unless @seen[id]

          [FieldError.new(at: "line #{row.line}", field: 'id', message: 'stands in the file twice', accepts: 'each id once')]
        end

        def build(values, old)
          load = (old || {}).merge(values.except('figure', 'lamp'))
          load['id'] ||= SecureRandom.alphanumeric(10)
          load['group'] ||= 'lamp'
          if lamp?(load)
            load = load.except('position', 'count',
              'base').merge('position_id' => values.dig('lamp', 'id') || load['position_id'] || load['id'])
          end
          figure = values['figure']
          return load unless figure && (figure['amps'] || figure['watts'])

          first = (old && old['figures']&.first) || { 'id' => SecureRandom.alphanumeric(8) }
          load.merge('figures' => [first.slice('id', 'note').merge({ 'origin' => 'maker' }, figure),
            *((old && old['figures']) || []).drop(1)])
        end

        def lamp?(load) = load['group'] == 'lamp' && !load['wanted']

        def lamp(values, load)
          id = load['position_id'] or return nil
          was = @lamps[id] || { 'id' => id, 'name' => load['name'] }
          said = { **(values['lamp'] || {}).except('id'), 'place' => values['position'], 'count' => values['count'] }.compact
          base = values['base'] ? { 'holder' => (was['holder'] || {}).merge('base' => values['base']) } : {}
          was.merge(said, base)
        end

        def schema_errors(load, lamp, line)
          errors = JobSchema.row_errors('loads', load) + (lamp ? JobSchema.row_errors('positions', lamp) : [])
          errors.map { |e| FieldError.new(at: "line #{line}", field: e.field, message: e.message, accepts: e.accepts) }
        end
      end
      private_constant :Taking
    end
  end
end
