# frozen_string_literal: true

require 'json'
require 'json_schemer'
require_relative '../core/assumptions'
require_relative '../core/job/template'
require_relative 'field_error'
require_relative 'strict_json'

module Miser
  module Formats
    # The published schema of job files: validation in words, and a look-up of
    # what a field is by its place.
    module JobSchema
      # Its parts: what every job has, and what each stage adds.
      PARTS = Dir[File.expand_path('schema/*.json', __dir__)].freeze
      PUBLISHED = File.expand_path('published/job-2.schema.json', __dir__)

      # Settings are what the core says they are.
      # @return [Hash] properties of assumptions
      def self.settings
        numbers = Assumptions::TABLE.to_h do |s|
          [s.key,
            { 'title' => s.label, 'type' => 'number', 'minimum' => s.min, 'maximum' => s.max,
              'unit' => s.unit }]
        end
        numbers.merge('voltage_school' => { 'title' => 'Voltage for amps', 'enum' => Assumptions::VOLTAGE_SCHOOLS.keys })
      end

      # @raise [KeyError] where two parts claim one name
      def self.fold(parts)
        parts.sort_by { |part| part.key?('$schema') ? 0 : 1 }.reduce do |whole, part|
          whole.merge(part) do |_, one, other|
            twice = one.keys & other.keys
            raise KeyError, "#{twice.join(', ')} in two parts of the schema" if twice.any?

            one.merge(other)
          end
        end
      end
      private_class_method :fold

      DOCUMENT = fold(PARTS.map { |path| JSON.parse(File.read(path)) })
                 .tap { |whole| whole['properties']['assumptions']['properties'] = settings }.freeze

      # Its references followed, which is else done by the first to check something, and threads then get in one another's way.
      # @return [JSONSchemer::Schema]
      def self.resolved(schema)
        seen = {}.compare_by_identity
        left = [schema]
        while (node = left.shift)
          next if seen[node]

          seen[node] = true
          left.concat(inside(node))
        end
        schema
      end

      def self.inside(node)
        case node
        when Hash then node.values
        when Array then node
        when JSONSchemer::Schema, JSONSchemer::Keyword
          # The words a mistake is named with are found on the way as well.
          node.absolute_keyword_location
          node.schema_pointer
          [node.parsed, *(node.ref_schema if node.respond_to?(:ref_schema))]
        else []
        end
      end
      private_class_method :inside

      CHECKER = resolved(JSONSchemer.schema(DOCUMENT, regexp_resolver: 'ecma'))
      MOST_ERRORS = 50
      # What is not known of a document, and kept for a newer Miser: so much of it.
      MOST_UNKNOWN = 200
      MOST_UNKNOWN_BYTES = 10_000
      # Schemas of older files, as they were published: a file is held against its own before it is brought forward.
      OLDER = (1...Job::Template::VERSION).to_h do |version|
        [version, resolved(JSONSchemer.schema(JSON.parse(File.read(File.expand_path("published/job-#{version}.schema.json", __dir__))),
          regexp_resolver: 'ecma'))]
      end.freeze
      # For one row of a list alone.
      ROWS = %w[loads positions readings choices].to_h { |list| [list, CHECKER.ref("#/properties/#{list}/items")] }.freeze

      module_function

      # @return [String] what the published file should hold
      def published_text = "#{JSON.pretty_generate(DOCUMENT)}\n"

      def publish = File.write(PUBLISHED, published_text)

      # @param document [Object] a parsed job file
      # @param checker [JSONSchemer::Schema] of its version
      # @return [Array<FieldError>] none where it is valid
      def errors(document, checker = CHECKER)
        found = checker.validate(document).lazy.map { |e| field_error(e, document) }.first(MOST_ERRORS).uniq
        found.empty? && checker.equal?(CHECKER) ? unbounded(document) : found
      end

      # Errors of a row by itself, under the name of the list it goes into.
      # @param list [String] of ROWS
      # @return [Array<FieldError>]
      def row_errors(list, row)
        errors = ROWS.fetch(list).validate(row).first(MOST_ERRORS)
        errors.map { |e| field_error(e.merge('data_pointer' => "/#{list}/0#{e['data_pointer']}"), { list => [row] }) }.uniq
      end

      # @param list [String] @return [Integer] rows that a job may have of it
      def most(list) = DOCUMENT.dig('properties', list, 'maxItems')

      # Errors an edit brought in. Rows that stand as they stood in a valid document
      # need no second look; lists still may grow too long.
      # @param document [Hash]
      # @param was [Hash] a valid document
      # @return [Array<FieldError>]
      def errors_since(document, was)
        return errors(document) unless document.is_a?(Hash)

        errors(document.reject { |key, value| was[key].equal?(value) && !DOCUMENT['required'].include?(key) }
                       .to_h { |key, value| [key, slim(key, value, was[key])] })
      end

      # Rows of a list that did not stand there alike, also of the lists of a part; what is no such list, whole.
      def slim(key, value, was, schema = DOCUMENT['properties'][key])
        schema = resolve(schema || {})
        inner = schema['properties']
        return value.to_h { |k, v| [k, slim(k, v, was[k], inner[k])] } if inner && [value, was].all?(Hash)

        most = schema['maxItems']
        return value unless most && key != 'circuits' && [value, was].all?(Array) && value.size <= most
        return [] if value.equal?(was)

        old = was.to_h { |row| [row['id'], row] }
        value.reject { |row| row.is_a?(Hash) && old[row['id']] == row }
      end

      # Fields the schema does not know: kept, and said aloud.
      # @return [Array<String>] pointers
      def unknown_fields(document) = unknown(document).map(&:first)

      # @return [Array<Array(String, Object)>] pointer and what stands there
      def unknown(node, schema = DOCUMENT, at = '')
        schema = resolve(schema)
        case node
        when Hash
          known = schema['properties'] or return []
          node.flat_map do |k, v|
            if known[k]
              unknown(v, known[k], "#{at}/#{k}")
            else
              (schema.key?('additionalProperties') ? [] : [["#{at}/#{k}", v]])
            end
          end
        when Array
          schema['items'] ? node.each_with_index.flat_map { |v, i| unknown(v, schema['items'], "#{at}/#{row_name(v, i)}") } : []
        else []
        end
      end

      # Unknown fields that are more than a newer Miser would add.
      # @return [Array<FieldError>]
      def unbounded(document)
        list = unknown(document)
        large = list.select { |at, value| !StrictJson.shallow?(value, StrictJson::NESTING - at.count('/')) || JSON.generate(value).bytesize > MOST_UNKNOWN_BYTES }
        large = [['/', nil]] if large.empty? && list.size > MOST_UNKNOWN
        large.first(MOST_ERRORS).map do |at, _|
          FieldError.new(at: at, field: at.split('/').last || 'file', message: 'is unknown and too large to be kept',
            accepts: format('unknown fields of %d kB each, %d levels deep, %d in all', MOST_UNKNOWN_BYTES / 1000, StrictJson::NESTING, MOST_UNKNOWN))
        end
      end

      # What stands at a place: title, unit, type and bounds.
      # @param at [String] /loads/l7/rated_w
      # @return [Hash, nil]
      def field(at)
        at.split('/').drop(1).reduce(resolve(DOCUMENT)) do |schema, step|
          inner = schema['items'] || schema.dig('properties', step) || schema['additionalProperties']
          return nil unless inner.is_a?(Hash)

          resolve(inner)
        end
      end

      # @return [Hash] the schema with its $ref followed; titles beside the $ref win
      def resolve(schema)
        return schema unless schema['$ref']

        DOCUMENT.dig(*schema['$ref'].delete_prefix('#/').split('/')).merge(schema.except('$ref'))
      end

      # What a field takes, in words.
      # @param schema [Hash]
      # @return [String]
      def accepts(schema)
        return schema['enum'].join(', ') if schema['enum']

        low = schema['minimum'] || schema['exclusiveMinimum']
        if low && schema['maximum']
          unit = schema['unit'].to_s == '1' ? '' : " #{schema['unit']}"
          return format('%<above>s%<low>g to %<high>g%<unit>s', above: schema.key?('exclusiveMinimum') ? 'above ' : '', low: low,
            high: schema['maximum'],
            unit: unit)
        end
        return "a row list of at most #{schema['maxItems']}" if schema['maxItems']
        return "text of #{schema['minLength'].to_i} to #{schema['maxLength']} characters" if schema['maxLength']

        schema['description'] || { 'boolean' => 'yes or no' }.fetch(Array(schema['type']).first,
          "a value of kind #{Array(schema['type']).join(' or ')}")
      end

      def field_error(error, document)
        at = named(error['data_pointer'], document)
        # A field that nothing allows has no schema but “false”.
        schema = field(at) || (error['schema'].is_a?(Hash) ? error['schema'] : { 'description' => 'nothing: there is no such field' })
        if error['type'] == 'required'
          missing = error.dig('details', 'missing_keys').to_a
          at = "#{at}/#{missing.first}"
          return FieldError.new(at: at, field: missing.join(', '), message: 'is missing',
            accepts: (found = field(at)) ? accepts(found) : 'a value')
        end
        FieldError.new(at: at.empty? ? '/' : at, field: schema['title'] || at.split('/').last || 'file', message: message(error),
          accepts: accepts(schema))
      end

      def message(error)
        value = error['data']
        shown = value.is_a?(Hash) || value.is_a?(Array) ? '' : "“#{value.to_s[0, 40]}” "
        case error['type']
        when 'maximum' then "#{shown}is too large"
        when 'minimum', 'exclusiveMinimum' then "#{shown}is too small"
        when 'enum', 'const' then "#{shown}is not known"
        when 'maxLength' then 'is too long'
        when 'maxItems', 'maxProperties' then "has #{value.size} rows, too many"
        when 'schema' then 'is not known'
        when 'minLength', 'minItems' then 'is empty'
        when 'pattern' then "#{shown}has characters that are not taken"
        else "#{shown}is of the wrong kind"
        end
      end

      # /loads/3/name with the row's id in place of its number.
      def named(pointer, document)
        node = document
        pointer.split('/').drop(1).map do |step|
          node = node.is_a?(Array) ? node[step.to_i] : (node || {})[step]
          step.match?(/\A\d+\z/) ? row_name(node, step) : step
        end.then { |steps| steps.empty? ? '' : "/#{steps.join('/')}" }
      end

      def row_name(row, index) = row.is_a?(Hash) && row['id'].is_a?(String) ? row['id'] : index.to_s
    end
  end
end

Miser::Formats::JobSchema.publish if $PROGRAM_NAME == __FILE__
