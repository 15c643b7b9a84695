# frozen_string_literal: true

require_relative '../core/beam/photometry'
require_relative '../core/beam/wall'

module Miser
  module Formats
    # Photometry files of IES LM-63 (1995 and 2002), an open standard: in, and a measured
    # wall out. Written from memory of the standard.
    module Lm63
      # The file can't be read; says in which line.
      class Malformed < StandardError; end

      HEADS = /\AIESNA(91|:LM-63-(1995|2002))\s*\z/
      MOST_ANGLES = 1000
      # Angles either way together: a table at every half degree all round has 260,000.
      MOST_CELLS = 300_000
      TYPES = { 1 => 'C', 2 => 'B', 3 => 'A' }.freeze
      # What follows the TILT line, in order.
      FIELDS = %i[lamps lumens multiplier verticals horizontals type units width length height ballast reserved watts].freeze

      # Words with the number of their line, line by line as they are asked for. An Enumerator would do it at ten times the time.
      class Words
        # @param lines [Array<String>] @param line [Integer] index of the first
        def initialize(lines, line)
          @lines = lines
          @line = line - 1
          @words = []
          @at = 0
        end

        # @return [Array(String, Integer), nil]
        def next
          while @at >= @words.size
            text = @lines[@line += 1] or return nil
            @words = text.split(/[\s,]+/).reject(&:empty?)
            @at = 0
          end
          [@words[@at], @line + 1].tap { @at += 1 }
        end
      end

      module_function

      # @param text [String]
      # @return [Beam::Photometry]
      # @raise [Malformed]
      def read(text)
        lines = text.dup.force_encoding(Encoding::UTF_8).scrub('?').delete_prefix("\uFEFF").lines.map(&:strip)
        raise Malformed, 'line 1: does not begin with IESNA:LM-63-1995 or IESNA:LM-63-2002' unless lines.first.to_s.match?(HEADS)

        tilt = lines.index { |l| l.start_with?('TILT') } or raise Malformed, "line #{lines.size}: no TILT line"
        word = lines[tilt].delete(' ')
        raise Malformed, "line #{tilt + 1}: only TILT=NONE and TILT=INCLUDE are taken, this is #{lines[tilt][0, 40]}" unless %w[TILT=NONE
          TILT=INCLUDE].include?(word)

        source = numbers(lines, tilt + 1)
        pass_tilt(source) if word == 'TILT=INCLUDE'
        table(source)
      end

      # The lamp's own tilt table, angles and factors: a headlamp stands upright, where its factor is 1.
      def pass_tilt(source)
        number(source, 'lamp to luminaire geometry')
        count = whole(number(source, 'tilt angles'), 'tilt angles')
        rising(source, count, 'tilt angle')
        count.times { number(source, 'tilt factor') }
      end

      # Every word with its line, as it is asked for.
      def numbers(lines, from)
        Words.new(lines, from)
      end

      def table(source)
        head = FIELDS.to_h { |name| [name, number(source, name.to_s)] }
        counts = %i[verticals horizontals].map { |name| whole(head[name], name) }
        cells = counts.inject(:*)
        raise Malformed, "line #{head[:verticals].last}: #{cells} angles are more than the #{MOST_CELLS} that are taken" if cells > MOST_CELLS

        type = TYPES[head[:type].first.to_i] or raise Malformed,
          "line #{head[:type].last}: photometric type #{head[:type].first} is none of 1, 2, 3"
        verticals = rising(source, counts[0], 'vertical angle')
        horizontals = rising(source, counts[1], 'horizontal angle')
        factor = head[:multiplier].first * head[:ballast].first
        candela = horizontals.map { verticals.map { positive(source) * factor } }
        Beam::Photometry.new(type: type, verticals: verticals, horizontals: horizontals, candela: candela,
          watts: known(head[:watts].first), lumens: known(head[:lumens].first))
      end

      # Nothing, or −1 for a lamp measured as a whole, says that it is not stated.
      def known(value) = value.positive? ? value : nil

      # @return [Array(Float, Integer)] value and line
      def number(source, what)
        word, line = source.next
        raise Malformed, "the file ends where #{what} should follow" unless word

        value = Float(word, exception: false)
        raise Malformed, "line #{line}: “#{word[0, 20]}” is no number (#{what})" unless value&.finite?

        [value, line]
      end

      def whole(pair, what)
        value, line = pair
        unless value == value.to_i && value.between?(
          1, MOST_ANGLES
        )
          raise Malformed,
            "line #{line}: the number of #{what} must be a whole number from 1 to #{MOST_ANGLES}"
        end

        value.to_i
      end

      def rising(source, count, what)
        list = []
        count.times do
          value, line = number(source, what)
          raise Malformed, "line #{line}: #{what}s must rise, #{value} follows #{list.last}" if list.any? && value <= list.last

          list << value
        end
        list
      end

      def positive(source)
        value, line = number(source, 'candela')
        raise Malformed, "line #{line}: candela must not be negative (#{value})" if value.negative?

        value
      end

      # A measured wall as type B photometry. Its marks stand on straight lines of the wall, the
      # angles on curved ones: the light between marks is taken as the wall's figures take it.
      # @param wall [Beam::Wall] @param name [String]
      # @return [String] CRLF ends, as the standard has them
      def write(wall, name:)
        d = wall.distance
        verticals = wall.ys.reverse.map { |y| degrees(Math.atan2(y, d)) }
        # Off the axis these reach past the wall by a hair; there the light of its rim goes on.
        horizontals = wall.xs.map { |x| degrees(Math.atan2(x, d)) }
        rows = horizontals.map { |h| verticals.map { |v| towards(wall, h, v) } }
        ['IESNA:LM-63-2002', "[TEST] measured on a wall at #{format('%.2f', d)} m", '[MANUFAC] not stated',
          "[LUMINAIRE] #{name.gsub(/[^\w .-]/, '_')[0, 60]}", 'TILT=NONE',
          "1 -1 1 #{verticals.size} #{horizontals.size} 2 2 0 0 0", '1 1 0', list(verticals), list(horizontals), *rows.map { |r| list(r) },
          ''].join("\r\n")
      end

      # @param horizontal, vertical [Float] degrees, type B
      # @return [Float] cd
      def towards(wall, horizontal, vertical)
        y = wall.distance * Math.tan(vertical * Math::PI / 180)
        x = Math.tan(horizontal * Math::PI / 180) * Math.hypot(y, wall.distance)
        wall.candela(wall.at(x, y), x, y)
      end

      def list(values) = values.map { |v| format('%.7g', v) }.each_slice(12).map { |s| s.join(' ') }.join("\r\n")

      def degrees(radians) = radians * 180 / Math::PI
    end
  end
end
