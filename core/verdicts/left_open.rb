# frozen_string_literal: true

require_relative '../errors'
require_relative '../job/document'

module Miser
  module Verdicts
    # What is still wrong or undecided when a machine is to leave. Each is mended, or
    # somebody says why it is left so; both are printed on the sheet.
    class LeftOpen
      # @!attribute key [String] @!attribute text [String] @!attribute reason [String, nil] why it is left
      Point = Struct.new(:key, :text, :reason, keyword_init: true)

      # How to work on the machine, not something wrong with it.
      STANDING = %w[data_bus].freeze

      # @param ticket [Ticket]
      def initialize(ticket)
        @ticket = ticket
        @document = ticket.document
      end

      # @return [Array<Point>] the dangerous first
      def points
        @points ||= (flags + misfits + signals + undecided + tried + card).map do |key, text|
          Point.new(key: key, text: text, reason: reasons[key])
        end
      end

      # @return [Array<Budget::Flags::Flag>] that say how to work on it
      def standing = @ticket.flags.select { |f| f.serious? && STANDING.include?(f.key) }

      # @return [Array<Point>]
      def unanswered = points.reject(&:reason)

      private

      def reasons
        @reasons ||= Job::Document.rows(@document.to_h, 'left_open').to_h { |row| [row['point'], row['reason'].to_s.strip] }
                                  .reject { |_, reason| reason.empty? }
      end

      # What the change left, not what it cured.
      def flags
        serious = @ticket.flags.select { |f| f.serious? && f.side != 'before' && !STANDING.include?(f.key) }
        serious.group_by(&:key).map { |key, alike| ["flag/#{key}", alike.flat_map { |f| [f.text, f.cure] }.compact.join(' ')] }
      end

      def signals
        return [] unless @document.signal_lamps? && @ticket.survey.ready?

        problems = @ticket.kept(:signal_problems) { @ticket.survey.judgement('after').problems }
        return [] if problems.empty?

        more = problems.size > 1 ? " And #{problems.size - 1} more." : ''
        [['signals', "The turn signals do not work as they must. #{problems.first.text}#{more}"]]
      rescue Unsolvable => e
        [['signals', "The signal circuit: #{e.message}."]]
      end

      # Something was changed, and not every lamp was seen to work.
      def tried
        check = @ticket.stage('function').check
        changed = @document.lamps.any?(&:part) || Job::Document.rows(@document.own('wiring'), 'feeds').any?
        return [] if @document.checks('after')['tried'] || !(changed || check.begun?('open'))

        check.open_points
      end

      # A card that was begun.
      def card
        card = @ticket.stage('fit').card
        return [] if card.log.rows.empty?

        left = card.steps.size - card.done
        undone = "#{left} of #{card.steps.size} steps of the card not done, first: #{card.next_step&.text}"
        [*(left.positive? ? [['card', undone]] : []), *card.tray.open_points]
      end

      # What was chosen though it does not fit.
      def misfits = @ticket.misfits.map { |lamp, text| ["fit/#{lamp.id}", "#{lamp.name}: #{text}."] }

      def undecided
        @document.lamps.select { |l| l.own_loads.any? && !l.choice }.map { |l| ["lamp/#{l.id}", "#{l.name}: neither kept nor swapped."] }
      end
    end
  end
end
