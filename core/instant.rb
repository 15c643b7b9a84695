# frozen_string_literal: true

require 'date'

module Miser
  # An instant as documents write it: 2026-01-31T10:20:30Z.
  module Instant
    FORM = /\A(\d{4}-\d{2}-\d{2})T(\d{2}):(\d{2})(?::(\d{2}))?/
    DAY_S = 86_400

    module_function

    # @param text [String]
    # @return [Integer, nil] s, counted from a day long ago: two of them tell which is later, and by how much, over any new year;
    #   nil for what is in no calendar
    # @example Instant.seconds('2027-01-01T00:00:30Z') - Instant.seconds('2026-12-31T23:59:30Z') # => 60
    def seconds(text)
      day, hour, minute, second = text.to_s.match(FORM)&.captures
      day && ((Date.iso8601(day).jd * DAY_S) + (hour.to_i * 3600) + (minute.to_i * 60) + second.to_i)
    rescue Date::Error
      nil
    end
  end
end
