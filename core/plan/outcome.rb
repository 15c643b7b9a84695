# frozen_string_literal: true

require_relative '../budget/verdict'
require_relative '../buying/cents'
require_relative '../verdicts/words'
require_relative 'draft'
require_relative 'labour'
require_relative 'light'
require_relative 'missing'
require_relative 'search'

module Miser
  module Plan
    # A plan as it comes out, solved for real: the job with all of it taken, its budget, its signals, its wiring. What
    # the search adds up is only believed where that bears it out.
    class Outcome
      # A that a sum may be off from what is solved.
      APART_A = 0.005

      # @!attribute found [Search::Found] @!attribute words [Hash{String=>String}] see Taking @!attribute ticket [Ticket]
      attr_reader :found, :words, :ticket

      # @param draft [Draft] @param found [Search::Found]
      def initialize(draft, found)
        @draft = draft
        @problem = draft.problem
        @found = found
        @options = found.choice.each_with_index.map { |o, g| @problem.groups[g].options[o] }
        @words = @options.map(&:take).reduce({}, :merge)
        @ticket = draft.with(@words)
      end

      # @param keeps [Array<Integer>] lines that must keep
      # @return [String, nil] why it won't do after all
      def against(keeps)
        off = @problem.lines.each_index.find { |i| keep(i).nil? || (keep(i).value - found.kept[i]).abs > APART_A }
        return "its parts do not add up: #{@problem.lines[off].label}" if off

        poor = keeps.find { |i| verdict(i) != 'keeps' }
        return line_words(poor) if poor

        dark || @ticket.wiring.red.first&.text
      rescue Unsolvable => e
        e.message
      end

      def key = Taking.key(words)

      # @return [Array<String>] what it changes, adds and cures
      def changes = @options.select(&:change?).map(&:label)

      # @return [Array<String>] accessories it leaves out
      def left_out = @options.select(&:left_out).map(&:label)

      # What is given up with it, and what to mind.
      # @return [Array<String>]
      def notes
        glare = @options.select(&:glare).map { |o| "#{o.label}: #{Light::BLINDS}" }
        [*@options.flat_map(&:notes).uniq, *glare]
      end

      # @return [Integer, nil] cents; nil where the shop has not said what an hour is: then money is for parts alone
      def work_cents = @ticket.market.money['rate_cents'] && worked

      # @return [Integer] cents, shipping with them
      def parts_cents = found.cents - worked

      # @return [Integer] cents of all that is known, with tax
      def total_cents = found.cents + Buying::Cents.share(found.cents, @problem.tax_percent)

      # @return [Array<String>] what it needs and nobody has a price for
      def unpriced = @ticket.needs.select { |n| n.total.positive? && @ticket.market.offers(n).empty? }.map(&:name)

      # @return [Missing] what its money and its minutes do not have in them
      def missing = @missing ||= Missing.new(unpriced, Labour.new(@ticket), @ticket.market.money['rate_cents'])

      # @param index [Integer] @return [Figure, nil] A kept, solved
      def keep(index)
        line = @problem.lines[index]
        @ticket.budget.line('after', line.scenario, line.circuit)&.keeps.then { |f| f if f&.known? }
      end

      # @return [Float, nil] times the light of the dipped beam as it came in
      def light
        before = @problem.groups.sum { |g| g.options.find { |o| !o.change? }&.light || 0.0 }
        before.positive? && found.light.positive? ? found.light / before : nil
      end

      # @param index [Integer] of a line @return [String, nil] keeps, owes, too_close
      def verdict(index) = keep(index).then { |f| f && Budget::Verdict.of(f.value, f.sigma) }

      # @param index [Integer] @return [String] what is kept there, and what that means
      def line_words(index)
        kept = keep(index)
        said = kept ? format('%.1f ± %.1f A, %s', kept.value, kept.sigma.to_f, Verdicts::Words::KEPT.fetch(verdict(index))).tr('-', '−') : 'not known'
        "#{@problem.lines[index].label}: #{said}"
      end

      # The reading that would settle whether it keeps, and whether it then would.
      # @param index [Integer] of a line @return [String, nil] where it is decided as it is, or nothing would help
      def reading(index = @problem.axis)
        return unless verdict(index) == 'too_close'

        line = @problem.lines[index]
        best = Budget::NextReading.ranked(@ticket.budget.line('after', line.scenario, line.circuit)).first or return
        then_so = Budget::Verdict.of(keep(index).value, best.sigma_after) == 'keeps'
        "Next reading: #{best.name.sub(/\A[A-Z](?=[a-z])/, &:downcase)}; #{then_so ? 'if it comes out as figured, it keeps' : 'that takes most of the doubt'}."
      end

      private

      def worked = @worked ||= @options.sum(&:work_cents) + onces.sum(&:work_cents)

      def onces
        @onces ||= found.choice.each_with_index.flat_map { |o, g| @problem.groups[g].options[o].once }.uniq.map { |k| @problem.onces[k] }
      end

      def dark
        return unless @words['cure'] && @options.any? { |o| o.take.key?('cure') && !o.pieces.empty? }

        first = @ticket.survey.judgement('after').problems.first
        first && "Turn signals: #{first.text}"
      end
    end
  end
end
