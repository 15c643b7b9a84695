# frozen_string_literal: true

require 'date'

module Miser
  module Book
    # Days as they are written, 2026-01-31, and so many later. What day it is now, the core does not know: it is told.
    module Days
      # Days of what an instant or a day begins with.
      WRITTEN = /\A\d{4}-\d\d-\d\d/

      module_function

      # @param day [String, nil] year-month-day, or an instant of it
      # @return [Integer, nil] days since an early one; nil for what is in no calendar
      def number(day)
        text = day.to_s[WRITTEN]
        text && Date.iso8601(text).jd
      rescue Date::Error
        nil
      end

      # @param day [String] @param count [Numeric] @return [String, nil] the day so many later
      def after(day, count) = number(day)&.then { |n| Date.jd(n + count.round).iso8601 }

      # @param from [String] @param to [String] @return [Integer, nil] whole days between
      def between(from, to)
        one, other = [from, to].map { |day| number(day) }
        one && other && (other - one)
      end
    end
  end
end
