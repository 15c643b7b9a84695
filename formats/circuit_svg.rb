# frozen_string_literal: true

require_relative 'loop_drawing'
require_relative 'svg_ink'

module Miser
  module Formats
    # The drawn loop as an SVG file, in ink on white.
    class CircuitSvg
      include SvgInk

      STROKE = 'fill="none" stroke="#1d1c19" stroke-width="2.5"'

      # @param drawing [LoopDrawing] @param title [String]
      def initialize(drawing, title)
        @drawing = drawing
        @title = title
      end

      # @return [String]
      def to_s
        <<~SVG
          <svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 #{@drawing.width} #{@drawing.height}" font-family="sans-serif" font-size="18">
          <title>#{text(@title)}</title>
          <rect width="100%" height="100%" fill="#fff"/>
          #{(@drawing.wires.map { |w| painted(w.points, w.paint) } + @drawing.parts.map { |p| part(p) } + @drawing.texts.map { |t| words(t) }).join("\n")}
          </svg>
        SVG
      end

      private

      def part(part) = "<g transform=\"translate(#{part.x} #{part.y}) rotate(#{part.turn})\">#{symbol(part)}</g>#{label(part)}"

      # Where a label stands: offset and anchor.
      PLACES = { 'right' => [28, 6, 'start'], 'above' => [0, -18, 'middle'], 'corner' => [2, -28, 'start'] }.freeze
      private_constant :PLACES

      def label(part)
        return '' unless part.label

        telltale = PLACES[part.label_at == 'right' ? 'right' : 'corner']
        own = { 'telltale' => telltale }
        dx, dy, anchor = own.fetch(part.kind) { PLACES.fetch(part.label_at) }
        "<text x=\"#{part.x + dx}\" y=\"#{part.y + dy}\" text-anchor=\"#{anchor}\">#{text(part.label)}</text>"
      end

      def bulb(part)
        cross = part.filament ? 'M-12 -12 12 12M-12 12 12 -12' : 'M-9 -10 9 0 -9 10ZM9 -10V10'
        "<circle r=\"#{part.kind == 'lamp' ? 20 : 18}\" #{STROKE}/><path d=\"#{cross}\" #{STROKE}/>"
      end

      def symbol(part)
        case part.kind
        when 'lamp', 'telltale' then bulb(part)
        when 'battery' then "<path d=\"M-22 -24H22M-11 -8H11M-22 8H22M-11 24H11\" #{STROKE}/>"
        when 'fuse' then "<rect x=\"-20\" y=\"-8\" width=\"40\" height=\"16\" #{STROKE}/><path d=\"M-20 0H20\" #{STROKE}/>"
        when 'flasher' then "<rect x=\"-50\" y=\"-34\" width=\"100\" height=\"68\" #{STROKE}/><text y=\"5\" text-anchor=\"middle\">flasher</text>"
        when 'switch' then "<circle cx=\"-18\" r=\"4\" #{STROKE}/><path d=\"M-14 0 22 0\" #{STROKE}/>"
        when 'diode' then "<path d=\"M-12 -9 8 0 -12 9ZM8 -9V9\" #{STROKE}/>"
        when 'resistor' then "<rect x=\"-9\" y=\"-20\" width=\"18\" height=\"40\" #{STROKE}/>"
        when 'earth' then "<path d=\"M-12 -6H12M-8 0H8M-4 6H4\" #{STROKE}/>"
        end
      end
    end
  end
end
