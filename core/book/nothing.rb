# frozen_string_literal: true

module Miser
  module Book
    # A shop that has learnt nothing yet: what a ticket asks where nobody keeps a book.
    module Nothing
      module_function

      # @param key [String, nil] of a model @param but [String, nil] a machine that is left out
      # @return [ModelRecord, nil]
      def model(_key, but: nil) = but && nil

      # @param name [String] @param shelf_id [String, nil]
      # @return [PartRecord, nil]
      def part(_name, _shelf_id = nil) = nil

      # Other jobs on the machine, the earliest first.
      # @return [Array<Visit>]
      def visits(_machine) = []

      # Other machines of that frame number.
      # @return [Array<Hash>] id, name
      def twins(_frame, _machine) = []

      # @return [Hash, nil] the machine as the book has it
      def machine(_id) = nil
    end

    # A job in the book. @!attribute job, name, came_in [String] @!attribute distance_km, hours [Float, nil] as its counters read
    Visit = Struct.new(:job, :name, :came_in, :distance_km, :hours, keyword_init: true)
  end
end
