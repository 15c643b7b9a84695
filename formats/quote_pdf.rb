# frozen_string_literal: true

require_relative '../core/buying/cents'
require_relative '../core/quote/mind'
require_relative '../core/verdicts/words'
require_relative 'paper'

module Miser
  module Formats
    # A quote on one sheet: its offers side by side, each down to the line. The letters get smaller until it fits; where
    # the smallest does not, lists are cut and say how much more there is.
    class QuotePdf
      SIZES = [9, 8.5, 8, 7.5, 7, 6.5, 6, 5.5, 5].freeze
      # Lines of a list on the sheet, where even the smallest letters are too large.
      MOST = [60, 30, 20, 14, 10, 7, 5, 3].freeze
      HEAD_W = 74
      GAP = 10

      # @!attribute text [String] @!attribute right [String, nil] a figure at the right @!attribute bold [Boolean]
      Line = Struct.new(:text, :right, :bold)

      # @param quote [Hash] of a job: see formats/schema/quote.json
      # @param machine [String] @param shop [String, nil] its name
      # @param valid_until [String, nil] a day @param state [String] what has become of it, in words
      # @param now [Time] printed at
      def initialize(quote, machine:, state:, shop: nil, valid_until: nil, now: Time.now)
        @quote = quote
        @machine = machine
        @shop = shop
        @valid_until = valid_until
        @state = state
        @now = now
      end

      # @return [String] a PDF of one page
      def to_s
        @pdf = Prawn::Document.new(page_size: 'A4', margin: Paper::MARGIN, info: { Title: title, CreationDate: @now })
        Paper.dress(@pdf, Paper::SANS)
        # Each way takes less room than the one before.
        tries = [*SIZES.map { |size| [size, MOST.first] }, *MOST.drop(1).map { |most| [SIZES.last, most] }]
        @size, @most = tries.bsearch { |size, most| fits?(size, most) } || tries.last
        draw
        @pdf.render
      end

      # What the sheet says, row by row: the head of a row, and of each offer its lines.
      # @return [Array<Array(String, Array<Array<Line>>)>]
      def rows
        all = SECTIONS.map do |head, lines|
          [head.is_a?(Proc) ? instance_exec(&head) : head, @quote['offers'].map { |offer| instance_exec(offer, &lines) }]
        end
        all.reject { |_, cells| cells.all?(&:empty?) }
      end

      SECTIONS = [
        ['', ->(o) { [Line.new(o['name'], nil, true)] }],
        ['what changes', ->(o) { texts(o['changes']) + texts((o['left_out'] || []).map { |t| "left out: #{t}" }) }],
        ['parts', ->(o) { o['lines'].reject { |l| l['used_up'] }.map { |l| goods(l) } }],
        ['used up', ->(o) { used_up(o) }],
        ['shipping', ->(o) { [Line.new('', words(o['shipping_cents']))] }],
        ['work', ->(o) { work(o) }],
        [-> { tax_head }, ->(o) { [Line.new('', words(o['tax_cents']))] }],
        [-> { "total #{@quote['currency']}".strip }, ->(o) { [total(o)] }],
        ['not in it', ->(o) { texts(o['missing']) }],
        ['kept, A', ->(o) { (o['keeps'] || []).flat_map { |k| kept(k) } }],
        ['dipped beam', ->(o) { o['light'] ? [Line.new("#{figure(o['light'])} times the light, as claimed")] : [] }],
        ['parts here in', ->(o) { o['lead_days'] ? [Line.new("#{o['lead_days']} days")] : [] }],
        ['to know', ->(o) { texts(o['mind']) }]
      ].freeze
      private_constant :SECTIONS

      private

      def title = "Quote #{@quote['number']}, #{@machine}"

      def tax_head = "#{@quote['tax'] == 'added' ? 'tax' : 'tax in it'} #{figure(@quote['tax_percent'] || 0)} %"

      def figure(number) = number == number.to_i ? number.to_i.to_s : number.round(2).to_s

      def words(cents) = Buying::Cents.words(cents)

      def texts(list) = (list || []).map { |t| Line.new(t) }

      def goods(line) = Line.new(line['count'] > 1 ? "#{line['count']} × #{line['name']}" : line['name'], words(line['cents']))

      def total(offer) = Line.new((offer['missing'] || []).any? ? 'at least' : '', words(offer['total_cents']), true)

      # One sum, and what it is for.
      def used_up(offer)
        lines = offer['lines'].select { |l| l['used_up'] }
        return [] if lines.empty?

        known = lines.filter_map { |l| l['cents'] }
        names = lines.map { |l| l['name'].split(',').first.downcase }.uniq
        [Line.new(names.join(', '), known.size == lines.size ? words(known.sum) : "at least #{words(known.sum)}")]
      end

      def work(offer)
        rate = @quote['rate_cents'] ? " at #{words(@quote['rate_cents'])} an hour" : ''
        lines = offer['work'].map { |w| Line.new("#{w['name']}, #{figure(w['minutes'])} min", w['cents'] ? words(w['cents']) : '') }
        lines.any? ? [*lines, Line.new("#{figure(offer['minutes'])} min#{rate}")] : []
      end

      def kept(keep)
        verdict = keep['after'] ? ", #{Verdicts::Words::KEPT.fetch(keep['after'])}" : ''
        [Line.new("#{keep['label']}: #{side(keep, 'before')} before, #{side(keep, 'after')} after#{verdict}")]
      end

      def side(keep, name)
        amps, sigma = keep.values_at("#{name}_a", "#{name}_sigma_a")
        amps ? "#{format('%.1f', amps).tr('-', '−')} ± #{format('%.1f', sigma || 0)}" : 'not known'
      end

      def foot
        [@quote['notes'], Quote::Mind::LAW].compact.reject(&:empty?)
      end

      def head_lines
        facts = [@shop, "made on #{@quote['made_on']}", @valid_until && "holds until #{@valid_until}", @state]
        [facts.compact.reject(&:empty?).join(' · '), @quote['intro']].compact.reject(&:empty?)
      end

      def said(text) = Paper.said(text.to_s)

      def column_w = (@pdf.bounds.width - HEAD_W - (GAP * @quote['offers'].size)) / @quote['offers'].size

      def money_w = @pdf.width_of('0' * 11, size: @size)

      def fits?(size, most)
        @size = size
        @most = most
        head_h + rows.sum { |_, cells| row_h(cells) } + foot_h <= @pdf.bounds.height
      end

      def text_h(text, size, width) = (@heights ||= {})[[text, size, width]] ||= @pdf.height_of(said(text), size: size, width: width) + 2

      def head_h = text_h(title, 16, @pdf.bounds.width) + head_lines.sum { |t| text_h(t, @size, @pdf.bounds.width) } + 8

      def foot_h = foot.sum { |t| text_h(t, @size, @pdf.bounds.width) } + 40

      def cut(lines) = lines.size > @most ? [*lines.first(@most - 1), Line.new("and #{lines.size - @most + 1} more")] : lines

      def row_h(cells) = cells.map { |lines| cut(lines).sum { |l| line_h(l) } }.max.then { |h| [h, text_h('X', @size, HEAD_W)].max + 6 }

      def line_h(line) = text_h(line.text.to_s.empty? ? 'X' : line.text, @size, line_w(line))

      def line_w(line) = line.right ? column_w - money_w : column_w

      def draw
        line(title, 16, style: :bold)
        head_lines.each { |t| line(t, @size) }
        @pdf.move_down(8)
        rows.each { |head, cells| row(head, cells) }
        @pdf.stroke_horizontal_rule
        @pdf.move_down(4)
        foot.each { |t| line(t, @size) }
        sign
      end

      def line(text, size, **style)
        @pdf.text(said(text), size: size, **style)
        @pdf.move_down(2)
      end

      def row(head, cells)
        top = @pdf.cursor
        @pdf.stroke_color('999999')
        @pdf.stroke_horizontal_rule
        box(head, 0, top - 4, HEAD_W, color: '555555')
        cells.each_with_index { |lines, i| cell(cut(lines), HEAD_W + GAP + (i * (column_w + GAP)), top - 4) }
        @pdf.move_cursor_to(top - row_h(cells))
      end

      def cell(lines, left, top)
        lines.each do |l|
          box(l.text, left, top, line_w(l), style: l.bold ? :bold : :normal)
          box(l.right, left + column_w - money_w, top, money_w, align: :right, style: l.bold ? :bold : :normal) if l.right
          top -= line_h(l)
        end
      end

      def box(text, left, top, width, color: '000000', **rest)
        return if text.to_s.empty?

        @pdf.fill_color(color)
        @pdf.text_box(said(text), at: [left, top], width: width, size: @size, **rest)
        @pdf.fill_color('000000')
      end

      # Where the owner signs, as long as nobody has.
      def sign
        return if @quote['accepted']

        @pdf.move_down(18)
        line('Accepted: plan ______   date ______________   name ______________________________', @size)
      end
    end
  end
end
