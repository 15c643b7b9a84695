# frozen_string_literal: true

require_relative 'expected'

module Miser
  module Card
    # What is odd in what was seen: other than it came in, other than was solved, other than before it was closed.
    class FunctionFindings
      # @!attribute key [String] of the cell @!attribute side [String] @!attribute level [String] wrong, better, note
      # @!attribute text [String] @!attribute sign [String, nil] where a diagnosis begins @!attribute load_id, state [String]
      Finding = Struct.new(:key, :side, :level, :text, :sign, :load_id, :state, keyword_init: true)

      # @param check [FunctionCheck] @param expected [Hash{String=>Expected}] by side
      def initialize(check, expected)
        @check = check
        @expected = expected
      end

      # @return [Array<Finding>] the wrong first
      def all = (bad + foretold + turned + stale).sort_by.with_index { |f, i| [%w[wrong note better].index(f.level), i] }

      private

      def finding(cell, side, level, text)
        Finding.new(key: cell.key, side: side, level: level, text: text, load_id: cell.lamp.load_id, state: cell.state.key,
          sign: level == 'wrong' && side != 'before' ? @expected.fetch(side).sign(cell) : nil)
      end

      # Seen against solved, and against how it was.
      def bad
        pinched = @check.pinched.map(&:key)
        %w[open closed].flat_map do |side|
          was = @check.cells('before').to_h { |c| [c.key, c.saw] }
          @check.bad(side).map { |c| finding(c, side, 'wrong', words(c, side, was[c.key], pinched)) }
        end
      end

      def words(cell, side, was, pinched)
        now = "#{cell.lamp.name}, #{cell.state.label}: #{FunctionCheck::SAW.fetch(cell.saw)} #{FunctionCheck::SIDES.fetch(side)}"
        return "#{now}; it worked open: a pinched wire." if side == 'closed' && pinched.include?(cell.key)
        return "#{now}; it worked as it came in." if was == 'ok'
        return "#{now}, as it came in." if was == cell.saw

        "#{now}; it should be #{Expected::WORDS.fetch(@expected.fetch(side).of(cell.lamp, cell.state))}#{told(cell, side)}."
      end

      # What the solved circuit has to say to it.
      def told(cell, side)
        told = @expected.fetch(side).foretold(cell.lamp, cell.state) or return ''
        if @expected.fetch(side).wrong?(cell.lamp,
          cell.state)
          ", and as solved it is #{Expected::WORDS.fetch(told)}"
        else
          ', and so it is as solved'
        end
      end

      # Nobody need try it to know.
      def foretold
        wrong = @check.cells('open').select { |c| c.saw.nil? && @expected.fetch('open').wrong?(c.lamp, c.state) }
        return [] if wrong.empty?

        told = wrong.first(3).map { |c| "#{c.lamp.name} at #{c.state.label}: #{Expected::WORDS.fetch(@expected['open'].foretold(c.lamp, c.state))}" }
        more = wrong.size > 3 ? ", and #{wrong.size - 3} more" : ''
        [finding(wrong.first, 'open', 'note', "As solved, not all will be as it should: #{told.join('; ')}#{more}.")]
      end

      # Wrong as it came in, and right now.
      def turned
        now = @check.cells('open').to_h { |c| [c.key, c.saw] }
        @check.bad('before').map do |c|
          if now[c.key] == 'ok'
            finding(c, 'open', 'better', "#{c.lamp.name}, #{c.state.label}: #{FunctionCheck::SAW.fetch(c.saw)} as it came in, and works now.")
          else
            finding(c, 'before', 'note', "#{c.lamp.name}, #{c.state.label}: #{FunctionCheck::SAW.fetch(c.saw)} as it came in.")
          end
        end
      end

      # Tried against what was expected then.
      def stale
        %w[open closed].flat_map do |side|
          expected = @expected.fetch(side)
          @check.cells(side).filter_map do |c|
            then_ = c.row && c.row['expected']
            now = then_ && expected.of(c.lamp, c.state)
            next if then_.nil? || then_ == now

            finding(c, side, 'note', "#{c.lamp.name}, #{c.state.label}: tried when it should be #{Expected::WORDS.fetch(then_)}; now it should be #{Expected::WORDS.fetch(now)}. Try it again.")
          end
        end
      end
    end
  end
end
