# frozen_string_literal: true

require_relative '../errors'
require_relative '../job/document'
require_relative 'running_down'

module Miser
  module Verdicts
    # What is still wrong, undecided or not known when a machine is to leave: the one list of it. Each is mended, or
    # somebody says why it is left so; both are printed on the sheet.
    class LeftOpen
      # @!attribute key [String] @!attribute text [String] @!attribute reason [String, nil] why it is left
      Point = Struct.new(:key, :text, :reason, keyword_init: true)

      # How to work on the machine, not something wrong with it.
      STANDING = %w[data_bus].freeze
      # Point that a changed beam was not aimed.
      AIM = 'aim'

      # @param ticket [Ticket]
      def initialize(ticket)
        @ticket = ticket
        @document = ticket.document
      end

      # @return [Array<Point>] the dangerous first
      def points
        @points ||= [flags, mistyped, misfits, signals, owes, undecided, draws, outstanding, tried, aim, card].flatten(1).map do |key, text|
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

      # A reading that looks mistyped moves every verdict until somebody says what was meant.
      def mistyped = @ticket.consistency.slips.map { |id, (name, words)| ["reading/#{id}", "#{name}, as read: #{words}"] }

      def signals
        return [] unless @document.signal_lamps? && @ticket.survey.ready?

        problems = @ticket.kept(:signal_problems) { @ticket.survey.judgement('after').problems }
        return [] if problems.empty?

        more = problems.size > 1 ? " And #{problems.size - 1} more." : ''
        [['signals', "The turn signals do not work as they must. #{problems.first.text}#{more}"]]
      rescue Unsolvable => e
        [['signals', "The signal circuit: #{e.message}."]]
      end

      # More is drawn than is earned.
      def owes = RunningDown.new(@ticket.budget).all.map { |w| ["owes/#{w.circuit}", w.text] }

      # What the change fits and nobody ever read: unknown altogether, or known by what a label or a seller says.
      def draws
        fitted = @ticket.budget.entries('after').select { |e| fitted?(e) && !e.load.measured? && !@ticket.budget.sums.stands?(e.key) }
        unknown, claimed = fitted.partition { |e| !e.load.known? }
        [*named('draw/unknown', unknown, 'Draw not known, so what it keeps is not known either'),
          *named('draw/unread', claimed, 'Draw never read, so what it keeps rests on what label or seller says')]
      end

      # @return [Boolean] whether the change put it there: a part in a lamp's place, or an accessory taken
      def fitted?(entry) = !entry.row['fed_by'] && (entry.choice || (entry.row['wanted'] && entry.row['taken']))

      def named(key, entries, words)
        entries.empty? ? [] : [[key, "#{words}: #{entries.map(&:name).uniq.join(', ')}."]]
      end

      # Neither ordered nor come.
      def outstanding = @ticket.outstanding.points

      # Something was changed, and not every lamp was seen to work.
      def tried
        check = @ticket.stage('function').check
        return [] if @document.checks('after')['tried'] || !(changed? || check.begun?('open'))

        check.open_points + check.closed_points
      end

      def changed? = @document.lamps.any?(&:part) || Job::Document.rows(@document.own('wiring'), 'feeds').any?

      def aim
        return [] unless @document.beam_unaimed?

        [[AIM, 'The beam was not aimed after the headlamp was changed: it may blind whoever comes the other way, or light too short.']]
      end

      # Work that a card says how to do, not done by it.
      def card
        card = @ticket.stage('fit').card
        return [] unless card.work.any?
        # Its steps are not made for that: every edit asks what is open.
        return [['card', 'The card was not begun: none of its steps is ticked.']] if card.log.rows.empty?

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
