# frozen_string_literal: true

require_relative 'sheet'

module Miser
  module Drill
    # What is kept at idle by night, by head from a bench sheet, with a band. A band is worth what it covers and costs what it is wide:
    # the interval score (Winkler 1972; Gneiting and Raftery, Journal of the American Statistical Association 2007) at 95 %.
    class ByHead < BenchSheet
      declare 'by_head', 'Keeps or owes, by head'

      MISSES = 0.05
      # Times the score of who knows all that is to be known, up to which it is right; A that heads may be off beside. Assumption.
      RIGHT = 2.0
      SLACK_A = 1.0
      # Loads by level: the fewer, the easier.
      LOADS = [6, 8, 10, 14, 30].freeze

      def ask
        format('Idling at a light by night at %d rpm and %.1f V it earns %.1f ± %.1f A. What does it keep (below 0: owe), give or take what?',
          line.rpm, line.circuit.volts, line.earns.value, line.earns.sigma)
      end

      def fields = [Field.new(id: 'keeps', label: 'Keeps', unit: 'A'), Field.new(id: 'band', label: 'Give or take', unit: 'A')]

      private

      def told(document)
        names = document['loads'].first(LOADS.fetch(level - 1)).map { |l| l['id'] }
        head = document['loads'].select { |l| %w[head_low tail].include?(l['role']) }.map { |l| l['id'] }
        document.merge('loads' => document['loads'].select { |l| (names | head).include?(l['id']) })
      end

      # @return [Float] A, lower is better
      def score(low, high, truth)
        (high - low) + ((2 / MISSES) * ([low - truth, 0.0].max + [truth - high, 0.0].max))
      end

      def verdict(answer)
        keeps = line.keeps
        band = answer['band'].to_f.abs
        mine = score(answer['keeps'] - band, answer['keeps'] + band, keeps.value)
        best = 4 * keeps.sigma
        right = mine <= (RIGHT * best) + SLACK_A
        Verdict.new(right: right, score: right ? 1.0 : [best / mine, 1.0].min, truth: { 'keeps' => keeps.value.round(2),
                                                                                        'band' => (2 * keeps.sigma).round(2) },
          words: [format('It spends %.2f A and keeps %.2f A, give or take %.2f (two σ).', line.spends.value, keeps.value, 2 * keeps.sigma), said(answer['keeps'], band, keeps.value),
            'A bench reading does not carry over as it stands: filaments draw more at running volts, drivers less.'])
      end

      def said(middle, band, truth)
        off = (middle - truth).abs
        return format('Your band has it, %.1f A wide on either side.', band) if off <= band

        format('It lies %.2f A outside your band.', off - band)
      end
    end
  end
end
