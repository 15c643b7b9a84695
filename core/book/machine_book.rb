# frozen_string_literal: true

require_relative 'days'
require_relative 'lesson'
require_relative 'trend'

module Miser
  module Book
    # A machine over the years: what it earned, what its regulator held, what its lamps drew, each as a series; and whether it drifts.
    class MachineBook
      # @!attribute what, item [String] @!attribute words [String] as a person calls it @!attribute lessons [Array<Lesson>] the first first
      Series = Struct.new(:what, :item, :words, :unit, :lessons, :trend, keyword_init: true) do
        # @return [String] whether it drifts, in words
        def drift
          return lessons.size == 1 ? 'read once' : "read #{lessons.size} times: three on different days tell a drift" unless trend.line?

          trend.says(unit)
        end
      end
      NAMES = { 'earns' => 'Earned', 'held' => 'Volts held', 'point' => 'Charging point', 'draw' => 'Draws',
                'idle_volts' => 'Volts, idling and lit', 'key_off' => 'Drawn with the key off' }.freeze
      # What is followed over the years, in this order.
      FOLLOWED = %w[earns held idle_volts key_off draw].freeze

      # @param lessons [Array<Lesson>] of this machine
      def initialize(lessons)
        @lessons = lessons
      end

      # @return [Array<Series>]
      def series
        @series ||= FOLLOWED.flat_map do |what|
          of(what).group_by { |l| [what, l.item, part_of(l)] }.values.map { |list| of_list(what, list) }
        end
      end

      private

      def of(what) = @lessons.select { |l| l.what == what }

      def part_of(lesson) = lesson.subject == 'part' ? [lesson.key, lesson.more['lamp']] : lesson.more['lamp']

      def of_list(what, list)
        sorted = list.sort_by { |l| [l.on.to_s, l.job.to_s, l.id] }
        Series.new(what: what, item: list.first.item, words: words(what, list.last), unit: Lesson::WHATS.fetch(what), lessons: sorted,
          trend: trend(sorted))
      end

      def words(what, last)
        case what
        when 'earns' then [NAMES[what], circuit(last), Lesson::SPEEDS.fetch(last.item.split('/').last)].compact.join(' ')
        when 'idle_volts', 'key_off' then NAMES.fetch(what)
        when 'held' then [NAMES[what], circuit(last)].compact.join(' ')
        else [last.more['lamp'], last.subject == 'part' ? last.label : nil].compact.join(', ')
        end
      end

      # Named only where a machine has two.
      def circuit(lesson)
        many = @lessons.select { |l| l.what == lesson.what }.map { |l| l.more['circuit'] }.uniq.size > 1
        many ? "on #{lesson.more['circuit']}" : nil
      end

      # One figure a day: what was read twice on one day tells no drift.
      def trend(list)
        points = list.group_by { |l| Days.number(l.on) }.filter_map do |day, same|
          day && Trend::Point.new(days: day, value: same.sum(&:value) / same.size, sigma: same.first.sigma)
        end
        Trend.new(points.sort_by(&:days))
      end
    end
  end
end
