# frozen_string_literal: true

require_relative '../assumptions'
require_relative 'lamp'

module Miser
  module Job
    # A job document to be read: frozen, every part there even where nothing is entered,
    # whole numbers as floats so that no division truncates. The Hash itself stays what
    # goes over the wire, into the file and into undo.
    class Document
      NONE = {}.freeze
      NO_ROWS = [].freeze

      # @param given [Hash, Document]
      # @return [Document]
      def self.of(given) = given.is_a?(Document) ? given : new(given)

      # A part of a row, an empty one where it is not entered.
      # @param row [Hash, nil] @return [Hash]
      def self.part(row, key) = (row && row[key]) || NONE

      # Rows within a row.
      # @return [Array<Hash>]
      def self.rows(row, key) = (row && row[key]) || NO_ROWS

      # @param node [Object] @return [Object] frozen, its whole numbers floats
      def self.frozen(node)
        case node
        when Hash then node.transform_values { |v| frozen(v) }.freeze
        when Array then node.map { |v| frozen(v) }.freeze
        when Integer then node.to_f
        when String then node.frozen? ? node : node.dup.freeze
        else node
        end
      end

      # @return [Hash] the document as it was given
      attr_reader :hash_as_given

      # @param hash [Hash] a valid job document
      def initialize(hash)
        @hash_as_given = hash
        @read = Document.frozen(hash)
      end

      # @return [Hash] frozen
      def to_h = @read

      # A part that only one stage knows of.
      # @param key [String] @return [Hash] an empty one where nothing is entered
      def own(key) = @read[key] || NONE

      def inspect = "#<#{self.class} #{id}>"

      %w[id name bay fleet waiting note system handed_over].each { |key| define_method(key) { @read[key] } }
      # @!method machine
      #   @return [Hash] and so are the rest of these
      %w[machine bench signals aim beam].each { |key| define_method(key) { @read[key] || NONE } }
      # @!method positions
      #   @return [Array<Hash>] and so are the rest of these
      %w[circuits positions readings sums choices scenarios ride order].each { |key| define_method(key) { @read[key] || NO_ROWS } }

      # @return [Assumptions]
      def settings = @settings ||= Assumptions.new(@read['assumptions'] || NONE)

      # @param side [String] before or after
      # @return [Hash]
      def checks(side) = Document.part(@read['checks'], side)

      # Loads with what their lamp says of them: base, how many, where.
      # @return [Array<Hash>]
      def loads
        @loads ||= begin
          places = positions.to_h { |p| [p['id'], p] }
          rows = @read['loads'] || NO_ROWS
          places.empty? ? rows : rows.map { |row| placed(row, places[row['position_id']]) }
        end
      end

      # @return [Hash, nil]
      def load(id) = loads_by_id[id]

      # @return [Hash{String=>Hash}]
      def loads_by_id = @loads_by_id ||= loads.to_h { |l| [l['id'], l] }

      # @return [Hash{String=>Hash}] what was decided for the lamp that a load is in, by load
      def choices_by_load
        @choices_by_load ||= begin
          decided = choices.reject { |c| c['action'] == Lamp::TRIED }.to_h { |c| [c['position_id'], c] }
          loads.filter_map { |l| (c = decided[Document.lamp_id(l)]) && [l['id'], c] }.to_h
        end
      end

      # @return [Hash, nil] a choice by its id, a part tried among them
      def choice(id) = (@choices_by_id ||= choices.reverse.to_h { |c| [c['id'], c] })[id]

      # The lamp that a load is in; one that is in none stands for itself.
      # @param load [Hash] @return [String] id of a position
      def self.lamp_id(load) = load['position_id'] || load['id']

      # @return [Array<Lamp>] in the order they were entered
      def lamps
        @lamps ||= begin
          inside = loads.select { |l| l['position_id'] || (l['group'] == 'lamp' && !l['wanted']) }.group_by { |l| Document.lamp_id(l) }
          said = choices.group_by { |c| c['position_id'] }
          known = positions.to_h { |p| [p['id'], p] }
          (known.keys | inside.keys).map do |id|
            rows = inside[id] || NO_ROWS
            Lamp.new(known[id] || alone(rows.first), rows, said[id] || NO_ROWS)
          end
        end
      end

      # @param lamp [Lamp]
      # @return [Array<Lamp>] that do the same and have the same base, itself among them
      def lamps_like(lamp) = (@lamps_like ||= lamps.group_by { |l| [l.base, l.does] }).fetch([lamp.base, lamp.does], [])

      # @return [Lamp, nil]
      def lamp(id) = lamps.find { |l| l.id == id }

      # @param ids [Array<String>] of lamps @return [Array<String>] ids of the loads in them
      def loads_of(ids) = loads.select { |l| ids.include?(Document.lamp_id(l)) }.map { |l| l['id'] }

      # @return [Lamp, nil] that a load is in
      def lamp_of(load) = lamp(Document.lamp_id(load))

      # @return [Hash, nil] the first load of that role
      def role(key) = loads.find { |l| l['role'] == key }

      def signal_lamps? = loads.any? { |l| l['role'].to_s.start_with?('signal_') }

      def headlamps? = loads.any? { |l| l['role'].to_s.start_with?('head_') }

      # @return [Array<Lamp>] that dip or main
      def headlamps = lamps.select(&:head?)

      # @return [Boolean] whether a headlamp was changed and nobody says that its beam was aimed since; one that stays may be right as it is
      def beam_unaimed? = aim['set'] != true && headlamps.any?(&:part)

      # @return [Array<Hash>]
      def walls = Document.rows(beam, 'walls')

      # @return [Array<Hash>]
      def photographs = Document.rows(beam, 'photographs')

      # @return [Array<Hash>] photometry files kept with the job
      def photometry = Document.rows(beam, 'photometry')

      # @return [Hash] what is asked of the photometry looked at
      def predicted = Document.part(beam, 'predicted')

      # @return [Hash, nil]
      def wall(id) = walls.find { |w| w['id'] == id }

      def data_bus? = @read['system'] == 'data_bus'

      private

      # A lamp's own row where nobody entered one.
      def alone(load) = load.slice('id', 'name', 'count').merge('holder' => load.slice('base'))

      def placed(row, position)
        return row unless position

        side = position['place'] || [position['end'], position['side']].compact.join(' ')
        said = { 'base' => position.dig('holder', 'base'), 'count' => position['count'], 'position' => side.empty? ? nil : side,
                 'end' => position['end'] }.compact
        row.merge(said).freeze
      end
    end
  end
end
