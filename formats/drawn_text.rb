# frozen_string_literal: true

module Miser
  module Formats
    # Words on a drawing, in letters of one width, so that their room is known before they are drawn.
    # @!attribute x, y [Numeric] of the first line's foot @!attribute lines [Array<String>]
    # @!attribute role [String] name, wire, number, head @!attribute load [String, nil] what it belongs to
    DrawnText = Struct.new(:x, :y, :lines, :size, :bold, :role, :load, keyword_init: true) do
      # @return [Array<Numeric>] left, top, right, foot
      def box
        [x, y - (size * 0.8), x + (lines.map(&:length).max.to_i * size * Formats::LETTER),
          y + ((lines.size - 1) * size * Formats::LINE) + (size * 0.25)]
      end

      # @param words [String] @param room [Numeric] @param size [Numeric] @param most [Integer] lines
      # @return [Array<String>] as many as it takes; what finds no room is cut, and says so
      def self.wrapped(words, room:, size:, most:)
        letters = [(room / (size * Formats::LETTER)).floor, 2].max
        lines = []
        words.to_s.split.each do |word|
          word = "#{word[0, letters - 1]}…" if word.length > letters
          if lines.any? && lines.last.length + word.length < letters then lines[-1] += " #{word}"
          else lines << word
          end
        end
        return lines if lines.size <= most

        kept = lines.first(most)
        kept[-1] = "#{kept[-1][0, letters - 1]}…"
        kept
      end
    end

    # Width of a letter and height of a line, of its size: the mono that ships, and those that stand in for it.
    LETTER = 0.645
    LINE = 1.2
  end
end
