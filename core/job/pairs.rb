# frozen_string_literal: true

require_relative 'lamp'

module Miser
  module Job
    # Lamps as somebody decides on them: each by itself, but a lamp and the same on the machine's other side together,
    # as nobody fits two kinds of one.
    class Pairs
      # Actions that are decided by hand alone.
      HELD = %w[remove add].freeze

      # @param document [Document]
      def initialize(document)
        @document = document
      end

      # @return [Array<Array<Lamp>>] of lamps that are no signals
      def plain = free.reject { |lamps| signal?(lamps) }

      # @return [Array<Array<Lamp>>] of signals and their tell-tale
      def signals = free.select { |lamps| signal?(lamps) }

      # @return [Array<Array<Lamp>>] of those decided by hand alone, each by itself
      def held = @document.lamps.select { |l| l.own_loads.empty? || held?(l) }.map { |l| [l] }

      # @return [String]
      def self.called(lamps) = lamps.size == 1 ? lamps.first.name : "#{lamps.first.name} and #{lamps.last.name[/left|right|\S+\z/]}"

      private

      def held?(lamp) = HELD.include?(lamp.choice&.fetch('action'))

      def free
        @free ||= @document.lamps.select { |l| l.own_loads.any? && !held?(l) }.each_with_object([]) do |lamp, found|
          pair = found.find { |lamps| lamps.size == 1 && lamps.first.mirror?(lamp) && lamps.first.count == lamp.count }
          pair ? pair << lamp : found << [lamp]
        end
      end

      def signal?(lamps) = lamps.any? { |l| l.signal? || l.own_loads.any? { |row| row['role'] == 'telltale' } }
    end
  end
end
