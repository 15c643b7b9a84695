# frozen_string_literal: true

require_relative '../job/document'
require_relative '../length'

module Miser
  module Card
    # Fasteners that come out, each with a place on the tray: proposed by the templates, corrected by whoever holds them.
    class Tray
      # Places to a row.
      WIDE = 6
      MISSING = 'tray'
      LEFT = 'tray/left'
      FACTS = %w[from count drive size thread length_m washer spacer_m insert clip side].freeze

      # @!attribute id [String] @!attribute place [String] such as A1 @!attribute step [String, nil] key of the step it comes out at
      # @!attribute proposal [Integer, nil] which of its step’s
      # @!attribute row [Hash, nil] as the job has it; nil where it is only proposed
      # @!attribute count, back, lost [Integer] out, gone back, known to be missing
      Cell = Struct.new(:id, :place, :step, :proposal, :row, :facts, :count, :back, :lost, keyword_init: true) do
        # @return [Integer] still in the tray
        def left = [count - back - lost, 0].max

        # @return [Boolean] whether more went back than came out
        def over? = back > count
      end

      # @param card [Hash] the document's @param steps [Array<Step>] @param log [Log]
      # @param units [String]
      def initialize(card, steps, log, units: 'metric')
        @rows = Job::Document.rows(card, 'fasteners')
        @steps = steps
        @log = log
        @units = units
      end

      # Those that lie there, and those proposed by steps not done yet.
      # @return [Array<Cell>] in the order they come out
      def cells = @cells ||= rows_of.each_with_index.map { |(step, proposal, row, facts), i| cell(step, proposal, row, facts, i) }

      # @param step [String] key @return [Array<Cell>] that come out there
      def of(step) = cells.select { |c| c.step == step }

      # @return [Array<String>] what is missing or over
      def problems = cells.flat_map { |c| [missing(c), over(c)] }.compact

      # @return [Array<Cell>] out, and not back
      def left = cells.select { |c| c.left.positive? && out?(c) }

      # @return [Array<String>] left over once it is closed
      def left_over = left.map { |c| "#{c.place}: #{c.left} × #{name(c)} not back" }

      # What wants a reason where it is left so: a missing one is answered for by itself, one left over by itself.
      # @return [Array<Array(String, String)>] point and words
      def open_points
        { MISSING => problems, LEFT => left_over }.reject { |_, said| said.empty? }.map { |key, said| [key, "#{said.join('. ')}."] }
      end

      def out = cells.select { |c| out?(c) }.sum(&:count)
      def back = cells.sum(&:back)

      # @return [String]
      def name(cell)
        f = cell.facts
        [f['thread'],
          f['length_m'] && Length.small(f['length_m'], @units).delete_suffix(' mm').delete_suffix('.0')].compact.join(' × ').then do |size|
          [size.empty? ? nil : size, f['clip'], [f['drive'], f['size']].compact.join(' ')].compact.reject(&:empty?).join(', ')
        end
      end

      # @return [Array<String>] what goes with each
      def beside(cell)
        f = cell.facts
        [f['washer'] ? 'washer' : nil, f['spacer_m'] && "spacer #{Length.small(f['spacer_m'], @units)}", f['insert'], f['side']].compact
      end

      # @return [Boolean] whether its step is done, or it has a place of its own
      def out?(cell) = cell.step.nil? || !@log.tick(cell.step).nil?

      private

      # Steps' proposals where nothing was entered, then what was entered besides.
      def rows_of
        known = @rows.group_by { |r| [r['step'], r['proposal']] }
        used = []
        proposed = @steps.flat_map do |step|
          step.out.each_with_index.map do |facts, i|
            row = known[[step.key, i.to_f]]&.first
            used << row if row
            [step.key, i, row, row ? facts.merge(row.slice(*FACTS)) : facts]
          end
        end
        proposed + (@rows - used).map { |r| [r['step'], nil, r, r.slice(*FACTS)] }
      end

      def cell(step, proposal, row, facts, index)
        said = row || {}
        Cell.new(id: row ? row['id'] : "#{step}##{proposal}", proposal: proposal, place: "#{letters(index / WIDE)}#{(index % WIDE) + 1}",
          step: step, row: row, facts: facts,
          count: (facts['count'] || 1).to_i, back: said['back'].to_i, lost: said['lost'].to_i)
      end

      # A to Z, then AA.
      def letters(n) = (n >= 26 ? letters((n / 26) - 1) : '') + ('A'.ord + (n % 26)).chr

      def missing(cell) = cell.lost.positive? ? "#{cell.place}: #{cell.lost} × #{name(cell)}, #{cell.facts['from']}, is missing" : nil
      def over(cell) = cell.over? ? "#{cell.place}: #{cell.back - cell.count} more × #{name(cell)} went back than came out" : nil
    end
  end
end
