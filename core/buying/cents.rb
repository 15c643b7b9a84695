# frozen_string_literal: true

module Miser
  module Buying
    # Money, in whole hundredths of the shop's currency. What is a share of it is rounded once, half up.
    module Cents
      module_function

      # @param cents [Integer] @param percent [Numeric, nil]
      # @return [Integer]
      def share(cents, percent)
        return 0 unless percent

        (cents * Rational(percent.to_s) / 100).round(half: :up)
      end

      # @param minutes [Numeric] @param rate_cents [Integer] for an hour
      # @return [Integer]
      def work(minutes, rate_cents) = (Rational(minutes.to_s) * rate_cents.to_i / 60).round(half: :up)

      # @param cents [Integer, nil] @return [String] as it is printed; a question where it is not known
      def words(cents)
        if cents
          format('%<sign>s%<whole>d.%<rest>02d', sign: cents.negative? ? '-' : '', whole: cents.abs / 100,
            rest: cents.abs % 100)
        else
          '?'
        end
      end
    end
  end
end
