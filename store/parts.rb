# frozen_string_literal: true

require 'json'

module Miser
  module Store
    # The shop's shelf of parts.
    class Parts
      # @param database [Sequel::Database]
      def initialize(database)
        @db = database
      end

      # @return [Array<Hash>] part documents, by name
      def all = @db[:parts].order(:name).select_map(:body).map { |b| JSON.parse(b) }

      # @param part [Hash] with its id and name
      def put(part) = @db[:parts].insert_conflict(:replace).insert(id: part['id'], name: part['name'], body: JSON.generate(part))

      def clear = @db[:parts].delete
    end
  end
end
