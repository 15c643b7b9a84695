# frozen_string_literal: true

require 'date'

module Miser
  module Server
    # The calendar, which the core does not have.
    module Days
      module_function

      # @param day [String] year-month-day @param today [Date]
      # @return [Integer, nil] whole days, fewer than none where it has gone by; nil for a day that is in no calendar
      def until(day, today = Date.today)
        (Date.iso8601(day) - today).to_i
      rescue Date::Error
        nil
      end

      # @param day [String] @param months [Integer]
      # @return [String, nil] the day so many months later, the last of a shorter month
      def months_after(day, months)
        (Date.iso8601(day) >> months).iso8601
      rescue Date::Error
        nil
      end

      # @param day [String, nil] @param count [Integer, nil]
      # @return [String, nil] the day so many later
      def after(day, count)
        day && count ? (Date.iso8601(day) + count).iso8601 : nil
      rescue Date::Error
        nil
      end
    end
  end
end
