# frozen_string_literal: true

require 'json'

module Miser
  module Store
    # What jobs taught, a row a thing, written with each save. It is told by whoever knows the trade, and only kept here.
    class Lessons
      COLUMNS = %i[subject key shelf_id].freeze
      # Whose it is, the job says.
      JOBS = %i[job machine name].freeze

      # @param database [Sequel::Database]
      def initialize(database)
        @db = database
        @table = database[:lessons]
      end

      # @param job [String] @param rows [Array<Hash>] by symbols, with id, subject, key, shelf_id and more
      # @return [Integer] how many were written or taken out
      def put(job, rows)
        kept = @table.where(job_id: job).select_hash(:id, :body)
        fresh = rows.to_h { |r| [r[:id], JSON.generate(r.except(:id, *COLUMNS, *JOBS).compact)] }
        gone = kept.keys - fresh.keys
        changed = rows.reject { |r| kept[r[:id]] == fresh[r[:id]] }
        @table.where(job_id: job, id: gone + changed.map { |r| r[:id] }).delete if gone.any? || changed.any?
        @table.multi_insert(changed.map { |r| { job_id: job, id: r[:id], body: fresh[r[:id]], **r.slice(*COLUMNS) } })
        gone.size + changed.size
      end

      # @param shelf_id [String, nil] rows of that part of the shelf belong to it under whatever name
      # @return [Array<Hash>] id, subject, key, shelf_id, job, machine, name, and the rest as body
      def of(subject, key, shelf_id: nil)
        mine = { Sequel[:lessons][:subject] => subject, Sequel[:lessons][:key] => key }
        rows = found(there.where(mine))
        return rows unless shelf_id

        (rows + found(there.where(Sequel[:lessons][:shelf_id] => shelf_id,
          Sequel[:lessons][:subject] => subject))).uniq { |r| r.values_at(:job, :id) }
      end

      # @param machine [String] @return [Array<Hash>]
      def of_machine(machine) = found(there.where(Sequel[:jobs][:machine_id] => machine))

      # @return [Array<Hash>] all of them
      def all = found(there)

      # What there are records of. @return [Array<Hash>] key, label, rows, jobs
      def keys(subject)
        there.where(subject: subject).exclude(key: nil).group(:key).order(:key)
             .select(:key, Sequel.function(:count).*.as(:rows), Sequel.function(:count, Sequel[:lessons][:job_id]).distinct.as(:jobs),
               Sequel.function(:max, Sequel.function(:json_extract, Sequel[:lessons][:body], '$.label')).as(:label)).all
      end

      private

      # What is off the board teaches nothing.
      def there = @db[:lessons].join(:jobs, id: :job_id).where(Sequel[:jobs][:removed_at] => nil)

      # What belongs to a job is read once a job. One that tells no day is of the day its job was written down.
      def found(list)
        rows = list.select_map([Sequel[:lessons][:job_id], Sequel[:lessons][:id], :subject, :key, :shelf_id, Sequel[:lessons][:body]])
        jobs = @db[:jobs].where(id: rows.map(&:first).uniq).select_hash(:id, %i[machine_id name created_at])
        rows.zip(JSON.parse("[#{rows.map(&:last).join(',')}]")).map do |(job, id, subject, key, shelf), body|
          machine, name, made_at = jobs.fetch(job)
          body['on'] = made_at[0, 10] if body['on'].to_s.empty?
          { id: id, subject: subject, key: key, shelf_id: shelf, job: job, machine: machine, name: name, body: body }
        end
      end
    end
  end
end
