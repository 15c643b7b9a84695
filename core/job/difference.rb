# frozen_string_literal: true

module Miser
  module Job
    # What makes one document of another, as small as it is: values set, values gone, rows
    # of a list in another order. Rows are told apart by their ids.
    module Difference
      module_function

      # @param old [Hash] @param new [Hash]
      # @return [Array<Hash>] at with value, with gone (true), or with order (ids)
      def between(old, new, at = '')
        keys = old.keys | new.keys
        keys.flat_map do |key|
          place = "#{at}/#{escape(key)}"
          # A null that was not there before is news too.
          next [{ 'at' => place, 'value' => new[key] }] unless old.key?(key)

          of(old[key], new[key], place, there: new.key?(key))
        end
      end

      # @return [Array<String>] top parts of the document that differ
      def parts(old, new) = (old.keys | new.keys).reject { |key| old[key] == new[key] }

      def of(old, new, at, there: true)
        return [{ 'at' => at, 'gone' => true }] unless there
        return [] if old == new
        return between(old, new, at) if old.is_a?(Hash) && new.is_a?(Hash)
        return rows(old, new, at) if [old, new].all? { |list| rows?(list) }

        [{ 'at' => at, 'value' => new }]
      end

      def rows?(list) = list.is_a?(Array) && list.all? { |row| row.is_a?(Hash) && row['id'].is_a?(String) }

      def rows(old, new, at)
        was = old.to_h { |r| [r['id'], r] }
        is = new.to_h { |r| [r['id'], r] }
        gone = (was.keys - is.keys).map { |id| { 'at' => "#{at}/#{escape(id)}", 'gone' => true } }
        changed = is.flat_map do |id, row|
          place = "#{at}/#{escape(id)}"
          was[id] ? of(was[id], row, place) : [{ 'at' => place, 'value' => row }]
        end
        stays = was.keys.select { |id| is.key?(id) } + (is.keys - was.keys)
        stays == is.keys ? gone + changed : [*gone, *changed, { 'at' => at, 'order' => is.keys }]
      end

      def escape(step) = step.gsub('~', '~0').gsub('/', '~1')
    end
  end
end
