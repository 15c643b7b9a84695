# frozen_string_literal: true

require_relative '../draw/claim'

module Miser
  module Feeds
    # Blade fuses: the ratings there are, and how fast one opens. ISO 8820-3, from memory.
    module Blade
      # A.
      RATINGS = [1.0, 2.0, 3.0, 4.0, 5.0, 7.5, 10.0, 15.0, 20.0, 25.0, 30.0, 35.0, 40.0].freeze
      # What it may carry for good, of its rating.
      LOADED = Draw::Claim::FUSE_LOAD
      # Times its rating => seconds, at the soonest and at the latest.
      BAND = [[1.35, 0.75, 600.0], [2.0, 0.15, 5.0], [3.5, 0.04, 0.5]].freeze
      # Times its rating that it carries for a hundred hours.
      HOLDS = 1.1

      # @!attribute soonest, latest [Float, nil] s; nil: it need not open
      Opening = Struct.new(:times, :soonest, :latest, keyword_init: true) do
        # @return [Boolean] whether it is sure to
        def opens? = !latest.nil?

        # @return [String]
        def words
          said = format('%.1f times its rating: ', times)
          return "#{said}it holds." if soonest.nil?
          return "#{said}it may hold, it may open." unless opens?
          return "#{said}opens at once, in under #{number(latest)}." if times >= Blade::BAND.last[0]

          "#{said}opens in #{number(soonest)} to #{number(latest)}."
        end

        private

        def number(seconds) = seconds >= 10 ? "#{seconds.round} s" : format('%.2g s', seconds)
      end

      module_function

      # @param amps [Float] that flow for good
      # @return [Float, nil] A, the smallest that carries it; nil over the largest
      def for(amps) = RATINGS.find { |rating| rating * LOADED >= amps - 1e-9 }

      # @param limit [Float] A that the wire carries
      # @return [Float, nil] the largest not over it
      def at_most(limit) = RATINGS.select { |rating| rating <= limit + 1e-9 }.last

      # @param amps [Float] @param rating [Float] A, above 0
      # @return [Opening]
      def opening(amps, rating)
        times = amps / rating
        return Opening.new(times: times) if times <= HOLDS
        return Opening.new(times: times, soonest: BAND[0][1]) if times < BAND[0][0]

        Opening.new(times: times, soonest: between(times, 1), latest: between(times, 2))
      end

      # Straight lines on logarithmic paper, as the curves are drawn.
      def between(times, column)
        low, high = BAND.each_cons(2).find { |_, b| times <= b[0] } || (return BAND.last[column])
        share = Math.log(times / low[0]) / Math.log(high[0] / low[0])
        low[column] * ((high[column] / low[column])**share)
      end
      private_class_method :between
    end
  end
end
