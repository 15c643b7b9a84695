# frozen_string_literal: true

require_relative 'card'
require_relative 'function_findings'

module Miser
  module Card
    # What is left of the work for whoever signs: what was done, what was cut, what was seen.
    class Record
      # Findings that a sheet names one by one.
      MOST = 8

      # @param ticket [Ticket] @param card [Card]
      def initialize(ticket, card)
        @ticket = ticket
        @card = card
      end

      # @return [Array<String>]
      def done
        return [] if @card.log.rows.empty?

        spent = @card.minutes.sum(&:spent)
        counted = spent.zero? ? '' : ", in #{spent.round} min"
        ["#{@card.done} of #{@card.steps.size} steps of the card done#{counted}.", *by_hand]
      end

      # What does not come undone without a trace.
      # @return [Array<String>]
      def cut
        feeds = @card.work.feeds.select { |f| f.kind.cuts.positive? }.map { |f| "#{f.load['name']}: #{f.kind.undo}." }
        cures = @card.work.remedies.select { |r| r.cost.cuts.positive? }.map { |r| "#{r.label}: #{r.cost.cuts} places where insulation was opened." }
        feeds + cures
      end

      # @return [Array<String>] side by side, then what is not as it should be, or as it was
      def tried
        check = @card.check
        sides = FunctionCheck::SIDES.select { |side, _| check.begun?(side) }.map { |side, label| side_words(check, side, label) }
        return [] if sides.empty?

        expected = FunctionCheck::SIDES.keys.to_h { |side| [side, Expected.new(@ticket, check, side)] }
        told = FunctionFindings.new(check, expected).all.reject { |f| f.key.nil? || f.state.nil? }.map(&:text).uniq
        more = told.size > MOST ? ["And #{told.size - MOST} more."] : []
        ["Every lamp in every state: #{sides.join('; ')}.", *told.first(MOST), *more]
      end

      private

      def side_words(check, side, label)
        all = check.cells(side).size
        bad = check.bad(side).size
        "#{label} #{all - check.untried(side).size} of #{all} tried, #{bad.zero? ? 'all well' : "#{bad} wrong"}"
      end

      def by_hand
        names = @card.log.rows.filter_map { |r| r['by'] if r['did'] == 'done' }.uniq
        names.any? ? ["By #{names.join(', ')}."] : []
      end
    end
  end
end
