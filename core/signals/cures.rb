# frozen_string_literal: true

require_relative 'remedies'

module Miser
  module Signals
    # Every remedy and every sensible pair of them, simulated in all states and ranked.
    class Cures
      # @!attribute keys [Array<String>] remedies in it @!attribute works [Boolean]
      # @!attribute why [Array<String>] what still goes wrong
      Cure = Struct.new(:keys, :label, :schools, :works, :why, :amps, :watts, :surface_c, :hot, :parts, :cents, :minutes, :cuts,
        :loses_warning, :notes, :rate, keyword_init: true)

      # °C of a surface from which a touch burns: common practice.
      BURNS_C = 60.0
      SCHOOLS = { 'swap' => 'flasher swap', 'resistors' => 'load resistors' }.freeze

      # @param kase [Remedy::Case] @param school [String] swap or resistors
      # @param judge [#call] a Judgement of a harness
      def initialize(kase, judge:, school: 'swap')
        @case = kase
        @judge = judge
        @school = school
        @remedies = Remedy::REGISTRY.values.map { |k| k.new(kase) }.select(&:applies?)
      end

      # @return [Array<Cure>] what works first, the chosen school before the other
      def ranked
        @ranked ||= combinations.map { |list| cure(list) }.sort_by do |c|
          [c.works ? 0 : 1, order(c), c.keys.size, c.cents || Float::INFINITY, c.minutes || Float::INFINITY]
        end
      end

      # @return [Cure, nil] the other school's best
      def beside = ranked.find { |c| c.works && c.schools.include?(other) }

      # @param keys [Array<String>]
      # @return [Harness] with those remedies fitted
      def fitted(keys, harness = @case.harness) = @remedies.select { |r| keys.include?(r.key) }.reduce(harness) { |h, r| r.apply(h) }

      def remedy(key) = @remedies.find { |r| r.key == key }

      private

      def other = (SCHOOLS.keys - [@school]).first

      def hottest(costs) = costs.filter_map(&:surface_c).max

      def order(cure)
        return 2 if cure.schools.include?(other)

        cure.schools.include?(@school) ? 0 : 1
      end

      def combinations
        rate, cross = @remedies.partition { |r| r.class.group == :rate }
        @remedies.map { |r| [r] } + rate.product(cross)
      end

      def cure(list)
        judged = @judge.call(fitted(list.map(&:key)))
        costs = list.map(&:cost)
        Cure.new(keys: list.map(&:key), label: list.map(&:label).join(' and '), schools: list.map { |r| r.class.school }.uniq - ['either'],
          works: judged.works?,
          why: judged.problems.map(&:text).uniq, amps: costs.sum(&:amps), watts: costs.map(&:watts).max, surface_c: hottest(costs),
          hot: hottest(costs).to_f > BURNS_C,
          parts: costs.flat_map(&:parts),
          cents: Parts::Catalogue.total(costs.map(&:cents)), minutes: Parts::Catalogue.total(costs.map(&:minutes)),
          cuts: costs.sum(&:cuts), loses_warning: costs.any?(&:loses_warning), notes: costs.flat_map(&:notes),
          rate: judged.views['left'].pattern.rate)
      end
    end
  end
end
