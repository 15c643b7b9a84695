# frozen_string_literal: true

require_relative 'present/ticket'

module Miser
  module Server
    # What each stage's screen is given. A stage's folder declares its view here, and may
    # register routes of its own; nothing else knows it by name.
    module StageViews
      # What is looked at. @!attribute scenario [Budget::Scenario, nil] @!attribute circuit [String] id
      Look = Struct.new(:scenario, :circuit, :params, keyword_init: true)

      REGISTRY = {} # rubocop:disable Style/MutableConstant -- filled by the stages' folders as they load
      SIGNS = {} # rubocop:disable Style/MutableConstant -- alike
      ROUTES = [] # rubocop:disable Style/MutableConstant -- alike

      module_function

      # @param stage [String] key
      # @yieldparam ticket [Ticket] @yieldparam look [Look] @yieldreturn [Hash] as its contract has it
      def declare(stage, &view) = REGISTRY[stage] = view

      # What an act keeps beside the document.
      # @param act [String] @yieldparam app, document [Hash] @yieldreturn [Array(Hash, Array<Store::Attachments::Kept>)]
      def signs(act, &files) = SIGNS[act] = files

      # @return [Array(Hash, Array)] the document and the files that go with it
      def signed(act, app, document) = SIGNS.key?(act) ? SIGNS[act].call(app, document) : [document, []]

      # @param routes [Module] with self.registered(app)
      def routes(routes) = ROUTES << routes

      # @return [Hash, nil] nil where there is no such stage
      def of(stage, ticket, params)
        view = REGISTRY[stage] or return nil
        scenario, circuit = Present.look(ticket.budget, params['scenario'], params['circuit'])
        view.call(ticket, Look.new(scenario: scenario, circuit: circuit, params: params))
      end
    end
  end
end

Dir[File.expand_path('stages/*/*.rb', __dir__)].each { |file| require file }
