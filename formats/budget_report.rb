# frozen_string_literal: true

require 'json'
require_relative '../core/verdicts/words'

module Miser
  module Formats
    # The budget for the command line: JSON for programs, a table for people.
    module BudgetReport
      FIGURES = { earns_a: :earns, spends_a: :spends, keeps_a: :keeps }.freeze

      module_function

      # @param budget [Budget::Budget]
      # @return [Hash] before, lamps and after (all in), each with its scenarios
      def data(budget)
        Budget::Steps::KEYS.to_h { |step| [step, { scenarios: budget.lines(step).map { |l| line(l) } }] }
      end

      # @return [Hash] one line; null with a reason where unknown
      def line(line)
        row = { id: line.scenario.id, name: line.scenario.name, circuit: line.circuit.id, rpm: line.rpm }
        reasons = {}
        reasons[:rpm] = line.scenario.reason if line.rpm.nil?
        FIGURES.each do |key, name|
          figure = line.public_send(name)
          row[key] = figure.value
          row[:"#{key.to_s.sub(/_a\z/, '')}_sigma_a"] = figure.sigma
          reasons[key] = figure.reason unless figure.known?
        end
        row[:verdict] = line.verdict
        { break_even_rpm: line.break_even, system_v: line.system_v }.each do |key, figure|
          row[key] = figure.value
          reasons[key] = figure.reason unless figure.known?
        end
        row.merge(reason: reasons.empty? ? nil : reasons.values.uniq.join('; '), reasons: reasons)
      end

      # @return [String]
      def json(budget) = "#{JSON.pretty_generate(data(budget))}\n"

      # @return [String]
      def text(budget)
        same = Budget::Steps.same(budget.document)
        steps = Budget::Steps::TABLE.map do |step|
          "\n#{[step.label.capitalize, same[step.key]].compact.join(': ')}\n#{table(budget.lines(step.key))}"
        end
        flags = budget.flags.map { |f| "! #{f.text}" }
        [budget.document.name, *steps, next_reading(budget), *flags].compact.join("\n") << "\n"
      end

      def table(lines)
        head = %w[scenario rpm earns spends keeps ± verdict break-even volts]
        rows = lines.map do |l|
          name = lines.map { |x| x.circuit.id }.uniq.size > 1 ? "#{l.scenario.name} (#{l.circuit.name})" : l.scenario.name
          [name, whole(l.rpm), amps(l.earns), amps(l.spends), amps(l.keeps), l.keeps.sigma ? format('%.1f', l.keeps.sigma) : '?',
            Verdicts::Words::KEPT[l.verdict] || 'unknown', whole(l.break_even.value), amps(l.system_v)]
        end
        widths = [head, *rows].transpose.map { |column| column.map { |c| c.to_s.length }.max }
        [head, *rows].map do |r|
          r.each_with_index.map { |c, i| i.zero? || i == 6 ? c.to_s.ljust(widths[i]) : c.to_s.rjust(widths[i]) }.join('  ').rstrip
        end.join("\n")
      end

      def next_reading(budget)
        line, best = budget.next_reading
        line && "\nWorth measuring next: #{best.name}. #{best.why(line)}"
      end

      def amps(figure) = figure.known? ? format('%.1f', figure.value) : '?'
      def whole(number) = number ? number.round.to_s : '–'
    end
  end
end
