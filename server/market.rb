# frozen_string_literal: true

require 'digest'
require 'json'
require_relative '../core/buying/market'
require_relative '../formats/usual_tables'
require_relative '../store/parts'
require_relative '../store/stock'
require_relative '../store/suppliers'

module Miser
  module Server
    # The shop's market as the core takes it, made anew where anything of it has changed.
    class Market
      # @param database [Sequel::Database] @param shop [Store::Shop]
      def initialize(database, shop)
        @parts = Store::Parts.new(database)
        @suppliers = Store::Suppliers.new(database)
        @stock = Store::Stock.new(database)
        @shop = shop
        @lock = Mutex.new
      end

      attr_reader :suppliers, :stock

      # @return [Buying::Market]
      def market = current[1]

      # @return [Parts::Catalogue] with the market's prices
      def catalogue = current[2]

      # @return [String] another whenever anything of it changes
      def version = Digest::SHA256.hexdigest(JSON.generate([@suppliers.version, @shop['money']]))[0, 16]

      # What the core makes a market of, as plain data for another process.
      # @return [Hash]
      def data
        { suppliers: @suppliers.all, parts: @parts.offered, prices: @suppliers.linked, stock: @stock.pieces, money: @shop['money'] || {},
          reorder: @stock.reorder }
      end

      private

      def current
        version = [@suppliers.version, @shop['money']]
        @lock.synchronize do
          next @current if @current && @current[0] == version

          market = Buying::Market.new(**data)
          @current = [version, market, Formats::UsualTables.catalogue(market)]
        end
      end
    end
  end
end
