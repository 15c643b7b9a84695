# frozen_string_literal: true

require 'json'
require_relative '../core/card/access'

module Miser
  module Formats
    # The ways machines are opened, from the table that ships and what the shop wrote over or beside it.
    module AccessTables
      PATH = File.expand_path('../tables/access.json', __dir__)

      module_function

      # @return [Array<Hash>] as shipped
      def shipped = @shipped ||= JSON.parse(File.read(PATH)).fetch('templates')

      # @param own [Array<Hash>] the shop's: one of a shipped key stands in its place, others come first
      # @return [Array<Hash>]
      def rows(own = [])
        own = own.to_h { |row| [row['key'], row] }
        added = own.reject { |key, _| shipped.any? { |row| row['key'] == key } }.values
        added + shipped.map { |row| own.fetch(row['key'], row) }
      end

      # @return [Card::Access]
      def access(own = []) = own.empty? ? (@access ||= Card::Access.new(rows)) : Card::Access.new(rows(own))
    end
  end
end
