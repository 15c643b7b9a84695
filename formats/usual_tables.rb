# frozen_string_literal: true

require 'json'
require_relative '../core/parts/catalogue'

module Miser
  module Formats
    # Prices and minutes as the shop finds them usual, from a table that it may replace.
    module UsualTables
      PATH = File.expand_path('../tables/usual.json', __dir__)

      # @param path [String]
      # @return [Parts::Catalogue]
      def self.catalogue(path = PATH)
        data = JSON.parse(File.read(path))
        Parts::Catalogue.new(cents: data.fetch('cents'), minutes: data.fetch('minutes'))
      end
    end
  end
end
