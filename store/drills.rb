# frozen_string_literal: true

require 'json'
require 'securerandom'
require 'time'

module Miser
  module Store
    # Drills of each person: as they stand, and what became of them.
    class Drills
      # Somebody else did something first. @!attribute current [Row]
      class Stale < StandardError
        attr_reader :current

        def initialize(current)
          @current = current
          super('the drill has gone on')
        end
      end

      # @!attribute body [Hash] document and faults, or none for a question @!attribute acts [Array<Hash>]
      Row = Struct.new(:id, :kind, :code, :seed, :level, :difficulty, :name, :body, :acts, :begun_at, :ended_at, :solved, :minutes, :cents,
        :expected_minutes, :expected_cents, keyword_init: true)
      # What a list needs of one.
      LISTED = %i[id kind code seed level difficulty name begun_at ended_at solved minutes cents expected_minutes expected_cents].freeze
      # Kept of each person; the oldest go.
      MOST = 1000

      # @param database [Sequel::Database] @param person [Integer, nil] whose @param clock [#call]
      def initialize(database, person = nil, clock: -> { Time.now.utc })
        @db = database
        @person = person
        @clock = clock
        @mine = database[:drills].where(person_id: person)
      end

      # @return [Row]
      def begin(kind:, seed:, level:, difficulty:, name:, body:, code: nil)
        id = SecureRandom.hex(6)
        @db.transaction(mode: :immediate) do
          @db[:drills].insert(id: id, person_id: @person, kind: kind, code: code, seed: seed, level: level, difficulty: difficulty,
            name: name,
            body: JSON.generate(body), acts: '[]', begun_at: @clock.call.iso8601)
          old = @mine.order(Sequel.desc(:begun_at), :id).offset(MOST).select(:id)
          @db[:drills].where(id: old).delete
        end
        find(id)
      end

      # @return [Row, nil] only one's own
      def find(id) = @mine.where(id: id).first&.then { |row| read(row) }

      # One more act, on so many before it.
      # @param acts [Array<Hash>] all of them, the new one last @param result [Hash] what it came to, where it ended
      # @return [Row]
      # @raise [Stale] where somebody did something else meanwhile
      def put(id, acts, result = nil)
        @db.transaction(mode: :immediate) do
          now = find(id) or return
          raise Stale, now if now.acts != acts[0..-2] || now.ended_at

          ended = result ? result.merge(ended_at: @clock.call.iso8601) : {}
          @mine.where(id: id).update(acts: JSON.generate(acts), **ended)
        end
        find(id)
      end

      # @return [Array<Row>] begun and not ended, the latest first
      def open(limit: 6) = listed(@mine.where(ended_at: nil).order(Sequel.desc(:begun_at), :id).limit(limit))

      # @return [Array<Row>] that ended, the first first
      def ended = listed(@mine.exclude(ended_at: nil).order(:ended_at, :begun_at, :id))

      # @return [Boolean] whether there was one
      def forget(id) = @db.transaction(mode: :immediate) { @mine.where(id: id, ended_at: nil).delete.positive? }

      private

      def listed(rows) = rows.select(*LISTED).all.map { |r| Row.new(**r, solved: truth(r[:solved])) }

      def read(row)
        Row.new(**row.slice(*LISTED), body: JSON.parse(row[:body]), acts: JSON.parse(row[:acts]), solved: truth(row[:solved]))
      end

      def truth(number) = number&.positive?
    end
  end
end
