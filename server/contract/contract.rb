# frozen_string_literal: true

require 'json'
require 'yaml'
require 'json_schemer'
require_relative '../../formats/job_schema'

module Miser
  module Server
    # The OpenAPI document, with the job file's schema folded into its components.
    module Contract
      SOURCE = File.expand_path('contract.yaml', __dir__)
      PUBLISHED = File.expand_path('openapi.json', __dir__)

      module_function

      # @return [Hash] OpenAPI 3.1
      def document
        @document ||= YAML.safe_load_file(SOURCE, aliases: true).tap { |doc| doc['components']['schemas'].merge!(job_schemas) }
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

      # @param pointer [String] into the document
      # @return [JSONSchemer::Schema]
      def checker(pointer)
        @openapi ||= JSONSchemer.openapi(document)
        (@checkers ||= {})[pointer] ||= @openapi.ref(pointer)
      end

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
