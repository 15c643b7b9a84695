# frozen_string_literal: true

require_relative '../job/document'

module Miser
  module Buying
    # What is promised for a part that was bought, and what became of those that failed.
    class Warranty
      OUTCOMES = { 'repaired' => 'came back mended', 'replaced' => 'another came', 'refunded' => 'the money came back',
                   'refused' => 'refused' }.freeze

      # @param row [Hash] of the job's purchases
      # @param until_day [#call] the day so many months after a day, as both are written
      # @param days [#call] whole days from now to a day
      def initialize(row, until_day: nil, days: nil)
        @row = row
        @until_day = until_day
        @days = days
      end

      # @return [Integer, nil] from the day it came
      def months = @row['warranty_months']&.to_i

      # @return [String, nil] the last day of it; nil where it has none, or nobody knows
      def last_day = months && from && @until_day&.call(from, months)

      # @return [String] lifetime, running, over, or unknown
      def state
        return 'lifetime' if @row['warranty_lifetime']
        return 'unknown' unless (day = last_day)

        @days && @days.call(day).to_i.negative? ? 'over' : 'running'
      end

      # @return [Boolean] whether anything is known of it
      def known? = state != 'unknown' || !months.nil?

      # @return [String]
      def words
        case state
        when 'lifetime' then 'warranty for life'
        when 'running' then "warranty until #{last_day}"
        when 'over' then "warranty ended #{last_day}"
        else months ? "warranty #{months} months from the day it comes" : 'warranty not known'
        end
      end

      # @return [Array<Hash>] as the job has them
      def claims = Job::Document.rows(@row, 'claims')

      # @param claim [Hash] @return [String] where it stands
      def claim_words(claim)
        return OUTCOMES.fetch(claim['outcome']) + (claim['back_on'] ? " #{claim['back_on']}" : '') if claim['outcome']
        return "came back #{claim['back_on']}" if claim['back_on']

        claim['sent_on'] ? "sent #{claim['sent_on']}, not back" : 'not sent yet'
      end

      # @return [Boolean] whether somebody still has one of these
      def away? = claims.any? { |c| c['sent_on'] && !c['back_on'] && !c['outcome'] }

      private

      # Where nobody said when it came, from when it was ordered.
      def from = @row['received_on'] || (@row['state'] == 'ordered' ? nil : @row['ordered_on'])
    end
  end
end
