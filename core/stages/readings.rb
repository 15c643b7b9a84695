# frozen_string_literal: true

require_relative '../ticket/stage'

module Miser
  module Stages
    # What each load really draws, and the sheet of everything to read.
    class ReadingsStage < Stage
      declare 'readings', label: 'Readings', group: 'look', place: 20
      reads :machine, :system, :circuits, :positions, :loads, :readings, :choices, :scenarios, :sums, :bench, :signals, :assumptions

      def wants = [*again, *unread, *untested, *unfinished]

      def problems = ticket.consistency.of_readings

      def touched? = document.readings.any? || document.sums.any?

      def stale? = stale.any?

      private

      def stale
        @stale ||= budget.readings.filter_map do |r|
          row = document.load(r.document['load_id'])
          [r, row] if row && budget.stale?(r, row)
        end
      end

      def again
        stale.map do |r, row|
          want("/readings/#{r.id}", "#{row['name']}: read again, the lamp was changed", subject: row['id'], weight: 'wrong')
        end
      end

      # A sum begun and not entered whole.
      def unfinished
        budget.sums.readings.select(&:problem).map { |r| want("/sums/#{r.id}", "Read together: #{r.problem}", subject: 'sums') }
      end

      def unread
        document.loads.reject { |l| l['wanted'] || l['added'] || l['brought_by'] || budget.readings_on(l).any?(&:counts?) || budget.sums.stands?(l['id']) }.map do |row|
          known = budget.as_is(row).known?
          best = worth[row['id']]
          want("/loads/#{row['id']}", "#{row['name']}: #{known ? 'not measured' : 'draw unknown'}", subject: row['id'],
            weight: weight(known, best),
            worth: best&.first, why: best&.last)
        end
      end

      # Read, but at one voltage, where what carrying it costs keeps a verdict too close to call.
      def untested
        line, best = budget.next_reading
        entry = best&.minutes && line.verdict == 'too_close' && budget.entries('after').find { |e| e.id == best.load_id }
        return [] unless entry&.load&.measured?

        subject = entry.choice ? "#{entry.id}.#{entry.choice['id']}" : entry.id
        [want("/loads/#{entry.id}", "#{best.name[0].upcase}#{best.name[1..]}", subject: subject, weight: 'settles',
          worth: Verdicts::Baseline.share(line, best), why: best.why(line))]
      end

      def weight(known, best)
        return 'blocks' unless known

        best ? 'settles' : 'spare'
      end

      # What reading a load would take from the doubt of a verdict too close to call.
      # @return [Hash{String=>Array(Float, String)}] share and why, by load
      def worth
        @worth ||= begin
          line = budget.doubtful_line('after')
          ranked = line&.verdict == 'too_close' ? budget.ranked_readings('after') : []
          ranked.select(&:load_id).to_h { |c| [c.load_id, [Verdicts::Baseline.share(line, c), c.why(line)]] }
        end
      end
    end
  end
end
