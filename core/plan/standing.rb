# frozen_string_literal: true

require_relative 'search'

module Miser
  module Plan
    # Why no plan meets the conditions: which of them stands in the way, and the least that would have to give.
    class Standing
      # @!attribute condition [String] key @!attribute by [Numeric, nil] how much less of it would do @!attribute text [String]
      # @!attribute value [Numeric, nil] what it would have to be
      Way = Struct.new(:condition, :by, :value, :text, keyword_init: true)
      TOGGLES = { no_cuts: 'nothing cut', marked: 'marks on headlamps', heat: 'a filament headlamp kept for heat',
                  carry_all: 'every accessory carried' }.freeze

      # @param problem [Problem] @param conditions [Conditions] @param most [Integer, nil] steps for each question
      def initialize(problem, conditions, most: nil)
        @problem = problem
        @conditions = conditions
        @most = most
      end

      # @return [Array<Way>] conditions that would do if they alone were loosened, those that give a figure first
      def ways = @ways ||= [money, minutes, *kept, days, *toggles].compact

      # @return [String] what stands in the way where nothing alone does
      def words = ways.empty? ? 'No single condition stands in the way: loosen two of them.' : ways.map(&:text).join(' ')

      private

      def best(aim, conditions) = Search.new(@problem, conditions, Aim.new(aim)).run(@most).best

      def money
        limit = @conditions.money_cents or return
        found = best('money', @conditions.with(money_cents: nil)) or return
        total = found.cents + Buying::Cents.share(found.cents, @problem.tax_percent)
        Way.new(condition: 'money', value: total, by: total - limit,
          text: "Money: the least that does is #{Buying::Cents.words(total)}, #{Buying::Cents.words(total - limit)} more.")
      end

      def minutes
        limit = @conditions.minutes or return
        found = best('time', @conditions.with(minutes: nil)) or return
        Way.new(condition: 'minutes', value: found.minutes, by: found.minutes - limit,
          text: format('Time: the least that does is %.0f min, %.0f more.', found.minutes, found.minutes - limit))
      end

      # A line that can't keep by twice its doubt: how near the best comes.
      def kept
        @conditions.keeps.filter_map do |i|
          found = Search.new(on(i), @conditions.with(keeps: @conditions.keeps - [i]), Aim.new('kept')).run(@most).best or next
          short = (Budget::Verdict::K * found.sigma[i]) - found.kept[i]
          next unless short.positive?

          Way.new(condition: "keeps/#{@problem.lines[i].scenario}", value: found.kept[i], by: short,
            text: format('%<name>s: the best keeps %<kept>.1f ± %<sigma>.1f A; %<short>.1f A more, or so much less doubt, would do.',
              name: @problem.lines[i].label, kept: found.kept[i], sigma: found.sigma[i], short: short))
        end
      end

      def on(line)
        Problem.new(groups: @problem.groups, articles: @problem.articles, lines: @problem.lines,
          onces: @problem.onces, suppliers: @problem.suppliers,
          axis: line, tax_percent: @problem.tax_percent)
      end

      # The first day by which all could be here.
      def days
        limit = @conditions.by_days or return
        later = @problem.articles.flat_map { |a| a.offers.filter_map(&:lead_days) }.uniq.sort.select { |d| d > limit }
        day = later.find { |d| best('time', @conditions.with(by_days: d)) } or return undated
        Way.new(condition: 'by', value: day, by: day - limit, text: "Here by then: #{day} days from now would do, #{day - limit} more.")
      end

      # Of what no supplier says how long it takes, nobody can say that it is here.
      def undated
        return unless best('time', @conditions.with(by_days: nil))

        Way.new(condition: 'by', text: 'Here by then: of some articles nobody says how long they take; without the day there is a plan.')
      end

      # Accessories that nothing feeds.
      def uncarried
        names = @problem.groups.select { |g| g.options.any?(&:left_out) && g.options.all?(&:left_out) }.map(&:label)
        names.empty? ? nil : " Nothing here feeds #{names.join(', ')}."
      end

      def toggles
        TOGGLES.filter_map do |key, label|
          next unless @conditions[key] && best('time', @conditions.with(key => false))

          Way.new(condition: key.to_s, text: "#{label[0].upcase}#{label[1..]}: without it there is a plan.#{uncarried if key == :carry_all}")
        end
      end
    end
  end
end
