# frozen_string_literal: true

require_relative '../assumptions'

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
      %w[machine bench signals aim headlight beam].each { |key| define_method(key) { @read[key] || NONE } }
      # @!method loads
      #   @return [Array<Hash>] and so are the rest of these
      %w[circuits loads readings choices scenarios ride order].each { |key| define_method(key) { @read[key] || NO_ROWS } }

      # @return [Assumptions]
      def settings = @settings ||= Assumptions.new(@read['assumptions'] || NONE)

      # @param side [String] before or after
      # @return [Hash]
      def checks(side) = Document.part(@read['checks'], side)

      # @return [Hash, nil]
      def load(id) = loads_by_id[id]

      # @return [Hash{String=>Hash}]
      def loads_by_id = @loads_by_id ||= loads.to_h { |l| [l['id'], l] }

      # @return [Hash{String=>Hash}] by the load it is for
      def choices_by_load = @choices_by_load ||= choices.to_h { |c| [c['load_id'], c] }

      # @return [Hash, nil] the first load of that role
      def role(key) = loads.find { |l| l['role'] == key }

      def lamps = loads.select { |l| l['group'] == 'lamp' }

      def signal_lamps? = loads.any? { |l| l['role'].to_s.start_with?('signal_') }

      def headlamps? = loads.any? { |l| l['role'].to_s.start_with?('head_') }

      # @return [Hash] the lamp housing as measured
      def housing = Document.part(headlight, 'housing')

      # @return [Array<Hash>] headlights thought of
      def candidates = Document.rows(headlight, 'candidates')

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
    end
  end
end
