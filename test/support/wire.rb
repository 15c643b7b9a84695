# frozen_string_literal: true

require 'rack/test'
require_relative 'demo_shop'

module Miser
  # Talks to the server as a client does, and holds every answer against the contract.
  module Wire
    include Rack::Test::Methods

    Contract = Server::Contract

    def settings = app.instance_variable_get(:@instance)&.settings || app.settings

    def app
      @app ||= Server::App.on(DemoShop.in_memory).new
    end

    # Sends, and holds the answer against the contract.
    def call(verb, path, body = nil, contract: path.split('?').first, headers: {})
      send(verb, path, body && (body.is_a?(String) ? body : JSON.generate(body)),
        { 'CONTENT_TYPE' => 'application/json', 'HTTP_HOST' => '127.0.0.1:7373' }.merge(headers))
      return nil if last_response.body.empty?

      answer = JSON.parse(last_response.body)
      if contract
        contract = contract.gsub(%r{/(jobs|runs|instruments|removed|tablets|drills)/[^/]+}, '/\1/{id}').gsub(%r{/(people|invites)/\d+},
          '/\1/{id}')
        pointer = "#/paths/#{Contract.escape(contract)}/#{verb}/responses/#{last_response.status}"
        node = Contract.document.dig('paths', contract, verb.to_s, 'responses', last_response.status.to_s)
        assert node, "#{verb} #{path} answered #{last_response.status}, which the contract does not know: #{last_response.body[0, 300]}"
        pointer = node['$ref'] if node['$ref']
        errors = Contract.checker("#{pointer}/content/application~1json/schema").validate(answer).first(3).map do |e|
          [e['data_pointer'], e['type']]
        end
        assert_empty errors, "#{verb} #{path}"
      end
      whole(answer)
    end

    # A change, with the document it made beside it.
    def whole(answer)
      return answer unless answer.is_a?(Hash) && answer.key?('changes') && answer.key?('revision')

      answer.merge('document' => settings.jobs.find(last_request.path_info[%r{\A/api/jobs/([^/]+)}, 1]).document)
    end

    def job(id = 'dunlin250') = call(:get, "/api/jobs/#{id}")

    def edit(*edits, revision: job['revision'], id: 'dunlin250') = call(:patch, "/api/jobs/#{id}", { revision: revision, edits: edits })
  end
end
