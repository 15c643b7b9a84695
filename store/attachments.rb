# frozen_string_literal: true

module Miser
  module Store
    # Files kept with jobs, as they are.
    class Attachments
      # @!attribute id [String] @!attribute type [String] media type @!attribute bytes [String]
      Kept = Struct.new(:id, :type, :bytes, keyword_init: true)

      # @param database [Sequel::Database]
      def initialize(database)
        @table = database[:attachments]
      end

      # @return [void]
      def put(job, kept)
        @table.insert_conflict(:replace).insert(job_id: job, id: kept.id, type: kept.type, bytes: Sequel.blob(kept.bytes))
      end

      # @return [Kept, nil]
      def find(job, id)
        @table.where(job_id: job, id: id).first&.then { |row| Kept.new(id: row[:id], type: row[:type], bytes: row[:bytes].to_s.b) }
      end

      # @param ids [Array<String>]
      # @return [Integer] bytes they take
      def bytes(job, ids) = @table.where(job_id: job, id: ids).sum(Sequel.function(:length, :bytes)).to_i

      # @param ids [Array<String>]
      # @return [Array<Kept>] those there are
      def of(job, ids) = ids.filter_map { |id| find(job, id) }
    end
  end
end
