# frozen_string_literal: true

require 'set'
require_relative '../core/book/book'
require_relative '../formats/learnt_file'
require_relative '../store/elsewhere'
require_relative '../store/lessons'
require_relative '../store/machines'
require_relative '../store/memo'
require_relative 'days'

module Miser
  module Server
    # What the shop has learnt, as the core takes it: records of parts and models, a machine's earlier jobs.
    class Learnt
      # Records that tickets were offered lately: a keystroke on one ticket need not read the whole of another's years again.
      LATELY = 100
      LATELY_S = 3.0

      # @param database [Sequel::Database] @param shop [Store::Shop]
      def initialize(database, shop)
        @lessons = Store::Lessons.new(database)
        @elsewhere = Store::Elsewhere.new(database)
        @machines = Store::Machines.new(database)
        @shop = shop
        @lately = Store::Memo.new(LATELY)
      end

      # The same for tickets: what was learnt some seconds ago may be missing.
      # @return [Offered]
      def offered = @offered ||= Offered.new(self)

      # What a ticket asks, some seconds old at the most.
      Offered = Struct.new(:learnt) do
        def model(key, but: nil) = learnt.lately([:model, key, but]) { learnt.model(key, but: but) }
        def part(name, shelf_id = nil) = learnt.lately([:part, name, shelf_id]) { learnt.part(name, shelf_id) }
        def known_parts = learnt.lately([:parts]) { learnt.known_parts }
        def visits(machine) = learnt.visits(machine)
        def twins(frame, machine) = learnt.twins(frame, machine)
        def machine(id) = learnt.machine(id)
      end

      # @yieldreturn [Object, nil] what is worked out where nobody asked lately
      def lately(question)
        key = [*question, (Process.clock_gettime(Process::CLOCK_MONOTONIC) / LATELY_S).floor]
        found = @lately[key]
        return found.first if found

        yield.tap { |answer| @lately[key] = [answer] }
      end

      attr_reader :lessons, :elsewhere, :machines

      # @return [Assumptions] the shop's own
      def settings = Assumptions.new(@shop.assumptions)

      # @return [Book::ModelRecord, nil]
      def model(key, but: nil)
        return unless key

        record = Book::ModelRecord.new(read(@lessons.of('model', key)).reject { |l| but && l.machine == but }, others('model', key),
          settings)
        record if record.any?
      end

      # @return [Book::PartRecord, nil]
      def part(name, shelf_id = nil)
        key = Book::Key.of(name) or return
        record = Book::PartRecord.new(read(@lessons.of('part', key, shelf_id: shelf_id)), others('part', key), settings)
        record if record.any?
      end

      # @return [Array<Book::Visit>] jobs on a machine, the first first
      def visits(machine)
        @machines.jobs(machine).reverse.map do |j|
          Book::Visit.new(job: j[:id], name: j[:name], came_in: j[:came_in] || j[:created_at][0, 10], distance_km: j[:distance_km],
            hours: j[:hours])
        end
      end

      def twins(frame, machine) = @machines.twins(frame, machine)

      def machine(id) = @machines.find(id)

      # Parts, models or kinds of work that anything is known of.
      # @return [Array<Hash>] key, label, rows, jobs
      def keys(subject)
        own = @lessons.keys(subject)
        known = own.to_h { |k| [k[:key], true] }
        (own + @elsewhere.keys(subject).reject { |k| known[k[:key]] }.map { |k| k.merge(jobs: 0) }).sort_by { |k| k[:label].to_s.downcase }
      end

      # @return [Set<String>] keys of parts that anything was learnt of
      def known_parts = Set.new(keys('part').map { |k| k[:key] })

      # What goes to other shops: the shop's own as sums, and what came from others, each under its mark.
      # @param now [Time] @return [Array<Hash>] shop, made_on, serial, rows
      def shared(now)
        own = Book::Elsewhere.sums(read(@lessons.all), shop: @shop.mark, made_on: now.to_date.iso8601)
        mine = { shop: @shop.mark, made_on: now.to_date.iso8601, serial: now.to_i, rows: own.map { |sum| Formats::LearntFile.row(sum) } }
        [mine, *@elsewhere.files]
      end

      # @param shops [Array<Hash>] of a file
      # @return [Array(Array<Hash>, Integer)] those that are not here yet, and how many are here already or are the shop's own
      def fresh(shops)
        new = @elsewhere.newer(shops).reject { |s| s[:shop] == @shop.mark }
        [new, shops.size - new.size]
      end

      # @param rows [Array<Hash>] as they are kept @return [Array<Book::Lesson>] the first first
      def read(rows) = rows.map { |row| lesson(row, row[:body]) }.sort_by { |l| "#{l.on} #{l.job} #{l.id}" }

      def lesson(row, body)
        Book::Lesson.new(id: row[:id], subject: row[:subject], key: row[:key], shelf_id: row[:shelf_id], job: row[:job],
          machine: row[:machine],
          name: row[:name], label: body['label'], what: body['what'], item: body['item'], value: body['value'], sigma: body['sigma'],
          claimed: body['claimed'], n: body['n'], on: body['on'], more: body['more'])
      end
      private :lesson

      # @return [Array<Book::Elsewhere>]
      def others(subject, key) = Learnt.elsewhere(@elsewhere.of(subject, key))

      # @param rows [Array<Hash>] as a file has them
      def self.elsewhere(rows)
        rows.map do |r|
          Book::Elsewhere.new(**Book::Elsewhere.members.to_h { |m| [m, r[m.to_s]] },
                more: r['more'] || {})
        end
      end
    end
  end
end
