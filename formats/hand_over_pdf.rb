# frozen_string_literal: true

require 'stringio'
require_relative 'paper'

module Miser
  module Formats
    # The sheet that leaves with a machine, as it is signed.
    class HandOverPdf
      SIZE = 9.5
      # Points that photographs are high.
      PICTURE = 110

      # @param sheet [Hash] machine, facts, on, shop, lines (rows of words, the head first), parts: heads with their lines of words,
      #   pictures: rows of [words, bytes of a JPEG]
      def initialize(sheet)
        @sheet = sheet
      end

      # @return [String] a PDF
      def to_s
        @pdf = Prawn::Document.new(page_size: 'A4', margin: Paper::MARGIN, info: { Title: "Hand-over, #{@sheet[:machine]}" })
        Paper.dress(@pdf, Paper::SANS)
        line(@sheet[:machine], 18, style: :bold)
        line("Lighting conversion, amps before and after · #{[@sheet[:facts], @sheet[:shop], @sheet[:on]].compact.reject(&:empty?).join(' · ')}", SIZE, color: '555555')
        table(@sheet[:lines])
        @sheet[:parts].each { |head, lines| part(head, lines) }
        pictures
        sign
        @pdf.number_pages('<page> of <total>', at: [0, -14], size: 8, align: :right)
        @pdf.render
      end

      private

      def said(text) = Paper.said(text.to_s)

      def line(text, size = SIZE, **style)
        @pdf.text(said(text), size: size, **style)
        @pdf.move_down(2)
      end

      def part(head, lines)
        return if lines.empty?

        @pdf.start_new_page if @pdf.cursor < 60
        @pdf.move_down(7)
        line(head, 11, style: :bold)
        lines.each { |text| @pdf.indent(8) { line("– #{text}") } }
      end

      def table(rows)
        wide = @pdf.bounds.width
        first = wide * 0.3
        rest = (wide - first) / [rows.first.size - 1, 1].max
        @pdf.move_down(4)
        rows.each_with_index { |cells, i| row(cells.map { |c| said(c) }, first, rest, i.zero? ? :bold : :normal) }
      end

      def row(cells, first, rest, style)
        high = cells.each_with_index.map { |c, i| @pdf.height_of(c.empty? ? 'X' : c, size: SIZE, width: (i.zero? ? first : rest) - 4) }.max + 5
        @pdf.start_new_page if @pdf.cursor < high
        top = @pdf.cursor
        @pdf.stroke_color('999999')
        @pdf.stroke_horizontal_rule
        cells.each_with_index do |text, i|
          next if text.empty?

          @pdf.text_box(text, at: [i.zero? ? 0 : first + ((i - 1) * rest), top - 3], width: (i.zero? ? first : rest) - 4, size: SIZE,
            style: style,
            align: i.zero? ? :left : :right)
        end
        @pdf.move_cursor_to(top - high)
      end

      def pictures
        @sheet[:pictures].each_slice(2) do |pair|
          @pdf.start_new_page if @pdf.cursor < PICTURE + 30
          @pdf.move_down(6)
          top = @pdf.cursor
          half = (@pdf.bounds.width - 10) / 2
          pair.each_with_index do |(words, bytes), i|
            @pdf.bounding_box([i * (half + 10), top], width: half, height: PICTURE + 14) do
              @pdf.image(StringIO.new(bytes), fit: [half, PICTURE])
              @pdf.text_box(said(words), at: [0, 12], size: 8, width: half)
            end
          end
          @pdf.move_cursor_to(top - PICTURE - 16)
        end
      end

      def sign
        @pdf.start_new_page if @pdf.cursor < 50
        @pdf.move_down(26)
        line('technician ______________________________      rider ______________________________')
      end
    end
  end
end
