# frozen_string_literal: true

require_relative '../job/pairs'
require_relative 'template'

module Miser
  module Card
    # The ways a shop opens machines: those that everybody has, its own, and its own words for either.
    class Access
      # Not opened at all.
      NONE_KEY = 'none'

      # @return [Array<Template>]
      attr_reader :templates

      # @param rows [Array<Hash>] of templates
      def initialize(rows)
        @templates = rows.map { |row| Template.new(row) }
      end

      # @return [Template, nil]
      def named(key) = templates.find { |t| t.key == key }

      # @param what [String] of Template::OPENS @param document [Job::Document]
      # @return [Template, nil] the first that is usual there
      def usual(what, document) = templates.find { |t| t.usual?(what, document.machine['kind'], document.system) }

      EMPTY = new([])
    end
  end
end
