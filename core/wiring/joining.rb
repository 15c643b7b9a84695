# frozen_string_literal: true

require_relative '../feeds/lines'
require_relative '../job/document'

module Miser
  module Wiring
    # Which colour of the machine joins which of the parts, by what it does.
    module Joining
      # @!attribute label [String] what it does @!attribute machine, parts [Array<String>] colours, in words
      Row = Struct.new(:label, :machine, :parts, keyword_init: true)
      EARTH = 'earth (31)'

      module_function

      # @param document [Job::Document] @return [Array<Row>] where both sides are known
      def rows(document)
        colours = Job::Document.rows(document.own('wiring'), 'colours')
        labels = Feeds::Lines::TABLE.to_h { |l| [l.key, l.label] }.merge('earth' => EARTH)
        labels.filter_map do |key, label|
          own, others = colours.select { |r| r['function'] == key }.partition { |r| r['of'].to_s.empty? }
          next if own.empty? || others.empty?

          Row.new(label: label, machine: own.map { |r| said(r) }, parts: others.map { |r| "#{said(r)}, #{part_name(document, r['of'])}" })
        end
      end

      def said(row) = "#{row['colour'] || 'colour not entered'}#{row['proved'] ? ', proved' : ', not proved'}"
      def part_name(document, id) = document.load(id)&.fetch('name', nil) || id
      private_class_method :said, :part_name
    end
  end
end
