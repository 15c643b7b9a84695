# frozen_string_literal: true

require 'json'
require_relative '../core/book/key'

module Miser
  module Store
    # The machines that jobs were done on: whose, of which model, with which frame number; and which have gone.
    class Machines
      # What a job says of its machine, and where. The counters are the last that anybody read.
      OWN = %w[kind model year frame engine distance_km hours].freeze
      COUNTERS = %w[distance_km hours].freeze
      COLUMNS = %i[id name owner model gone_on].freeze
      ORDERS = { 'name' => %i[name id], 'owner' => %i[owner name id], 'model' => %i[model name id] }.freeze

      # @param database [Sequel::Database] @param clock [#call]
      def initialize(database, clock: -> { Time.now.utc })
        @db = database
        @table = database[:machines]
        @clock = clock
      end

      # Keeps up with a job that was saved: what changed in it of its machine, changes there; a machine it says first is made.
      # @param document [Hash] @param was [Hash, nil] before @param machine [String] @param left [String, nil] whose it was until now
      # @return [void]
      def follow(document, was, machine, left = nil)
        said = said_by(document)
        kept = @table.where(id: machine).get(:body)
        if kept.nil?
          put(machine, said)
        else
          body = JSON.parse(kept)
          changed = merged(body, said, was && left.nil? ? said_by(was) : nil)
          put(machine, changed) unless changed == body
        end
        forget(left) if left
      end

      # @return [Hash, nil] id, name, fleet, machine, note, gone_on, gone_to
      def find(id)
        row = @table.where(id: id).first or return
        JSON.parse(row[:body]).merge('id' => id, 'gone_on' => row[:gone_on]).compact
      end

      # @yieldparam machine [Hash] @yieldreturn [Hash]
      # @return [Hash, nil] nil where there is none
      def change(id)
        @db.transaction(mode: :immediate) do
          old = find(id) or return nil
          put(id, yield(old).except('id'))
          find(id)
        end
      end

      # @param id [String] @param body [Hash]
      # @return [void]
      def put(id, body)
        machine = body['machine'] || {}
        row = { name: body['name'], owner: body['fleet'], model: machine['model'], model_key: Book::Key.of(machine['model']),
                frame_key: Book::Key.frame(machine['frame']), gone_on: body['gone_on'], body: JSON.generate(body.except('id')),
                changed_at: @clock.call.iso8601(3) }
        @table.insert(id: id, **row) if @table.where(id: id).update(row).zero?
      end

      # A page of the book, each with how many jobs it has, when the last went out, and how many of its looks are due.
      # @param ids [Array<String>, nil] only these, in their order
      # @return [Array(Array<Hash>, Integer)]
      def page(owner: nil, model: nil, order: 'name', from: 0, limit: 100, today: '', ids: nil)
        list = @table
        list = list.where(owner: owner) if owner
        list = list.where(model_key: model) if model
        list = list.where(id: ids) if ids
        shown = list.order(*ORDERS.fetch(order)).limit(limit, from).select(*COLUMNS).select_append(Sequel.function(:json_extract, :body,
          '$.machine.year').as(:year)).all
        counted = jobs_by_machine(shown.map { |m| m[:id] })
        due = due_by_machine(shown.map { |m| m[:id] }, today)
        shown = shown.sort_by { |m| ids.index(m[:id]) } if ids
        [shown.map { |m| m.merge(counted.fetch(m[:id], { jobs: 0, last: nil, open: nil })).merge(due: due.fetch(m[:id], 0)) }, list.count]
      end

      # @return [Integer] how many there are
      def count = @table.count

      # @return [Array<Hash>] owner, machines
      def owners
        @table.exclude(owner: nil).group_and_count(:owner).order(:owner).all.map do |row|
          { owner: row[:owner],
            machines: row[:count] }
        end
      end

      # @param owner [String] @return [Array<Hash>] those not gone
      def of_owner(owner) = @table.where(owner: owner, gone_on: nil).order(:name, :id).select_map(:id).filter_map { |id| find(id) }

      # Its jobs, the last first.
      # @return [Array<Hash>] id, name, revision, handed_at, created_at, came_in, distance_km, hours, removed_at
      def jobs(machine, removed: false)
        list = @db[:jobs].where(machine_id: machine)
        list = list.where(removed_at: nil) unless removed
        list.select(:id, :name, :revision, :handed_at, :created_at, said('$.came_in', :came_in),
          said('$.machine.distance_km', :distance_km),
          said('$.machine.hours', :hours)).all.sort_by { |j| [(j[:came_in] || j[:created_at])[0, 10], j[:created_at]] }.reverse
      end

      # Other machines of a frame number.
      # @return [Array<Hash>] id, name
      def twins(frame_key, machine) = @table.where(frame_key: frame_key).exclude(id: machine).order(:name).select(:id, :name).all

      # A machine that no job was done on has nothing in its book.
      # @return [void]
      def forget(id)
        @table.where(id: id).delete if @db[:jobs].where(machine_id: id).empty?
      end

      private

      def said(path, name) = Sequel.function(:json_extract, :body, path).as(name)

      def said_by(document)
        machine = document['machine'].is_a?(Hash) ? document['machine'].slice(*OWN).compact : {}
        { 'name' => document['name'], 'fleet' => document['fleet'], 'machine' => machine }.compact
      end

      # What differs from what was said before; all that is missing where nothing was.
      def merged(body, said, was)
        unless was
          own = body['machine'] || {}
          # Counters only run on.
          counters = COUNTERS.to_h { |k| [k, [own[k], said['machine'][k]].compact.max] }.compact
          return { **said, **body, 'machine' => said['machine'].merge(own, counters) }
        end

        changed = %w[name fleet].reject { |k| said[k] == was[k] }.to_h { |k| [k, said[k]] }
        inner = OWN.reject { |k| said['machine'][k] == was['machine'][k] }.to_h { |k| [k, said['machine'][k]] }
        return body if changed.empty? && inner.empty?

        body.merge(changed).compact.merge('machine' => (body['machine'] || {}).merge(inner).compact)
      end

      def jobs_by_machine(ids)
        rows = @db[:jobs].where(machine_id: ids, removed_at: nil)
        rows.group(:machine_id).select(:machine_id, Sequel.function(:count).*.as(:jobs), Sequel.function(:max, :handed_at).as(:last),
          Sequel.lit('max(CASE WHEN handed_at IS NULL THEN id END)').as(:open)).all.to_h { |r| [r[:machine_id], r.slice(:jobs, :last, :open)] }
      end

      def due_by_machine(ids, today)
        @db[:rechecks].join(:jobs, id: :job_id).where(machine_id: ids, removed_at: nil, done_on: nil).exclude(handed_at: nil)
                      .where(Sequel.function(:date, :due_on) => :due_on).where(Sequel[:due_on] <= today)
                      .group_and_count(:machine_id).as_hash(:machine_id, :count)
      end
    end
  end
end
