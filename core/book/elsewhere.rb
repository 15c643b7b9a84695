# frozen_string_literal: true

require_relative 'lesson'
require_relative 'spread'

module Miser
  module Book
    # What another shop has learnt, as sums: no machine of theirs, no owner, no words.
    # @!attribute shop [String] its mark, which nobody knows it by @!attribute made_on [String] the day it was put together
    # @!attribute first_on, last_on [String, nil] month of the first and the last that it is made of
    Elsewhere = Struct.new(:shop, :made_on, :subject, :key, :label, :what, :item, :n, :mean, :squares, :claimed, :more, :first_on, :last_on,
      keyword_init: true)

    # Rows of other shops, and the shop's own as such rows.
    class Elsewhere
      # @return [Spread]
      def spread = Spread.new(n, mean, squares)

      # What identifies it within a shop.
      def place = [subject, key, what, item]

      # The shop's own as others may have it.
      # @param lessons [Array<Lesson>] @param shop [String] @param made_on [String]
      # @return [Array<Elsewhere>] in an order of their own, whatever order they came in
      def self.sums(lessons, shop:, made_on:)
        known = lessons.select { |l| l.key && Lesson::SUBJECTS.include?(l.subject) }
        grouped = known.group_by { |l| [l.subject, l.key, l.what, step(l)] }
        grouped.sort_by { |place, _| place }.map { |place, list| sum(place, list.sort_by { |l| [l.on, l.job.to_s, l.id] }, shop, made_on) }
      end

      # Speeds are put together that tell nearly the same.
      SPEED_STEP = 250.0
      def self.step(lesson)
        return lesson.item unless lesson.what == 'point'

        [lesson.item, lesson.more['stator'] || 'hot', (lesson.more['rpm'] / SPEED_STEP).round].join('/')
      end

      COUNTED = %w[fitted ok loose dim dead returned].freeze
      KEPT = %w[role base rated_w stator circuit].freeze
      private_constant :COUNTED, :KEPT

      def self.sum(place, list, shop, made_on)
        subject, key, what, item = place
        values = COUNTED.include?(what) ? [] : one_each(list)
        spread = COUNTED.include?(what) ? Spread.new(list.sum(&:n), 1.0, 0.0) : Spread.of(values)
        claimed = list.filter_map(&:claimed)
        new(shop: shop, made_on: made_on, subject: subject, key: key, label: list.last.label, what: what, item: item,
          n: spread.n, mean: spread.mean, squares: spread.squares, claimed: claimed.any? ? claimed.sum / claimed.size : nil,
          more: more(list), first_on: month(list.first), last_on: month(list.last))
      end

      # A machine read twice is one copy.
      def self.one_each(list)
        return list.map(&:value) unless list.first.subject == 'model'

        list.group_by { |l| l.machine || l.job }.values.map { |same| same.sum(&:value) / same.size.to_f }
      end

      def self.more(list)
        kept = list.last.more.slice(*KEPT)
        %w[rpm volts].each { |k| list.filter_map { |l| l.more[k] }.then { |read| kept[k] = read.sum / read.size.to_f if read.any? } }
        kept
      end

      def self.month(lesson) = lesson.on.to_s[/\A\d{4}-\d\d/]
      private_class_method :step, :sum, :one_each, :more, :month
    end
  end
end
