# frozen_string_literal: true

require 'prawn-svg'
require_relative '../core/card/card'
require_relative '../core/card/expected'
require_relative '../core/wiring/joining'
require_relative 'strip_drawing'
require_relative 'wiring_svg'
require_relative 'paper'

module Miser
  module Formats
    # What lies at the machine, on paper: the job card, the sheet that lies under the fasteners, the joining table, the
    # sheet of the function check. Letters are large enough for an arm's length.
    class CardPdf
      SHEETS = { 'card' => :card, 'tray' => :tray, 'joints' => :joints, 'check' => :check }.freeze
      LAYOUTS = { 'card' => :portrait, 'tray' => :landscape, 'joints' => :portrait, 'check' => :landscape }.freeze
      PAPERS = { 'a4' => 'A4', 'letter' => 'LETTER' }.freeze
      SIZE = 12
      SMALL = 10
      GREY = '555555'
      RED = '8c1d0b'
      # Places across the tray's sheet, and mm that one is high: a screw lies on it.
      PLACE_HIGH = 96
      # Points a line of the check's table is high.
      CELL_HIGH = 30

      # @param card [Card::Card] @param ticket [Ticket]
      # @param sheets [Array<String>] of SHEETS @param paper [String] of PAPERS
      # @param shop [String, nil] @param on [String] a day
      def initialize(card, ticket, on:, sheets: SHEETS.keys, paper: 'a4', shop: nil)
        @card = card
        @ticket = ticket
        @sheets = sheets
        @paper = PAPERS.fetch(paper)
        @shop = shop
        @day = on
      end

      # @return [String] a PDF
      def to_s
        @pdf = Prawn::Document.new(page_size: @paper, margin: Paper::MARGIN, page_layout: LAYOUTS.fetch(@sheets.first),
          info: { Title: "Job card, #{machine}" })
        Paper.dress(@pdf, Paper::SANS)
        # Half the work, and nobody sees it at an arm’s length.
        @pdf.default_kerning(false)
        @fresh = true
        @sheets.each { |sheet| send(SHEETS.fetch(sheet)) }
        @pdf.number_pages('<page> of <total>', at: [0, -14], size: 8, align: :right)
        @pdf.render
      end

      private

      def machine = @ticket.document.name.to_s

      def page(title, layout: :portrait)
        @pdf.start_new_page(layout: layout) unless @fresh
        @fresh = false
        line("#{title}: #{machine}", 18, style: :bold)
        line([@shop, @ticket.document.bay, @day].compact.reject(&:empty?).join(' · '), SMALL, color: GREY)
        @pdf.move_down(6)
      end

      def said(text) = Paper.said(text.to_s)

      # Cautions and tools come again and again.
      def text_h(text, size, width) = (@heights ||= {})[[text, size, width]] ||= @pdf.height_of(said(text), size: size, width: width)

      def line(text, size = SIZE, indent: 0, **style)
        return if text.to_s.empty?

        @pdf.indent(indent) { @pdf.text(said(text), size: size, **style) }
        @pdf.move_down(2)
      end

      # --- the card

      def card
        page('Job card')
        line("#{@card.done} of #{@card.steps.size} done, #{@card.minutes_words}.")
        @pdf.move_down(4)
        @card.steps.chunk_while { |a, b| a.block == b.block }.each { |steps| block(steps) }
        oddities
      end

      def block(steps)
        room(70)
        @pdf.move_down(6)
        line(steps.first.block, 13, style: :bold)
        steps.each { |s| step(s) }
      end

      def step(step)
        state = @card.state(step)
        extra = details(step, state)
        text_w = @pdf.bounds.width - 46 - 130
        high = [text_h(step.text, SIZE, text_w), 16].max + extra.sum do |t, _|
          text_h(t, SMALL, text_w) + 1
        end + 7
        room(high)
        top = @pdf.cursor
        tick_box(top, state)
        @pdf.text_box(number(step).to_s, at: [18, top], width: 24, size: SIZE, align: :right)
        body(step, extra, top, text_w)
        @pdf.text_box(said([step.tool, step.minutes && "#{step.minutes.round} min"].compact.join(' · ')), at: [@pdf.bounds.width - 124, top], width: 124, size: SMALL, align: :right)
        @pdf.move_cursor_to(top - high)
      end

      def number(step) = (@numbers ||= @card.steps.each_with_index.to_h { |s, i| [s.key, i + 1] }).fetch(step.key)

      def tick_box(top, state)
        @pdf.stroke_rectangle([0, top], 11, 11)
        return if state == 'open'

        @pdf.text_box(state == 'done' ? 'x' : '!', at: [2, top], width: 11, size: 11, style: :bold)
      end

      def body(step, extra, top, width)
        @pdf.text_box(said(step.text), at: [46, top], width: width, size: SIZE, style: step.hold ? :bold : :normal)
        at = top - text_h(step.text, SIZE, width) - 2
        extra.each do |text, colour|
          @pdf.fill_color(colour)
          @pdf.text_box(said(text), at: [46, at], width: width, size: SMALL)
          @pdf.fill_color('000000')
          at -= text_h(text, SMALL, width) + 1
        end
      end

      def details(step, state)
        places = @card.tray.of(step.key).map { |c| "#{c.place}: #{c.count} × #{@card.tray.name(c)}" }
        back = step.back_of ? @card.tray.of(step.back_of).map(&:place) : []
        [[step.detail, GREY], *step.cautions.map { |c| ["Caution: #{c}", RED] }, [step.hold && "HOLD. #{step.hold}", RED],
          [places.any? ? "Out, to the tray: #{places.join('; ')}" : nil, GREY],
          [back.any? ? "Back, from the tray: #{back.join(', ')}" : nil, GREY],
          [state == 'changed' ? 'Changed since it was ticked.' : nil, RED], *@card.log.notes(step.key).map do |n|
                                                                              ["Note: #{n['text']}", '000000']
                                                                            end].reject { |text, _| text.nil? }
      end

      def oddities
        list = @card.oddities.map(&:text) + @card.tray.problems
        return if list.empty?

        room(40)
        @pdf.move_down(8)
        line('To look at', 13, style: :bold)
        list.each { |t| line(t) }
      end

      # Goes on a new page where so much is not left.
      # @return [Boolean] whether it did
      def room(points)
        return false if @pdf.cursor >= points

        @pdf.start_new_page(layout: @pdf.page.layout)
        true
      end

      # --- the tray

      def tray
        page('Tray, to lay under the fasteners', layout: :landscape)
        cells = @card.tray.cells
        return line('Nothing comes out.') if cells.empty?

        wide = @pdf.bounds.width / Card::Tray::WIDE
        cells.each_slice(Card::Tray::WIDE) do |row|
          room(PLACE_HIGH)
          top = @pdf.cursor
          row.each_with_index { |cell, i| place(cell, i * wide, top, wide) }
          @pdf.move_cursor_to(top - PLACE_HIGH)
        end
      end

      def place(cell, left, top, wide)
        @pdf.line_width(1.2)
        @pdf.stroke_rectangle([left, top], wide, PLACE_HIGH)
        @pdf.text_box(cell.place, at: [left + 5, top - 4], size: 15, style: :bold, width: 50)
        @pdf.text_box("× #{cell.count}", at: [left + wide - 60, top - 4], size: 15, width: 55, align: :right)
        words = [@card.tray.name(cell), [cell.facts['from'], *@card.tray.beside(cell)].compact.join(', '),
          cell.lost.positive? ? "#{cell.lost} missing" : nil].compact
        @pdf.text_box(said(words.join("\n")), at: [left + 5, top - 24], width: wide - 10, height: PLACE_HIGH - 26, size: SMALL, overflow: :shrink_to_fit)
        @pdf.line_width(1)
      end

      # --- joints

      def joints
        page('Joining table')
        rows = Wiring::Joining.rows(@ticket.document)
        if rows.any?
          table(['what it does', 'machine', 'joins'], [0.34, 0.3, 0.36], rows.map { |r| [r.label, r.machine.join("\n"), r.parts.join("\n")] })
          @pdf.move_down(10)
        end
        wires = @card.work.laid.flat_map { |f| f.wires.map { |w| [f, w] } }
        return line(rows.any? ? '' : 'No wire is joined on this machine.') if wires.empty?

        table(['for', 'wire', 'ends', 'size, colour', 'joined by'], [0.2, 0.18, 0.28, 0.2, 0.14], wires.map { |f, w| wire(f, w) })
        line('Prove each wire with the meter before it is joined: colours mean nothing across makers.', SIZE, style: :bold)
        diagram
      end

      # Where each wire lies, across a sheet of its own.
      def diagram
        page('Wires, from front to rear', layout: :landscape)
        drawing = WiringSvg.new(machine, strip: StripDrawing.new(@ticket.wiring))
        wide = @pdf.bounds.width / drawing.width
        fits = wide * drawing.height <= @pdf.cursor
        @pdf.svg(said(drawing.to_s).gsub(WiringSvg::MONO, @pdf.font.family), enable_web_requests: false,
          **(fits ? { width: @pdf.bounds.width } : { height: @pdf.cursor }))
      end

      def wire(feed, wire)
        size = [Draw::Conductor.words(wire.area, @ticket.units), wire.colour || 'colour not entered',
          Length.tape(wire.length, @ticket.units)].join(', ')
        fuse = wire.fused && feed.fuse_a ? format(', fuse %g A', feed.fuse_a) : ''
        [feed.load['name'], "#{wire.label}#{fuse}", "#{wire.from} – #{wire.to}", size, (Feeds::Joins::TABLE.find { |j| j.key == wire.join }&.label || '').to_s]
      end

      def table(heads, shares, rows)
        widths = shares.map { |s| s * @pdf.bounds.width }
        table_row(heads, widths, style: :bold)
        rows.each { |r| table_row(r, widths) }
      end

      def table_row(texts, widths, style: :normal)
        texts = texts.map { |t| said(t) }
        high = texts.zip(widths).map { |t, w| @pdf.height_of(t.empty? ? 'X' : t, size: SIZE, width: w - 6) }.max + 7
        room(high)
        top = @pdf.cursor
        @pdf.stroke_color('999999')
        @pdf.stroke_horizontal_rule
        @pdf.stroke_color('000000')
        texts.zip(widths).each_with_index do |(text, width), i|
          @pdf.text_box(text, at: [widths.first(i).sum, top - 3], width: width - 6, size: SIZE, style: style) unless text.empty?
        end
        @pdf.move_cursor_to(top - high)
      end

      # --- the function check

      def check
        %w[before open].each { |side| check_side(side) }
      end

      def check_side(side)
        page("Function check, #{Card::FunctionCheck::SIDES.fetch(side)}", layout: :landscape)
        check = @card.check
        expected = Card::Expected.new(@ticket, check, side)
        states = check.states
        first = 150
        wide = (@pdf.bounds.width - first) / states.size
        head = -> { check_row(['lamp', *states.map(&:label)], first, wide, bold: true) }
        head.call
        check.cells(side).group_by(&:lamp).each do |lamp, cells|
          head.call if room(CELL_HIGH)
          check_row([lamp.name, *cells.map { |c| cell_words(c, expected) }], first, wide)
        end
        @pdf.move_down(6)
        line('works ✓ · dim · dark · wrong colour · wrong rate · lit, and should not be', SMALL)
      end

      def cell_words(cell, expected)
        [Card::Expected::WORDS.fetch(expected.of(cell.lamp, cell.state)), cell.saw && (cell.saw == 'ok' ? '✓' : Card::FunctionCheck::SAW.fetch(cell.saw))].compact.join("\n")
      end

      def check_row(texts, first, wide, bold: false)
        top = @pdf.cursor
        texts.each_with_index do |text, i|
          left = i.zero? ? 0 : first + ((i - 1) * wide)
          width = i.zero? ? first : wide
          @pdf.stroke_rectangle([left, top], width, CELL_HIGH)
          @pdf.text_box(said(text), at: [left + 3, top - 3], width: width - 6, height: CELL_HIGH - 4, size: i.zero? ? 11 : SMALL,
            style: bold ? :bold : :normal,
            overflow: :shrink_to_fit, align: i.zero? ? :left : :center)
        end
        @pdf.move_cursor_to(top - CELL_HIGH)
      end
    end
  end
end
