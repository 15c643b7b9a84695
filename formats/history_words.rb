# frozen_string_literal: true

require_relative '../core/job/difference'
require_relative 'job_schema'

module Miser
  module Formats
    # What was changed between two states of a job, for a person to read.
    module HistoryWords
      # Lines of one step; more are counted.
      MOST = 40
      LETTERS = 80
      # A row that has no name is called by what it is of.
      OF = { 'load_id' => 'loads', 'position_id' => 'positions', 'choice_id' => 'choices', 'circuit' => 'circuits' }.freeze

      module_function

      # @param old [Hash] documents @param new [Hash]
      # @return [Hash] lines (what, from, to; nil where there was or is nothing), more
      def of(old, new)
        changes = Job::Difference.between(old, new)
        { lines: changes.first(MOST).map { |change| line(change, old, new) }, more: [changes.size - MOST, 0].max }
      end

      def line(change, old, new)
        steps = change['at'].split('/').drop(1).map { |step| step.gsub('~1', '/').gsub('~0', '~') }
        return { what: [*place(steps, old, new), 'order'].join(' · '), from: nil, to: 'changed' } if change.key?('order')

        schema = JobSchema.field(change['at']) || {}
        { what: place(steps, old, new).join(' · '), from: text(dig(old, steps), schema, 'was there'),
          to: change['gone'] ? nil : text(change['value'], schema, 'added') }
      end

      # @return [Array<String>] names of what a place leads through
      def place(steps, old, new)
        at = ''
        steps.each_with_index.map do |step, i|
          at = "#{at}/#{step}"
          row = [new, old].filter_map { |document| list?(document, steps.first(i)) && dig(document, steps.first(i + 1)) }.first
          row.is_a?(Hash) ? row_name(row, new, old) : (JobSchema.field(at) || {})['title'] || step.tr('_', ' ')
        end
      end

      def list?(document, steps) = dig(document, steps).is_a?(Array)

      def row_name(row, *documents)
        own = row['name'] || row.dig('part', 'name') || row['label'] || (row['number'] && "no. #{row['number'].to_i}")
        return own if own.is_a?(String)

        OF.filter_map { |key, list| documents.filter_map { |d| dig(d, [list, row[key]]) if row[key] }.first }
          .filter_map do |other|
          other['name'] || other.dig('part',
            'name')
        end.first || row.values_at('kind', 'origin', 'key', 'function').compact.first&.to_s&.tr('_', ' ') || 'a row'
      end

      def dig(node, steps)
        steps.reduce(node) do |inner, step|
          case inner
          when Hash then inner[step]
          when Array then inner.find { |row| row.is_a?(Hash) && row['id'] == step }
          end
        end
      end

      # @param whole [String] said of what is no single value
      # @return [String, nil]
      def text(value, schema, whole)
        case value
        when nil then nil
        when true then 'yes'
        when false then 'no'
        when Numeric then [format('%<n>.6g', n: value), (schema['unit'] unless ['1', nil].include?(schema['unit']))].compact.join(' ')
        when String then (schema['enum'] ? value.tr('_', ' ') : value)[0, LETTERS]
        else whole
        end
      end
    end
  end
end
