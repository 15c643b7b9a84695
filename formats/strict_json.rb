# frozen_string_literal: true

require 'json'

module Miser
  module Formats
    # JSON whose numbers are numbers: the parser turns 1e999 into infinity, which no field takes.
    module StrictJson
      # Levels that Miser takes in, keeps and gives out.
      NESTING = 40

      module_function

      # @param levels [Integer]
      # @return [Boolean] whether it has no more of them
      def shallow?(node, levels)
        return true unless node.is_a?(Enumerable)

        levels.positive? && (node.is_a?(Hash) ? node.values : node).all? { |inner| shallow?(inner, levels - 1) }
      end

      # @param text [String] UTF-8 @param nesting [Integer] levels at the most
      # @return [Object]
      # @raise [JSON::ParserError]
      def read(text, nesting:)
        data = JSON.parse(text, max_nesting: nesting, allow_nan: false)
        finite(data)
        data
      end

      def finite(node)
        case node
        when Hash then node.each_value { |value| finite(value) }
        when Array then node.each { |value| finite(value) }
        when Float then raise JSON::ParserError, 'a number is out of range' unless node.finite?
        end
      end
    end
  end
end
