# frozen_string_literal: true

require_relative '../budget/options'
require_relative 'fit'

module Miser
  module Shelf
    # Parts in a lamp's place, what fits first, then what saves most: of each whether it goes in, what it
    # draws and saves, what is kept with it.
    class Offers
      # @!attribute part [Hash] @!attribute choice [String, nil] id, where it stands at the lamp already
      # @!attribute fit [Fit] @!attribute option [Budget::Options::Option]
      Offer = Struct.new(:part, :choice, :fit, :option, keyword_init: true)

      # @param budget [Budget::Budget] @param headlights [Array<Headlight::Candidates>] by lamp
      # @param lamp [Job::Lamp] @param scenario [Budget::Scenario, nil] looked at
      def initialize(budget, headlights, lamp, scenario)
        @lamp = lamp
        @options = budget.options(lamp, scenario)
        row = lamp.own_loads.first
        @feed = row ? budget.feed(budget.circuit_of(row)) : 'dc'
        @headlight = headlights.find { |h| h.lamp.id == lamp.id }
      end

      # @param parts [Array<Hash>]
      # @return [Array<Offer>]
      def ranked(parts)
        parts.map { |p| of(p) }.sort_by.with_index { |o, i| [Fit::ORDER.fetch(o.fit.verdict), saving(o) ? 0 : 1, -(saving(o) || 0), i] }
      end

      # Parts that are held against the lamp, the one fitted first.
      # @return [Array<Offer>]
      def tried = @lamp.parts.map { |c| of(c['part'], c['id']) }

      private

      def of(part, choice = nil)
        option = @options.of(part, choice)
        Offer.new(part: part, choice: choice, option: option, fit: Fit.new(@lamp, option, feed: @feed, headlight: @headlight))
      end

      # What it leaves where that is known, else what it saves lit.
      def saving(offer)
        offer.option.keeps.value || (if offer.option.functions.all? { |f| f.saving.known? }
                                       offer.option.functions.sum do |f|
                                         f.saving.value
                                       end
                                     end)
      end
    end
  end
end
