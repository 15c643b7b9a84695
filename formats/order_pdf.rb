# frozen_string_literal: true

require_relative '../core/buying/cents'
require_relative 'paper'

module Miser
  module Formats
    # What is to be ordered, on paper: by supplier, with boxes to tick, then what lies on the shelf and what was ordered
    # already. As many pages as it takes.
    class OrderPdf
      SIZE = 9
      # Shares of the sheet's width.
      COLUMNS = { '' => 0.04, 'buy' => 0.09, 'what' => 0.37, 'article' => 0.17, 'needed by' => 0.18, 'price' => 0.15 }.freeze

      # @param view [Hash] as the order's screen is given it
      # @param machine [String] @param shop [String, nil] @param on [String] a day
      def initialize(view, machine:, on:, shop: nil)
        @view = view
        @machine = machine
        @shop = shop
        @day = on
      end

      # @return [String] a PDF
      def to_s
        @pdf = Prawn::Document.new(page_size: 'A4', margin: Paper::MARGIN, info: { Title: "Order, #{@machine}" })
        Paper.dress(@pdf, Paper::SANS)
        line("Order, #{@machine}", 16, style: :bold)
        line([@shop, @day].compact.join(' · '))
        groups.each { |name, lines| group(name, lines) }
        sums
        ordered
        @pdf.number_pages('<page> of <total>', at: [0, -14], size: 8, align: :right)
        @pdf.render
      end

      private

      # Lines by whom they come from.
      def groups
        @view[:lines].group_by do |l|
          if l[:packs].positive? then l[:supplier] || 'no supplier named'
          else l[:why_not] ? 'not priced' : 'from the shelf'
          end
        end
      end

      def group(name, lines)
        @pdf.start_new_page if @pdf.cursor < 90
        @pdf.move_down(10)
        line(name, 12, style: :bold)
        order = @view[:orders].find { |o| (o[:supplier] || 'no supplier named') == name }
        line("#{order[:mode]}, goods #{money(order[:goods_cents])}, shipping #{money(order[:shipping_cents])}#{", here in #{order[:lead_days]} days" if order[:lead_days]}") if order
        row(COLUMNS.keys, style: :bold)
        lines.each { |l| row(cells(l)) }
      end

      def cells(line)
        buy = line[:packs].positive? ? "#{line[:packs]}#{" × #{line[:pack]}" if line[:pack] > 1}" : (line[:pieces] + line[:spare]).to_s
        ['☐', buy, line[:name], line[:article].to_s, line[:needed_by], line[:why_not] || money(line[:cents])]
      end

      def sums
        @pdf.move_down(12)
        tax = @view[:tax]
        least = @view[:unpriced].any? ? 'at least ' : ''
        line("In all #{least}#{money(@view[:cents])} #{@view[:currency]}, shipping #{money(@view[:shipping_cents])} among it", 11, style: :bold)
        said = tax[:added] ? "tax #{tax[:percent]} % added: #{money(tax[:cents])}, with it #{money(tax[:total_cents])}" : "tax #{tax[:percent]} % in it: #{money(tax[:cents])}"
        line(said)
        line("No price is known of: #{@view[:unpriced].join(', ')}") if @view[:unpriced].any?
        @view[:left_out].each { |words| line(words) }
        line("It can’t be ordered as it is: #{@view[:stuck]}") if @view[:stuck]
      end

      def ordered
        return if @view[:purchases].empty?

        @pdf.move_down(12)
        line('Ordered before', 12, style: :bold)
        least = 'at least ' if @view[:all_unpriced].any?
        line("All parts, ordered and still to be had: #{least}#{money(@view[:all_cents])} #{@view[:currency]}, shipping among it")
        @view[:purchases].each do |p|
          line([p[:name], p[:supplier], p[:article], p[:got] ? "#{p[:words]}: #{p[:got]} came" : p[:words], p[:ordered_on], money(p[:cents])].compact.join(' · '))
        end
      end

      def money(cents) = Buying::Cents.words(cents)

      def line(text, size = SIZE, **style)
        @pdf.text(Paper.said(text), size: size, **style)
        @pdf.move_down(3)
      end

      def row(texts, style: :normal)
        widths = COLUMNS.values.map { |share| share * @pdf.bounds.width }
        texts = texts.map { |t| Paper.said(t) }
        high = texts.zip(widths).map { |t, w| @pdf.height_of(t.empty? ? 'X' : t, size: SIZE, width: w - 6) }.max + 5
        @pdf.start_new_page if @pdf.cursor < high + 10
        top = @pdf.cursor
        @pdf.stroke_color('999999')
        @pdf.stroke_horizontal_rule
        texts.zip(widths).each_with_index do |(text, width), i|
          unless text.empty?
            @pdf.text_box(text, at: [widths.first(i).sum, top - 3], width: width - 6, size: SIZE, style: style,
              align: i == texts.size - 1 ? :right : :left)
          end
        end
        @pdf.move_cursor_to(top - high)
      end
    end
  end
end
