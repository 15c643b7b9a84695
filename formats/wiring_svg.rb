# frozen_string_literal: true

require_relative 'strip_drawing'
require_relative 'svg_ink'
require_relative 'track_drawing'

module Miser
  module Formats
    # The wiring drawn, as an SVG file in ink on white: the current tracks and the strip under them, or one alone.
    class WiringSvg
      include SvgInk

      MONO = 'DejaVu Sans Mono, monospace'

      # @param title [String] @param tracks [TrackDrawing, nil] @param strip [StripDrawing, nil]
      def initialize(title, tracks: nil, strip: nil)
        @title = title
        @tracks = tracks
        @strip = strip
      end

      def width = [@tracks, @strip].compact.map(&:width).max
      def height = [@tracks, @strip].compact.sum(&:height) + (@tracks && @strip ? 20 : 0)

      # @return [String]
      def to_s
        <<~SVG
          <svg xmlns="http://www.w3.org/2000/svg" width="#{width}" height="#{height}" viewBox="0 0 #{width} #{height}" font-family="#{MONO}">
          <title>#{text(@title)}</title>
          <rect width="#{width}" height="#{height}" fill="#ffffff"/>
          #{tracks}#{strip}
          </svg>
        SVG
      end

      private

      def tracks
        return '' unless @tracks

        rails = @tracks.rails.map { |r| line([[r.from, r.y], [r.to, r.y]], INK, 4) }
        [*rails, *@tracks.runs.map { |r| painted(r.points, r.paint) }, *@tracks.parts.map { |p| part(p) }, *@tracks.texts.map do |t|
          words(t)
        end].join("\n")
      end

      def strip
        return '' unless @strip

        top = @tracks ? @tracks.height + 20 : 0
        foot = @strip.height - 10
        stops = @strip.stops.map { |s| %(<path d="M#{s.x} 56V#{foot}" stroke="#bbbbbb" stroke-width="1" fill="none" stroke-dasharray="3 5"/>) }
        lanes = @strip.lanes.map { |l| "#{painted([[l.from, l.y], [l.to, l.y]], l.paint)}#{dot(l.from, l.y)}#{dot(l.to, l.y)}" }
        %(<g transform="translate(0 #{top})">#{[*stops, *lanes, *@strip.texts.map { |t| words(t) }].join("\n")}</g>)
      end

      def dot(x, y) = %(<circle cx="#{x}" cy="#{y}" r="5" fill="#{INK}"/>)

      def shape(d, fill = '#ffffff') = %(<path d="#{d}" stroke="#{INK}" stroke-width="2.5" fill="#{fill}"/>)

      def part(p) = %(<g transform="translate(#{p.x} #{p.y})">#{symbol(p)}</g>)

      def symbol(p)
        case p.kind
        when 'fuse' then shape('M-9 -20H9V20H-9ZM0 -20V20')
        when 'contact', 'pull' then %(<rect x="-6" y="-24" width="12" height="48" fill="#ffffff"/>#{shape('M0 -24V-18M0 24V18M0 18L14 -16', 'none')})
        when 'coil' then shape('M-26 -20H26V20H-26ZM-26 20L-6 -20')
        when 'box' then shape('M-26 -30H26V30H-26Z')
        when 'lamp' then %(<circle r="24" fill="#ffffff" stroke="#{INK}" stroke-width="2.5"/>#{shape(p.filament ? 'M-16 -16L16 16M-16 16L16 -16' : 'M-9 -12L11 0L-9 12ZM11 -12V12', 'none')})
        else shape('M-26 -24H26V24H-26Z')
        end
      end
    end
  end
end
