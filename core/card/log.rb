# frozen_string_literal: true

require_relative '../instant'
require_relative '../job/document'

module Miser
  module Card
    # What was done at the machine, as it was written down: ticks, time, notes. Rows are only ever added, so two who work on one
    # card never lose each other’s.
    class Log
      DID = { 'done' => 'done', 'open' => 'opened again', 'time' => 'time', 'note' => 'note' }.freeze
      # What is noted most, in one touch.
      QUICK = ['tab broken', 'thread is gone', 'corroded, cleaned', 'longer screw needed', 'wire chafed', 'came so'].freeze
      # s that two clocks may differ, and nothing is said.
      BACK_S = 60

      # @!attribute text [String] @!attribute step [String, nil] key
      Oddity = Struct.new(:step, :text, keyword_init: true)

      attr_reader :rows

      # @param card [Hash] the document's
      def initialize(card)
        @rows = Job::Document.rows(card, 'log')
      end

      # @return [Hash{String=>Array<Hash>}] by step
      def by_step = @by_step ||= rows.group_by { |r| r['step'] }

      # @param key [String] @return [Hash, nil] the tick that counts; nil where it is open
      def tick(key)
        last = (by_step[key] || []).reverse.find { |r| %w[done open].include?(r['did']) }
        last if last && last['did'] == 'done'
      end

      # @return [Float] s spent on a step, by the count of whoever worked
      def spent_s(key) = (by_step[key] || []).sum(0.0) { |r| r['spent_s'] || 0.0 }

      # @return [Array<Hash>] notes of a step
      def notes(key) = (by_step[key] || []).select { |r| r['did'] == 'note' }

      # @return [Array<Oddity>] what two hands or a wrong clock left; both stand
      def oddities = twice + back

      private

      # Ticked by two, with no opening in between.
      def twice
        by_step.filter_map do |key, list|
          done = []
          list.each { |r| r['did'] == 'done' ? done << r : (done.clear if r['did'] == 'open') }
          next if done.map { |r| r['device'] }.uniq.size < 2

          Oddity.new(step: key, text: "Ticked by two: #{done.map do |r|
            [r['by'], r['at'][11, 5]].compact.join(' at ')
          end.join(', and ')}. Both stand.")
        end
      end

      # A clock that was set back: the day's hours are as written, the minutes as the tablet counted them.
      def back
        rows.group_by { |r| r['device'] }.flat_map do |_, list|
          list.each_cons(2).filter_map do |one, two|
            before, after = [one, two].map { |row| Instant.seconds(row['at']) }
            next unless before && after && before - after >= BACK_S

            Oddity.new(step: two['step'], text: format('The clock went back by %d min here: hours stand as written, minutes as they were counted.', (before - after) / 60))
          end
        end
      end
    end
  end
end
