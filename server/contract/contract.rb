# frozen_string_literal: true

require 'json'
require 'yaml'
require 'json_schemer'
require_relative '../../core/miser'
require_relative '../../formats/job_schema'
require_relative '../people/roles'

module Miser
  module Server
    # The OpenAPI document, folded from the parts in this folder: one of what all stages
    # share, one a stage; with the job file's schema and the acts that stages declare.
    module Contract
      PARTS = Dir[File.expand_path('*.yaml', __dir__)].freeze
      # Answers of who guards the application: nobody is known, they may not, they do it too often.
      GUARDED = %w[401 403 429].freeze
      PUBLISHED = File.expand_path('openapi.json', __dir__)

      module_function

      # @return [Hash] OpenAPI 3.1
      def document = @document ||= read

      def read
        PARTS.map { |path| YAML.safe_load_file(path, aliases: true) }.reduce { |whole, part| fold(whole, part) }.tap do |whole|
          schemas = whole['components']['schemas'].merge!(job_schemas)
          schemas['Act']['properties']['act']['enum'] += Stage.all.flat_map(&:acts)
          whole['paths'].each { |path, item| guarded(path, item) }
        end
      end
      private_class_method :read

      # On the shop's network any request may be asked who it is from.
      def guarded(path, item)
        item.slice('get', 'post', 'patch', 'delete').each do |verb, operation|
          next unless Roles.wanted(verb.upcase, path)

          noes = GUARDED - (verb == 'get' ? ['429'] : [])
          noes += %w[400 422] if operation['requestBody']
          operation['responses'] = noes.to_h do |status|
            [status, { '$ref' => '#/components/responses/Refused' }]
          end.merge(operation['responses'])
        end
      end
      private_class_method :guarded

      # @raise [KeyError] where two parts claim one name
      def fold(whole, part, at = '')
        whole.merge(part) do |key, one, other|
          folds = [one, other].all?(Hash) && ['', '/components'].include?(at)
          raise KeyError, "#{at}/#{key} stands in two parts of the contract" unless folds

          fold(one, other, "#{at}/#{key}")
        end
      end

      # The job schema's definitions as components, their references turned to match.
      def job_schemas
        whole = Formats::JobSchema::DOCUMENT
        definitions = whole['$defs'].to_h { |name, schema| ["job_#{name}", rename(schema)] }
        definitions.merge('job' => rename(whole.except('$schema', '$id', '$defs')))
      end

      def rename(node)
        case node
        when Hash then node.to_h { |k, v| [k, k == '$ref' ? v.sub('#/$defs/', '#/components/schemas/job_') : rename(v)] }
        when Array then node.map { |v| rename(v) }
        else node
        end
      end

      LOCK = Mutex.new

      # @param pointer [String] into the document
      # @return [JSONSchemer::Schema]
      def checker(pointer) = @checkers&.fetch(pointer, nil) || LOCK.synchronize { add(pointer) }

      # Makes the checkers of all requests, before the first comes.
      # @return [void]
      def ready
        document['paths'].each do |path, item|
          item.each do |verb, operation|
            next unless operation.is_a?(Hash) && operation.dig('requestBody', 'content', 'application/json')

            checker(request_pointer(verb, path))
          end
        end
      end

      # Other threads see the table whole, as it was or as it is.
      def add(pointer)
        @openapi ||= JSONSchemer.openapi(document, regexp_resolver: 'ecma')
        found = @checkers&.fetch(pointer, nil) || Formats::JobSchema.resolved(@openapi.ref(pointer))
        @checkers = { **(@checkers || {}), pointer => found }
        found
      end
      private_class_method :add

      # @param verb [String] @param path [String] as in the contract
      # @return [String] pointer to a request's schema
      def request_pointer(verb, path) = "#/paths/#{escape(path)}/#{verb}/requestBody/content/application~1json/schema"

      def escape(path) = path.gsub('~', '~0').gsub('/', '~1').gsub('{', '%7B').gsub('}', '%7D')

      # @return [String] what the published file should hold
      def published_text = "#{JSON.pretty_generate(document)}\n"

      def publish = File.write(PUBLISHED, published_text)
    end
  end
end

Miser::Server::Contract.publish if $PROGRAM_NAME == __FILE__
