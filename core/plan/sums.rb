# frozen_string_literal: true

require_relative '../buying/cents'
require_relative 'problem'
require_relative 'relaxation'

module Miser
  module Plan
    # What a choice comes to, exactly; and the sums that stand for it where only some is decided.
    class Sums
      # A that a line's condition is missed by without its being missed.
      SLACK = 1e-9

      attr_reader :groups, :allowed

      # @param problem [Problem] @param conditions [Conditions] @param allowed [Array<Array<Integer>>]
      def initialize(problem, conditions, allowed)
        @problem = problem
        @conditions = conditions
        @allowed = allowed
        @groups = problem.groups.map(&:options)
        @shares = problem.onces.each_index.map do |k|
          @groups.each_index.count do |g|
            allowed[g].any? do |o|
              @groups[g][o].once.include?(k)
            end
          end
        end
      end

      # @param rebates [Hash{Integer=>Float}] see Ways
      # @return [Relaxation]
      def relaxation(ways, aim, prices, rebates = {})
        money = money(ways)
        eased = rebates.empty? ? ways : ways.rebated(rebates)
        counted = rebates.empty? ? money : money(eased)
        rest = beside(aim)
        cents = aim.cents
        cost = each_option { |g, o| (cents * counted[g][o]) + rest[g][o] }
        constant = aim.value(cents: ways.ships_cents + eased.owed, minutes: 0.0, kept: axis.base, light: 0.0)
        Relaxation.new(cost, constant, rows(money, ways), prices: prices)
      end

      # Whoever ships free from some sum on, or takes no less, wants that sum spent on him.
      # @return [Float] that nothing is under, by the aim
      def least_goods(ways, aim)
        return -Float::INFINITY unless aim.key == 'money'

        work = @allowed.each_index.sum { |g| @allowed[g].map { |o| @groups[g][o].work_cents }.min }
        # What the aim tells apart beside money is less than a cent.
        ways.least_cents + work - 1.0
      end

      # @param choice [Array<Integer>] options as the groups number them
      # @return [Hash{Integer=>Integer}] pieces by article
      def totals(choice)
        totals = Hash.new(0)
        choice.each_with_index { |o, g| @groups[g][o].pieces.each { |a, n| totals[a] += n } }
        onces(choice).each { |k| @problem.onces[k].pieces.each { |a, n| totals[a] += n } }
        totals
      end

      # @param under [Float] what it must be better than, by the aim
      # @yieldparam under [Float] cents that its parts must come under
      # @yieldreturn [Numeric, nil] what they come to, shipping with them; asked for where nothing else stands against it
      # @return [Search::Found, nil] nil where it misses a condition, or is no better
      def found(choice, aim, under = Float::INFINITY)
        once = onces(choice).map { |k| @problem.onces[k] }
        options = choice.each_with_index.map { |o, g| @groups[g][o] }
        minutes = options.sum(&:minutes) + once.sum(&:minutes)
        return if over_limits?(minutes, options, once)

        kept = kept(options, once)
        sigma = sigmas(options, once)
        return unless keeps?(kept, sigma)

        light = options.sum(&:light)
        work = options.sum(&:work_cents) + once.sum(&:work_cents)
        rest = { minutes: minutes, kept: kept[@problem.axis], light: light }
        parts = yield(aim.cents_under(under, **rest) - work) or return
        cents = parts + work
        return if too_dear?(cents)

        Search::Found.new(choice: choice.dup, cents: cents, minutes: minutes, kept: kept, sigma: sigma, light: light,
          cuts: options.sum(&:cuts) + once.sum(&:cuts),
          value: aim.value(cents: cents, **rest))
      end

      # @return [Array<Integer>] things had once that a choice asks for
      def onces(choice)
        return [] if @problem.onces.empty?

        choice.each_with_index.flat_map { |o, g| @groups[g][o].once }.uniq
      end

      private

      # What options come to by the aim, but for their money.
      def beside(aim)
        (@beside ||= {})[aim.key] ||= over do |o|
          aim.value(cents: 0, minutes: least_minutes(o), kept: o.kept[@problem.axis], light: o.light)
        end
      end

      def money(ways) = each_option { |g, o| least_cents(g, @groups[g][@allowed[g][o]], ways) }

      def axis = @problem.lines[@problem.axis]

      def each_option = @allowed.each_index.map { |g| @allowed[g].each_index.map { |o| yield g, o } }
      def over = each_option { |g, o| yield @groups[g][@allowed[g][o]] }

      # What an option adds at the least: its pieces at their cheapest, and its share of what is had once.
      def least_cents(group, option, ways)
        once = option.once.sum(0.0) do |k|
          thing = @problem.onces[k]
          (thing.pieces.sum(0.0) { |a, n| ways.least(a, n, [:once, k]) } + thing.work_cents) / @shares[k]
        end
        option.pieces.sum(once + option.work_cents) { |a, n| ways.least(a, n, group) }
      end

      def least_minutes(option) = option.minutes + option.once.sum(0.0) { |k| @problem.onces[k].minutes / @shares[k] }

      def rows(money, ways)
        return fixed_rows unless @conditions.money_cents

        [*fixed_rows, row('money', money, before_tax(@conditions.money_cents) - ways.ships_cents)]
      end

      # Those that hang on nobody's prices.
      def fixed_rows
        @fixed_rows ||= [*kept_rows, @conditions.minutes && row('minutes', over { |o| least_minutes(o) }, @conditions.minutes.to_f),
          @conditions.heat && row('heat', over { |o| -o.heat.to_f }, -1.0)].select { |r| r }
      end

      def kept_rows
        least = @conditions.least_kept
        rows = @conditions.keeps.map { |i| kept_row(i) }
        rows << row('axis', over { |o| -o.kept[@problem.axis] }, axis.base - least) if least
        rows
      end

      # Twice the doubt lies above the chord under the root: a plan's own variances count by its slope.
      def kept_row(index)
        line = @problem.lines[index]
        return row("kept #{index}", over { |o| -o.kept[index] }, line.base - line.margin) if line.margin

        low, high = variances(index)
        slope = high > low ? Budget::Verdict::K * (Math.sqrt(high) - Math.sqrt(low)) / (high - low) : 0.0
        most = line.base - (Budget::Verdict::K * Math.sqrt(low)) + (slope * (low - fixed_variance(line)))
        row("kept #{index}", over { |o| (slope * own_variance(line, o.doubt[index])) - o.kept[index] }, most)
      end

      # Scaled, so that rows of amps and of cents weigh alike.
      def row(name, use, most)
        scale = use.flatten.select(&:finite?).map(&:abs).max.to_f
        scale = 1.0 unless scale.positive?
        Relaxation::Row.new(name, use.map { |options| options.map { |u| u / scale } }, most / scale)
      end

      # Cents of which, with tax put on, no more than so many come: the limit itself is held exactly.
      def before_tax(cents) = ((cents + 1) / (1 + (@problem.tax_percent.to_f / 100))) + 1

      def kept(options, once)
        @problem.lines.each_with_index.map { |line, i| line.base + options.sum { |o| o.kept[i] } + once.sum { |o| o.kept[i] || 0.0 } }
      end

      def keeps?(kept, sigma)
        return false if @conditions.least_kept && kept[@problem.axis] < @conditions.least_kept - SLACK

        @conditions.keeps.all? { |i| kept[i] - margin(i, sigma[i]) >= -SLACK }
      end

      def too_dear?(cents)
        @conditions.money_cents && cents + Buying::Cents.share(cents, @problem.tax_percent) > @conditions.money_cents
      end

      def over_limits?(minutes, options, once)
        return true if @conditions.minutes && minutes > @conditions.minutes + SLACK
        return true if @conditions.no_cuts && once.any? { |o| o.cuts.positive? }

        @conditions.heat && options.none? { |o| o.heat.positive? }
      end

      # A by which what is kept must be above nothing.
      def margin(index, sigma) = @problem.lines[index].margin || (Budget::Verdict::K * sigma)

      def sigmas(options, once)
        @problem.lines.each_with_index.map do |line, i|
          own = options.map { |o| o.doubt[i] } + once.filter_map { |o| o.doubt[i] }
          line.sigma(own.reduce(line.doubt) { |all, d| d.equal?(Problem::Doubt::NONE) ? all : all + d })
        end
      end

      # What of it adds up: the meter's gain and the volts only come on top.
      def own_variance(line, doubt) = doubt.variance - (2 * line.clamp_earned * doubt.clamp)
      def fixed_variance(line) = own_variance(line, line.doubt) + line.curve

      # @return [Array(Float, Float)] A² between which every plan's lie
      def variances(index)
        line = @problem.lines[index]
        own = over { |o| own_variance(line, o.doubt[index]) }
        [own.sum(&:min), own.sum(&:max)].map { |v| [fixed_variance(line) + v, 0.0].max }
      end
    end
  end
end
