# frozen_string_literal: true

module Miser
  module Store
    # Pieces on the shelf: what was counted there, and what jobs have brought and taken since.
    class Stock
      # @param database [Sequel::Database]
      def initialize(database)
        @db = database
      end

      # @return [Hash{String=>Integer}] pieces on the shelf by part; fewer than none where more was taken than was there
      def pieces
        counted = @db[:stock].as_hash(:part_id, :counted)
        moved.each_with_object(counted) { |(part, n), all| all[part] = all.fetch(part, 0) + n }
      end

      # @return [Hash{String=>Integer}] pieces under which a part is to be bought again
      def reorder = @db[:stock].exclude(reorder_at: nil).as_hash(:part_id, :reorder_at)

      # What lies there now.
      # @param pieces [Integer, nil] counted; nil leaves the count @param reorder_at [Integer, nil]
      # @return [void]
      def put(part_id, pieces: nil, reorder_at: nil)
        @db.transaction(mode: :immediate) do
          counted = pieces ? pieces - moved(part_id).fetch(part_id, 0) : @db[:stock].where(part_id: part_id).get(:counted) || 0
          @db[:stock].insert_conflict(:replace).insert(part_id: part_id, counted: counted, reorder_at: reorder_at)
        end
      end

      # What one job has brought and taken in all.
      # @param moves [Hash{String=>Integer}] by part
      # @return [void]
      def moved_by(job_id, moves)
        rows = @db[:stock_moves].where(job_id: job_id)
        return if rows.as_hash(:part_id, :pieces) == moves

        rows.delete
        @db[:stock_moves].import(%i[job_id part_id pieces], moves.map { |part, n| [job_id, part, n] })
      end

      # A job that is thrown away for good leaves the shelf as it made it.
      # @return [void]
      def keep_moves_of(job_id)
        @db[:stock_moves].where(job_id: job_id).select_map(%i[part_id pieces]).each do |part, n|
          @db[:stock].where(part_id: part).update(counted: Sequel[:counted] + n)
        end
      end

      private

      def moved(part_id = nil)
        rows = part_id ? @db[:stock_moves].where(part_id: part_id) : @db[:stock_moves]
        rows.group(:part_id).select(:part_id, Sequel.function(:sum, :pieces).as(:n)).as_hash(:part_id, :n)
      end
    end
  end
end
