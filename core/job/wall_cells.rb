# frozen_string_literal: true

require_relative 'document'

module Miser
  module Job
    # Takes many readings of a wall into the job at once.
    module WallCells
      # @param document [Hash] @param id [String] of the wall
      # @param cells [Hash{String=>Float, nil}] lux by mark; those without leave what is there
      # @return [Hash]
      def self.take(document, id, cells)
        walls = document['beam']['walls'].map do |wall|
          next wall unless wall['id'] == id

          known = Document.rows(wall, 'cells').to_h { |c| [c['id'], c] }
          cells.compact.each { |mark, lux| known[mark] = { 'id' => mark, 'lux' => lux } }
          wall.merge('cells' => known.values)
        end
        document.merge('beam' => document['beam'].merge('walls' => walls))
      end
    end
  end
end
