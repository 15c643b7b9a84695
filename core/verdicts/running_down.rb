# frozen_string_literal: true

module Miser
  module Verdicts
    # Where more is drawn than is earned after the change: what becomes of it, in words that a rider understands.
    # One circuit that owes in several scenarios is told by its worst.
    class RunningDown
      # @!attribute circuit [String] id @!attribute text [String] a sentence or two
      Warning = Struct.new(:circuit, :text, keyword_init: true)

      # @param budget [Budget::Budget]
      def initialize(budget)
        @budget = budget
      end

      # @return [Array<Warning>] one for each circuit that owes with the engine running
      def all
        owing = @budget.lines('after').select { |l| l.scenario.running? && l.verdict == 'owes' }
        owing.group_by { |l| l.circuit.id }.map do |id, lines|
          Warning.new(circuit: id, text: [short(lines), becomes(lines), from(lines)].compact.join(' '))
        end
      end

      private

      def worst(lines) = lines.min_by { |l| l.keeps.value }

      def short(lines)
        worst = worst(lines)
        format('%<when>s: the lamps and the rest draw %<drawn>.1f A, the charging gives %<given>.1f A.',
          when: names(lines), drawn: worst.spends.value, given: worst.earns.value)
      end

      def names(lines)
        names = lines.map { |l| l.scenario.name }.uniq
        names.one? ? names.first : "#{names[0..-2].join(', ')} and #{names.last} (worst: #{worst(lines).scenario.name})"
      end

      def becomes(lines)
        worst = worst(lines)
        return 'The lamps go dim.' if worst.circuit.ac?

        return 'What becomes of the battery is not known: its capacity was not entered.' unless worst.circuit.battery

        fate = worst.battery.fate
        fate && "#{fate[0].upcase}#{fate[1..]}#{lasts(worst)}."
      end

      def lasts(line)
        hours = line.lasts
        return '' unless hours.known?
        return format(', in about %d minutes', (hours.value * 60).round) if hours.value < 1

        format(', in about %.1f hours', hours.value)
      end

      # Of all scenarios that owe, the speed that is enough for each.
      def from(lines)
        speeds = lines.map(&:break_even)
        return 'No engine speed is enough: something has to be switched off.' unless speeds.all?(&:known?)

        format('It keeps from %d rpm up; below that, switch off what you can spare.', (speeds.map(&:value).max / 50.0).ceil * 50)
      end
    end
  end
end
