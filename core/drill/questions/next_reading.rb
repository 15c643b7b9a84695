# frozen_string_literal: true

require_relative 'sheet'

module Miser
  module Drill
    # Which reading to take next, so that it is soonest known whether the machine keeps.
    class NextReadingQuestion < BenchSheet
      declare 'next_reading', 'Which reading next'

      # How well each is known, most often first, by level: the more alike, the harder.
      ORIGINS = [%w[measured default nominal], %w[measured maker nominal default], %w[maker nominal default], %w[maker nominal],
        %w[maker]].freeze
      # Loads besides the charging output that are offered.
      OFFERED = 5
      # What the best and another may differ by and be as good, share of the doubt left: assumption.
      AS_GOOD = 0.01

      def ask = format('At idle by night it keeps %.1f ± %.1f A. Which reading takes most of that doubt away?', line.keeps.value, line.keeps.sigma)

      def fields = [Field.new(id: 'reading', label: 'Read next', options: offered.sort_by(&:name).map { |c| [id(c), c.name] })]

      def columns = ['load', 'A', 'at V', 'from', 'doubt']

      def rows = line.blocks.map { |b| [*row(b), b.sigma ? format('± %.2f A', b.sigma) : ''] }

      private

      def told(document)
        origins = ORIGINS.fetch(level - 1)
        said = origins - ['measured']
        loads = document['loads'].map { |l| l.merge('figures' => l['figures'].map { |f| f.merge('origin' => pick(said)) }) }
        read = loads.select { @random.rand < (origins.include?('measured') ? 0.5 : 0.0) }
        readings = read.each_with_index.map do |l, i|
          { 'id' => "r#{i}", 'load_id' => l['id'], 'kind' => 'settled', 'volts_at' => 'lamp',
            'taken_on' => 'this_machine' }.merge(l['figures'][0].slice('amps', 'volts'))
        end
        document.merge('loads' => loads, 'readings' => readings)
      end

      def keeps_within = 0.8

      def ranked = @ranked ||= Budget::NextReading.ranked(line)

      def offered = @offered ||= ranked.first(OFFERED)

      def id(candidate) = candidate.load_id || candidate.what

      def verdict(answer)
        best = ranked.first
        mine = offered.find { |c| id(c) == answer['reading'] }
        right = mine.sigma_after <= best.sigma_after * (1 + AS_GOOD)
        now = line.keeps.sigma
        gained = now > best.sigma_after ? (now - mine.sigma_after) / (now - best.sigma_after) : 1.0
        Verdict.new(right: right, score: gained.clamp(0.0, 1.0), truth: { 'reading' => id(best) },
          words: offered.map { |c| format('%s: ± %.2f A would be left of ± %.2f.', c.name, c.sigma_after, now) })
      end
    end
  end
end
