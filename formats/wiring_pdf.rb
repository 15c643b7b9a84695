# frozen_string_literal: true

require 'prawn-svg'
require_relative 'paper'

module Miser
  module Formats
    # A drawing on paper, across, as large as the sheet takes.
    module WiringPdf
      module_function

      # @param title [String] @param drawings [Array<WiringSvg>] each on a sheet of its own
      # @return [String] a PDF
      def write(title, drawings)
        pdf = Prawn::Document.new(page_size: 'A4', page_layout: :landscape, margin: 28, info: { Title: title })
        Paper.dress(pdf, Paper::MONO)
        pdf.text(said(title), size: 12)
        drawings.each_with_index do |drawing, i|
          pdf.start_new_page if i.positive? && pdf.cursor < high(pdf, drawing)
          pdf.move_down(6)
          pdf.svg(said(drawing.to_s).gsub(WiringSvg::MONO, pdf.font.family), enable_web_requests: false, **fitting(pdf, drawing))
        end
        pdf.render
      end

      def said(text) = Paper.said(text, Paper::MONO)

      # As wide as the sheet, unless that is higher than one.
      def high(pdf, drawing) = [pdf.bounds.width / drawing.width * drawing.height, pdf.bounds.height].min

      def fitting(pdf, drawing) = high(pdf, drawing) < pdf.bounds.height ? { width: pdf.bounds.width } : { height: pdf.cursor }
      private_class_method :said, :high, :fitting
    end
  end
end
