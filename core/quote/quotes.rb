# frozen_string_literal: true

require_relative '../job/document'
require_relative '../verdicts/consistency'

module Miser
  module Quote
    # What was offered for a job, the latest first, and what has become of it.
    class Quotes
      # Offers side by side in one.
      MOST = 3
      STATES = { 'open' => 'waits for the owner', 'accepted' => 'accepted', 'expired' => 'no longer holds' }.freeze

      # What may be written anew as long as nobody has accepted it.
      WORDS = %w[intro notes valid_days accepted].freeze

      # Quotes that say something else than they did.
      # @param document [Hash] @param was [Hash] before
      # @return [Array<Verdicts::Consistency::Problem>]
      def self.rewritten(document, was)
        before = Job::Document.rows(was, 'quotes').to_h { |row| [row['id'], row] }
        there = Job::Document.rows(document, 'quotes').filter_map { |row| before[row['id']] && [row, before[row['id']]] }
        there.reject { |row, old| fixed(row, old) == fixed(old, old) }.map do |row, old|
          Verdicts::Consistency::Problem.new(at: "/quotes/#{row['id']}", level: 'error',
            message: 'says what was offered on its day, and stays so',
            accepts: old['accepted'] ? 'a new quote' : 'its words, its days, names of its plans; else a new quote')
        end
      end

      # What of a row is not to change.
      def self.fixed(row, was)
        return row if was['accepted']

        row.except(*WORDS).merge('offers' => row['offers'].map { |offer| offer.except('name') })
      end
      private_class_method :fixed

      # @param document [Job::Document]
      # @param days [#call, nil] whole days from now to a day as it is written, nil where nobody knows; then nothing expires
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
