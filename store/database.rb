# frozen_string_literal: true

require 'fileutils'
require 'sequel'

module Miser
  # Keeping things: SQLite through Sequel.
  module Store
    # Opens the shop's file and brings it to the newest form.
    module Database
      # How long a write waits for another's to end, ms.
      BUSY_MS = 5000
      MIGRATIONS = File.expand_path('migrations', __dir__)

      # @param path [String] file, or ':memory:' in tests
      # @return [Sequel::Database]
      def self.open(path)
        FileUtils.mkdir_p(File.dirname(path)) unless path == ':memory:'
        database = Sequel.sqlite(path, foreign_keys: true, max_connections: path == ':memory:' ? 1 : 4, after_connect: method(:settle))
        Sequel.extension :migration
        Sequel::Migrator.run(database, MIGRATIONS)
        database
      end

      # WAL lets one read while another writes, and a killed process loses no
      # finished save.
      def self.settle(connection)
        # SQLite's own wait would hold up every thread of ours, the one it waits for among them.
        connection.busy_handler_timeout = BUSY_MS
        connection.execute('PRAGMA journal_mode = WAL')
        connection.execute('PRAGMA synchronous = NORMAL')
      end
    end
  end
end
