# frozen_string_literal: true

require 'securerandom'
require_relative 'csv_table'

module Miser
  module Formats
    # The shelf as a table: one row a function; the first row of a part says what it is, further ones of the
    # same id, or of the same name without one, what it does besides.
    module ShelfCsv
      PART = '/choices/x/part'
      FUNCTION = "#{PART}/functions/x".freeze
      FIGURE = "#{FUNCTION}/figures/x".freeze

      def self.column(header, key, place) = CsvTable::Column.new(header: header, at: key.split('/'), place: place)
      def self.of_part(header, key) = column(header, key, "#{PART}/#{key}")
      def self.of_function(header, key) = column(header, "function/#{key}", "#{FUNCTION}/#{key}")
      private_class_method :column, :of_part, :of_function

      # What a headlight part is measured for.
      FIT = %w[size fin_m tab_m behind_m before_m body_m driver_m lead_m connector polarity weight_kg emitter_m clock_deg collar_turns
        plane_m mark_up heated_lens sealed marks direct_from direct_to ring_from ring_to harness_from harness_to].freeze

      # What a hub or a controller stands.
      BOX = { 'box' => 'box', 'in all' => 'total_a', 'always hot' => 'hot_a', 'switched' => 'switched_a', 'each lamp' => 'lamp_a',
              'fuse' => 'fuse_a',
              'awake' => 'quiescent_a', 'asleep' => 'key_off_a', 'lead colours' => 'lead_colours' }.freeze

      COLUMNS = [
        column('id', 'id', '/choices/x/id'), of_part('name', 'name'), of_part('kind', 'kind'), of_part('base', 'base'),
        of_part('supply', 'supply'), of_function('does', 'does'), of_function('colour', 'colour'), of_function('law', 'law'),
        column('amps', 'function/figure/amps', "#{FIGURE}/amps"), column('watts', 'function/figure/watts', "#{FIGURE}/watts"),
        column('at volts', 'function/figure/volts', "#{FIGURE}/volts"), column('origin', 'function/figure/origin', "#{FIGURE}/origin"),
        of_function('share', 'share'), of_function('works from', 'min_v'), of_function('stands up to', 'max_v'),
        of_function('forward', 'forward_v'), of_function('lumens', 'lumens'), of_function('stays on', 'stays_on'),
        of_function('gives way', 'gives_way'), of_part('price', 'price_cents'), of_part('minutes', 'minutes'), of_part('pack', 'pack'),
        of_part('warranty', 'warranty_months'), of_part('note', 'note'),
        of_part('category', 'category'), of_part('bought for', 'use'), of_part('of size', 'use_size'), of_part('glued on', 'adhesive'),
        of_part('warranty for life', 'warranty_lifetime'),
        *BOX.map { |header, key| of_part(header, key) },
        *FIT.map { |key| of_part(key.sub(/_(?:m|kg|deg)\z/, '').tr('_', ' '), key) }
      ].freeze

      # Parts that a shelf holds.
      MOST_PARTS = 2000

      module_function

      # @param parts [Array<Hash>] @return [String]
      def write(parts)
        rows = parts.flat_map do |part|
          functions = part['functions'] || []
          functions = [{}] if functions.empty?
          functions.each_with_index.map do |f, i|
            function = f.merge('figure' => (f['figures'] || []).first || {})
            i.zero? ? part.merge('function' => function) : part.slice('id', 'name').merge('function' => function)
          end
        end
        CsvTable.new(COLUMNS).write(rows)
      end

      # @param text [String] @param parts [Array<Hash>] the shelf
      # @return [Hash] rows (line, name, change, errors) and parts, the good ones
      # @raise [CsvTable::Unreadable]
      def preview(text, parts)
        known = parts.to_h { |p| [p['id'], p] }
        groups = CsvTable.new(COLUMNS).read(text).group_by { |r| r.values['id'] || r.values['name'] || "line #{r.line}" }
        CsvTable.most!(groups.size, MOST_PARTS, 'parts')
        judged = groups.values.map { |rows| judge(rows, known) }
        { rows: judged.flat_map { |j| j[:rows] }.sort_by { |r| r[:line] }, parts: judged.filter_map { |j| j[:part] } }
      end

      def judge(rows, known)
        part = build(rows, known)
        old = known[part['id']]
        errors = rows.to_h { |r| [r, r.errors.dup] }
        errors[rows.first].concat(problems(part, rows.first.line))
        change = CsvTable.change(old, part)
        good = errors.values.all?(&:empty?)
        { part: good && change != 'same' ? part : nil,
          rows: rows.map { |r| { line: r.line, name: part['name'].to_s, change: change, errors: errors[r] } } }
      end

      def build(rows, known)
        id = rows.first.values['id'] || SecureRandom.alphanumeric(12)
        old = known[id] || {}
        said = rows.map { |r| r.values.except('function', 'id') }.reduce { |first, more| more.merge(first) }
        functions = rows.filter_map do |r|
          r.values['function']
        end.each_with_index.map { |f, i| function(f, (old['functions'] || [])[i] || {}) }
        whole = { 'id' => id }.merge(old, said)
        functions.empty? ? whole : whole.merge('functions' => functions)
      end

      def function(said, old)
        whole = { 'id' => old['id'] || SecureRandom.alphanumeric(8) }.merge(old, said.except('figure'))
        figure = said['figure'] or return whole
        first = (old['figures'] || []).first || { 'id' => SecureRandom.alphanumeric(8), 'origin' => 'maker' }
        whole.merge('figures' => [first.merge(figure), *(old['figures'] || []).drop(1)])
      end

      # @return [Array<FieldError>]
      def problems(part, line)
        errors_of(part).map { |e| FieldError.new(at: "line #{line}", field: e.field, message: e.message, accepts: e.accepts) }
      end

      # A part of the shelf held against the schema of a job's parts.
      # @return [Array<FieldError>]
      def errors_of(part)
        choice = { 'id' => part['id'] || 'p', 'position_id' => 'p', 'action' => 'try', 'part' => part.except('id') }
        JobSchema.row_errors('choices', choice)
      end
    end
  end
end
