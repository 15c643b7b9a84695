# frozen_string_literal: true

require 'date'
require 'icalendar'

module Miser
  module Formats
    # What falls due as a calendar (RFC 5545): an entry a look, for the whole day, known by the same mark each time it is read. Whose the
    # machine is stays out of it.
    class Calendar
      PRODUCT = '-//Miser//Rechecks//EN'
      # How often a calendar that follows it may ask again.
      REFRESH = 'PT1H'

      # @param rows [Array<Hash>] job_id, id, due_on, what, why, machine, revision; those without a day are left out
      # @param shop [String] the shop's mark @param name [String, nil] what the calendar is called by
      # @param now [Time]
      def initialize(rows, shop:, now:, name: nil)
        @rows = rows
        @shop = shop
        @name = name
        @now = now
      end

      # @return [String] text/calendar
      def to_s
        calendar = Icalendar::Calendar.new
        calendar.prodid = PRODUCT
        calendar.append_custom_property('X-WR-CALNAME', [@name, 'rechecks'].compact.reject(&:empty?).join(', '))
        calendar.append_custom_property('REFRESH-INTERVAL;VALUE=DURATION', REFRESH)
        @rows.each { |row| day(row[:due_on])&.then { |date| calendar.add_event(event(row, date)) } }
        calendar.publish
        calendar.to_ical
      end

      private

      def day(text)
        text && Date.iso8601(text)
      rescue Date::Error
        nil
      end

      def event(row, date)
        Icalendar::Event.new.tap do |e|
          e.uid = "#{row[:job_id]}.#{row[:id]}@#{@shop}.miser"
          e.dtstamp = Icalendar::Values::DateTime.new(@now.utc, 'tzid' => 'UTC')
          e.dtstart = Icalendar::Values::Date.new(date)
          e.dtend = Icalendar::Values::Date.new(date + 1)
          e.sequence = row[:revision]
          e.summary = "#{row[:machine]}: #{row[:what]}"
          e.description = row[:why]
          e.transp = 'TRANSPARENT'
        end
      end
    end
  end
end
