# frozen_string_literal: true

require_relative 'job_schema'
require_relative 'quantity'

module Miser
  module Formats
    # Turns what was typed into a field into the number the document holds.
    module TypedEdits
      module_function

      # @param edits [Array<Hash>] as in Job::Edit; values of number fields may be text
      # @return [Array(Array<Hash>, Array<FieldError>)] edits understood, and errors
      def read(edits)
        errors = []
        understood = edits.filter_map do |edit|
          edit['op'] == 'set' ? one(edit, errors) : edit
        end
        [understood, errors]
      end

      def one(edit, errors)
        schema = JobSchema.field(edit['at'])
        return edit unless schema && %w[number integer].include?(schema['type']) && edit['value'].is_a?(String)
        return edit.merge('value' => nil) if edit['value'].strip.empty?

        edit.merge('value' => number(edit['value'], schema))
      rescue Quantity::Invalid => e
        errors << FieldError.new(at: edit['at'], field: schema['title'] || edit['at'].split('/').last, message: e.message,
          accepts: "#{JobSchema.accepts(schema)}, as #{e.accepts}")
        nil
      end

      # Typed figures keep what was typed, not the binary fraction next to it.
      def number(text, schema)
        value = Quantity.parse(text, schema['unit']).round(9)
        value == value.to_i ? value.to_i : value
      end
    end
  end
end
