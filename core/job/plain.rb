# frozen_string_literal: true

module Miser
  module Job
    # Rows that were computed, as the document keeps them.
    module Plain
      # @param node [Object] @return [Object] whole numbers whole, nothing frozen
      def self.of(node)
        case node
        when Hash then node.transform_values { |v| of(v) }
        when Array then node.map { |v| of(v) }
        when Float then node == node.to_i ? node.to_i : node.round(6)
        else node
        end
      end
    end
  end
end
