# frozen_string_literal: true

require_relative '../core/buying/cents'
require_relative 'paper'

module Miser
  module Formats
    # All machines of an owner on paper: what each kept before and after, what its parts came to, what is to be looked at again.
    class FleetPdf
      # Letters as large as one page lets them be; past the smallest there are more pages.
      SIZES = [10, 9, 8, 7, 6.5].freeze
      HEAD = ['machine', 'came in', 'now', 'parts', 'to be looked at again'].freeze
      # Shares of the page, column by column.
      WIDE = [0.3, 0.14, 0.14, 0.12, 0.3].freeze
      # Looks named for one machine.
      LOOKS = 4

      # @param sheet [Hash] owner, machines (rows), cents, currency, open @param on [String] the day @param shop [String, nil]
      def initialize(sheet, on:, shop: nil)
        @sheet = sheet
        @on = on
        @shop = shop
      end

      # @return [String] a PDF
      def to_s
        SIZES.each do |size|
          @size = size
          drawn
          break if @pdf.page_count == 1
        end
        @pdf.number_pages('<page> of <total>', at: [0, -14], size: 8, align: :right)
        @pdf.render
      end

      private

      def drawn
        @pdf = Prawn::Document.new(page_size: 'A4', page_layout: :landscape, margin: Paper::MARGIN, info: { Title: "Fleet, #{@sheet[:owner]}" })
        Paper.dress(@pdf, Paper::SANS)
        line(@sheet[:owner], 18, style: :bold)
        scenario = @sheet[:machines].filter_map { |m| m[:scenario] }.first
        line([@shop, @on, scenario && "amps kept: #{scenario}"].compact.reject(&:empty?).join(' · '), @size, color: '555555')
        row(HEAD, :bold)
        @sheet[:machines].each { |m| row(cells(m), :normal) }
        total
      end

      def said(text) = Paper.said(text.to_s)

      def line(text, size = @size, **style)
        @pdf.text(said(text), size: size, **style)
        @pdf.move_down(2)
      end

      def cells(machine)
        model = machine[:model] unless machine[:name].start_with?(machine[:model].to_s)
        facts = [model, machine[:year]&.to_i, machine[:frame], machine[:in_bay] ? 'in the bay' : nil].compact.join(' · ')
        looks = machine[:rechecks].map { |r| "#{r[:due_on]} #{r[:label]}#{" (#{r[:words]})" if r[:standing] == 'overdue'}" }
        more = looks.size > LOOKS ? ["and #{looks.size - LOOKS} more"] : []
        ["#{machine[:name]}  #{facts}", kept(machine[:before]), kept(machine[:after]), money(machine), [*looks.first(LOOKS), *more].join('; ')]
      end

      # @param figure [Hash, nil] as lists keep it
      def kept(figure)
        return '–' unless figure && figure['value']

        sigma = figure['sigma'] ? format(' ± %.1f', figure['sigma']) : ''
        "#{figure['value'].negative? ? 'owes' : 'keeps'} #{format('%.1f', figure['value'].abs)}#{sigma} A"
      end

      # @param sum [Hash] cents, at_least
      def money(sum)
        least = 'at least ' if sum[:at_least]
        sum[:cents].to_i.zero? && !least ? '–' : "#{least}#{Buying::Cents.words(sum[:cents].to_i)} #{@sheet[:currency]}".strip
      end

      def row(cells, style)
        texts = cells.map { |c| said(c) }
        wide = WIDE.map { |share| share * @pdf.bounds.width }
        high = texts.each_with_index.map { |t, i| @pdf.height_of(t.empty? ? 'X' : t, size: @size, width: wide[i] - 6) }.max + 7
        @pdf.start_new_page if @pdf.cursor < high
        top = @pdf.cursor
        @pdf.stroke_color('999999')
        @pdf.stroke_horizontal_rule
        texts.each_with_index do |text, i|
          @pdf.text_box(text, at: [wide.first(i).sum, top - 4], width: wide[i] - 6, size: @size, style: style) unless text.empty?
        end
        @pdf.move_cursor_to(top - high)
      end

      def total
        @pdf.stroke_horizontal_rule
        @pdf.move_down(6)
        words = ["#{@sheet[:machines].size} machines", "parts #{money(@sheet)}", "#{@sheet[:open]} to be looked at again"]
        words << "#{@sheet[:short]} owe" if @sheet[:short].positive?
        line(words.join(' · '), 10, style: :bold)
      end
    end
  end
end
