# frozen_string_literal: true

module Miser
  module Server
    # Core values as the contract's JSON.
    module Present
      # Digits that are sent: more than any meter has.
      DIGITS = 7

      module_function

      # @param figure [Figure]
      # @param id [String, nil] by which its working is asked for
      # @return [Hash]
      def figure(figure, id = nil)
        shown = { value: finite(figure.value), unit: figure.unit, assumed: figure.assumed }
        shown[:sigma] = finite(figure.sigma) if figure.sigma
        shown[:reason] = figure.reason if figure.reason
        shown[:id] = id if id
        shown
      end

      # @param text [Formats::DrawnText]
      # @return [Hash]
      def drawn_words(text) = text.to_h.merge(line: (text.size * Formats::LINE).round(2))

      # JSON has no infinities; a figure that ran off is not shown as one.
      # @return [Numeric, nil]
      def finite(number) = number&.finite? ? significant(number) : nil

      def significant(number, digits = DIGITS)
        number.is_a?(Float) && number != 0 ? number.round(digits - 1 - Math.log10(number.abs).floor) : number
      end

      # @return [Hash]
      def working(figure)
        working = figure.working
        { title: working.title, formula: working.formula, source: working.source, notes: working.notes,
          inputs: working.inputs.map { |i| i.to_h.merge(value: finite(i.value), sigma: finite(i.sigma)) }, figure: figure(figure) }
      end
    end
  end
end
