# frozen_string_literal: true

module Miser
  module Store
    # When machines are to be looked at again: what jobs that went out say of it, as a list by day.
    class Rechecks
      # @param database [Sequel::Database]
      def initialize(database)
        @db = database
        @table = database[:rechecks]
      end

      # @param job [String] @param rows [Array<Hash>] as the job has them; those nobody wants are left out
      # @return [void]
      def put(job, rows)
        fresh = rows.reject { |r| r['dropped'] }.map do |r|
          { job_id: job, id: r['id'], due_on: r['due_on'], done_on: r['done_on'], what: r['what'] || 'Look again', why: r['why'] || '' }
        end
        kept = @table.where(job_id: job).all
        return if kept.sort_by { |r| r[:id] } == fresh.sort_by { |r| r[:id] }

        @table.where(job_id: job).delete
        @table.multi_insert(fresh)
      end

      # How many looks are not done of machines that are still here: gone by, of today, and until a day.
      # @param today [String] @param soon [String]
      # @return [Hash] overdue, due, soon
      def counts(today, soon)
        day = Sequel[:rechecks][:due_on]
        many = ->(so, name) { Sequel.function(:total, Sequel.case({ so => 1 }, 0)).cast(Integer).as(name) }
        # A day that is in no calendar is of no standing.
        open_looks.where(Sequel[:machines][:gone_on] => nil, Sequel.function(:date, day) => day).where(day <= soon)
                  .select(many.call(day < today, :overdue), many.call({ day => today }, :due), many.call(day > today, :soon)).first
      end

      # Looks not done, the earliest first, of machines that are still here.
      # @param upto [String, nil] the last day asked for @param machines [Array<String>, nil]
      # @return [Array<Hash>] job_id, id, due_on, what, why, machine_id, machine, owner, bay
      def due(upto: nil, machines: nil, gone: false, limit: 500)
        list = open_looks
        list = list.where(Sequel[:machines][:gone_on] => nil) unless gone
        list = list.where(Sequel[:rechecks][:due_on] <= upto) if upto
        list = list.where(Sequel[:machines][:id] => machines) if machines
        list.order(Sequel[:rechecks][:due_on], Sequel[:machines][:name], Sequel[:rechecks][:id]).limit(limit)
            .select(Sequel[:rechecks][:job_id], Sequel[:rechecks][:id], :due_on, :what, :why, Sequel[:jobs][:machine_id],
              Sequel[:jobs][:revision],
              Sequel[:machines][:name].as(:machine), Sequel[:machines][:owner], Sequel[:machines][:gone_on]).all
      end

      private

      def open_looks
        # By day first: there are fewer looks due than jobs.
        @table.cross_join(:jobs).cross_join(:machines)
              .where(Sequel[:jobs][:id] => Sequel[:rechecks][:job_id], Sequel[:machines][:id] => Sequel[:jobs][:machine_id])
              .where(Sequel[:rechecks][:done_on] => nil, Sequel[:jobs][:removed_at] => nil).exclude(Sequel[:jobs][:handed_at] => nil)
      end
    end
  end
end
