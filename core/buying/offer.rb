# frozen_string_literal: true

module Miser
  module Buying
    # A price that somebody asks for an article. Where nobody is named, it is what the shop says it costs.
    # @!attribute supplier_id [String, nil] @!attribute article [String, nil] the supplier's number
    # @!attribute part_id [String, nil] of the shelf @!attribute pack [Integer] pieces @!attribute cents [Integer] of a pack
    # @!attribute lead_days [Integer, nil] nil where nobody says @!attribute category [String, nil] that a discount may be on
    Offer = Struct.new(:supplier_id, :article, :part_id, :name, :pack, :cents, :lead_days, :category, keyword_init: true) do
      # @param days [Integer, nil] nil: whenever
      # @return [Boolean] whether it is surely here by then; who says nothing of it may be late
      def here_in?(days) = days.nil? || (!lead_days.nil? && lead_days <= days)

      # @param pieces [Integer] @return [Integer]
      def packs(pieces) = -(-pieces).div(pack)

      # @return [Rational] cents of a piece
      def each = Rational(cents, pack)
    end
  end
end
