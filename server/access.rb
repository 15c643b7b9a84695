# frozen_string_literal: true

require_relative '../formats/access_tables'

module Miser
  module Server
    # The ways this shop opens machines, read again when the shop writes them anew.
    class Access
      KEY = 'access'

      # @param shop [Store::Shop]
      def initialize(shop)
        @shop = shop
      end

      # @return [Card::Access]
      def current
        own = @shop[KEY] || []
        return @current if own == @own

        @own = own
        @current = Formats::AccessTables.access(own)
      end
    end
  end
end
