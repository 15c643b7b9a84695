# frozen_string_literal: true

require 'json'
require_relative '../core/buying/market'
require_relative '../core/parts/catalogue'

module Miser
  module Formats
    # Minutes of work as the shop finds them usual, from a table that it may replace; prices are the shelf's.
    module UsualTables
      PATH = File.expand_path('../tables/usual.json', __dir__)

      # @param path [String]
      # @param market [Buying::Market] whose prices count
      # @return [Parts::Catalogue]
      def self.catalogue(market = Buying::Market.new, path = PATH)
        cents = Parts::Catalogue::NAMES.keys.to_h { |use| [use, market.use_cents(use)] }.compact
        Parts::Catalogue.new(cents: cents, minutes: JSON.parse(File.read(path)).fetch('minutes'))
      end
    end
  end
end
