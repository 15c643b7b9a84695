# frozen_string_literal: true

require_relative 'cents'

module Miser
  module Buying
    # Tax on a sum, by the shop's setting: prices have it in them, or it is put on top. Rounded once, half up.
    # @!attribute cents [Integer] @!attribute total [Integer] cents with it @!attribute added [Boolean]
    # @!attribute percent [Numeric]
    Tax = Struct.new(:cents, :total, :added, :percent, keyword_init: true) do
      # @param sum [Integer] cents, as priced @param money [Hash] see Market::MONEY
      # @return [Tax]
      def self.on(sum, money)
        percent = Rational(money['tax_percent'].to_s)
        added = money['tax'] == 'added'
        cents = added ? Cents.share(sum, percent) : (sum * percent / (100 + percent)).round(half: :up)
        new(cents: cents, total: added ? sum + cents : sum, added: added, percent: money['tax_percent'])
      end
    end
  end
end
