# frozen_string_literal: true

require 'json'

module Miser
  module Formats
    # JSON whose numbers are numbers and whose texts can be kept: the parser turns 1e999 into infinity, which no field takes; SQLite
    # ends a text at a zero.
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
        sound(data)
        data
      end

      def sound(node)
        case node
        when Hash then node.each { |key, value| [key, value].each { |part| sound(part) } }
        when Array then node.each { |value| sound(value) }
        when Float then raise JSON::ParserError, 'a number is out of range' unless node.finite?
        when String then raise JSON::ParserError, 'a text has a zero character' if node.include?("\0")
        end
      end
    end
  end
end
