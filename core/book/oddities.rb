# frozen_string_literal: true

require_relative '../verdicts/consistency'
require_relative 'days'
require_relative 'key'

module Miser
  module Book
    # What a ticket says of its machine that the book can't believe: a counter that ran backwards, a frame number that is another's.
    class Oddities
      COUNTERS = { 'distance_km' => %w[Distance km], 'hours' => ['Engine hours', 'h'] }.freeze

      # @param document [Job::Document] @param book [#visits, #twins]
      def initialize(document, book)
        @document = document
        @book = book
        @machine = document.to_h['machine_id'] || document.id
      end

      # @return [Array<Verdicts::Consistency::Problem>]
      def problems = [*counters, *twins]

      private

      def counters
        said = COUNTERS.keys.select { |key| @document.machine[key] }
        return [] if said.empty?

        said.filter_map { |key| backwards(key, @document.machine[key]) }
      end

      # Visits of one day are in no order.
      def backwards(key, value)
        day = @document.to_h['came_in']
        earlier = @book.visits(@machine).reject { |v| v.job == @document.id || v[key].nil? || (day && v.came_in && v.came_in >= day) }
        most = earlier.max_by { |v| v[key] }
        return unless most && value < most[key]

        label, unit = COUNTERS.fetch(key)
        problem("/machine/#{key}", format('%<l>s ran backwards: it read %<v>d %<u>s on %<d>s', l: label, v: most[key], u: unit,
          d: most.came_in || 'an earlier visit'),
          "#{most[key].round} #{unit} or more, or a note that the counter was changed")
      end

      def twins
        frame = Key.frame(@document.machine['frame']) or return []
        others = @book.twins(frame, @machine)
        return [] if others.empty?

        [problem('/machine/frame', "The book has this frame number already: #{others.map { |o| o[:name] }.first(3).join(', ')}. One machine has two books",
          'the number of this machine, or join the two in the book')]
      end

      def problem(at, message, accepts) = Verdicts::Consistency::Problem.new(at: at, level: 'problem', message: message, accepts: accepts)
    end
  end
end
