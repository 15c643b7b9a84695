# frozen_string_literal: true

require 'sequel'
require_relative 'backup'

module Miser
  module Store
    # Brings a shop's file from an older form to the newest, a step a transaction: a step is there whole or not at all, whenever
    # the plug is pulled. Before the first, a copy of the file as it was is laid beside it.
    class Upgrade
      # A step left less behind than it found.
      class Lossy < StandardError; end

      # @param path [String] the shop's file @param folder [String] of the steps @param wait_s [Float] for others to end
      def initialize(path, folder, wait_s)
        @path = path
        @folder = folder
        @wait_s = wait_s
      end

      # @param from [Integer] form of the file, none yet: 0 @param to [Integer]
      # @return [void]
      # @raise [Lossy, Sequel::Error]
      def run(from, to)
        Sequel.extension :migration
        copy(from) if from.positive? && from < to
        database = connected
        ((from + 1)..to).each { |form| step(database, form) }
      ensure
        database&.disconnect
      end

      private

      # One connection, on which keys of other tables mean nothing: a table that is altered by copying it would take its children
      # along, and inside a transaction SQLite does not hear of it any more.
      def connected
        Sequel.sqlite(@path, foreign_keys: false, max_connections: 1,
          after_connect: ->(connection) { Database.settle(connection, @wait_s) })
      end

      def step(database, form)
        database.transaction(mode: :immediate) do
          before = rows(database)
          # Another program may have been first.
          next if kept(database) >= form

          Sequel::Migrator.run(database, @folder, target: form, use_transactions: true)
          check(database, before, form)
        end
      end

      def kept(database) = database.table_exists?(:schema_info) ? database[:schema_info].get(:version).to_i : 0

      def check(database, before, form)
        astray = database.fetch('PRAGMA foreign_key_check').all
        raise Lossy, "step #{form} leaves #{astray.size} rows that belong to nothing" if astray.any?

        now = rows(database)
        table, count = before.find { |name, n| now.key?(name) && now[name] != n }
        raise Lossy, "step #{form} found #{count} rows in #{table} and left #{now[table]}" if table
      end

      # @return [Hash{String=>Integer}] rows by table, but for those that count the form
      def rows(database)
        tables = database.fetch("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'").select_map(:name)
        (tables - %w[schema_info]).to_h { |name| [name, database[name.to_sym].count] }
      end

      # As it was, under its form; the first try's stays.
      def copy(from)
        kept = "#{@path}.form-#{from}"
        return if File.exist?(kept)

        part = "#{kept}.part"
        FileUtils.rm_f(part)
        Backup.take(@path, part)
        File.rename(part, kept)
      end
    end
  end
end
