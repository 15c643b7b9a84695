# frozen_string_literal: true

require 'fileutils'
require 'json'
require_relative 'options'
require_relative '../formats/job_schema'
require_relative '../formats/learnt_file'
require_relative '../core/book/days'
require_relative '../store/elsewhere'
require_relative '../store/machines'

module Miser
  module Cli
    # The book in a shop's folder: what it says of machines beside their jobs, and what came from other shops.
    class BookFolder
      MACHINES = 'machines.json'
      LEARNT = 'learnt.json'
      OWN = %w[name fleet machine note].freeze
      ID = /\A[A-Za-z0-9_-]{1,40}\z/

      # @param database [Sequel::Database]
      def initialize(database)
        @db = database
        @machines = Store::Machines.new(database)
        @elsewhere = Store::Elsewhere.new(database)
      end

      # @param folder [String] @return [void]
      def write(folder)
        FileUtils.mkdir_p(folder)
        rows = @db[:machines].order(:id).select_map(:id).map { |id| @machines.find(id) }
        File.write(File.join(folder, MACHINES), "#{JSON.pretty_generate(rows)}\n")
        shops = @elsewhere.files
        File.write(File.join(folder, LEARNT), Formats::LearntFile.write(shops)) if shops.any?
      end

      # @param folder [String]
      # @return [Hash, nil] machines, shops; nil where the folder has no book
      # @raise [Failure]
      def read(folder)
        return unless File.directory?(folder)

        { machines: machines(File.join(folder, MACHINES)), shops: shops(File.join(folder, LEARNT)) }
      end

      # @param read [Hash] see #read @return [void]
      def take(read)
        read[:machines].each { |row| @machines.put(row['id'], row.except('id')) unless @db[:jobs].where(machine_id: row['id']).empty? }
        fresh = @elsewhere.newer(read[:shops])
        @elsewhere.put(fresh) if fresh.any?
      end

      private

      def machines(path)
        return [] unless File.exist?(path)

        rows = JSON.parse(Options.read_file(path))
        wrong = rows.is_a?(Array) ? rows.find { |row| !sound?(row) } : rows
        raise Failure, "#{path}: #{JSON.generate(wrong)[0, 120]} is no machine of a book" if wrong

        rows
      rescue JSON::ParserError
        raise Failure, "#{path} is no JSON"
      end

      def sound?(row)
        return false unless row.is_a?(Hash) && row['id'].to_s.match?(ID) && (row.keys - ['id', 'gone_on', 'gone_to', *OWN]).empty?
        unless row.slice('gone_on', 'gone_to').values.all?(String) && (row['gone_on'].nil? || Book::Days.number(row['gone_on']))
          return false
        end

        Formats::JobSchema.errors(Job::Template.job(id: 'probe', name: 'probe').merge(row.slice(*OWN))).empty?
      end

      def shops(path)
        return [] unless File.exist?(path)

        Formats::LearntFile.read(Options.read_file(path)).shops
      rescue Formats::LearntFile::Refused => e
        raise Failure, "#{path}: #{e.error.field} #{e.message}"
      end
    end
  end
end
