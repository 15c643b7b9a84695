# frozen_string_literal: true

require_relative '../job/document'

module Miser
  module Quote
    # What was offered for a job, the latest first, and what has become of it.
    class Quotes
      # Offers side by side in one.
      MOST = 3
      STATES = { 'open' => 'waits for the owner', 'accepted' => 'accepted', 'expired' => 'no longer holds' }.freeze

      # @param document [Job::Document]
      # @param days [#call, nil] whole days from now to a day as it is written; without it nothing expires
      def initialize(document, days = nil)
        @document = document
        @days = days
      end

      # @return [Array<Hash>] as the job has them, the latest first
      def rows = @rows ||= Job::Document.rows(@document.to_h, 'quotes').reverse

      # @return [Hash, nil] of its rows
      def find(id) = rows.find { |r| r['id'] == id }

      # @return [String] of STATES
      def state(row)
        return 'accepted' if row['accepted']

        gone = @days&.call(row['made_on'])
        gone && -gone > row['valid_days'].to_i ? 'expired' : 'open'
      end

      # @return [String] what has become of it
      def words(row)
        state = state(row)
        return STATES.fetch(state) unless state == 'accepted'

        said = row['accepted']
        "#{offer(row)['name']} accepted by #{said['by']} on #{said['on']}"
      end

      # @return [Hash, nil] the offer that was accepted
      def offer(row) = row['accepted'] && row['offers'].find { |o| o['id'] == row['accepted']['offer_id'] }

      # @return [Hash, nil] an offer that was accepted last and is not taken
      def owed
        row = rows.find { |r| r['accepted'] } or return
        found = offer(row)
        found if found && found['key'] && found['key'] != @document.own('plan')['taken']
      end
    end
  end
end
