# frozen_string_literal: true

require 'erb'
require_relative 'drawn_text'

module Miser
  module Formats
    # What drawing files have in common: ink on white, wires in their colours, words as they were laid out.
    module SvgInk
      INK = '#1d1c19'
      THIN = 2.5
      # A wire whose colour is known, and the tracer on it.
      PAINTED = 5
      TRACER = 1.5

      def text(value) = ERB::Util.html_escape(value.to_s)

      def line(points, colour, thick)
        %(<path d="M#{points.map { |p| p.join(' ') }.join('L')}" stroke="#{colour}" stroke-width="#{thick}" fill="none"/>)
      end

      # @param points [Array<Array<Numeric>>] @param paint [Array<String>]
      def painted(points, paint)
        base = line(points, paint.first || INK, paint.any? ? PAINTED : THIN)
        paint[1] ? "#{base}#{line(points, paint[1], TRACER)}" : base
      end

      # @param drawn [DrawnText]
      def words(drawn)
        drawn.lines.each_with_index.map do |words, i|
          y = (drawn.y + (i * drawn.size * LINE)).round(1)
          bold = drawn.bold ? ' font-weight="bold"' : ''
          %(<text x="#{drawn.x}" y="#{y}" font-size="#{drawn.size}"#{bold} fill="#{INK}">#{text(words)}</text>)
        end.join
      end
    end
  end
end
