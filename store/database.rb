# frozen_string_literal: true

require 'fileutils'
require 'sequel'
require_relative 'turn'

module Miser
  # Keeping things: SQLite through Sequel.
  module Store
    # Opens the shop's file and brings it to the newest form.
    module Database
      # The file can't be served; the message says why and what to do.
      class Unusable < StandardError; end

      # How long a write waits for those before it in this program, and as long for another program's to end.
      WAIT_S = 10.0
      # Readers at once, and the one that writes.
      CONNECTIONS = 12
      MIGRATIONS = File.expand_path('migrations', __dir__)
      # Beside a shop's file once there was one: without it a lost file would look like a new shop.
      MADE = '.made'
      NONE_BUT_OWNER = 0o600
      FOLDER_OF_OWNER = 0o700

      # @param path [String] file, or ':memory:' in tests
      # @param wait_s [Float] how long a write waits
      # @return [Sequel::Database]
      # @raise [Unusable]
      def self.open(path, wait_s: WAIT_S)
        return opened(path, wait_s) if path == ':memory:'

        prepare(path)
        opened(path, wait_s).tap do |database|
          whole!(database, path)
          keep_to_owner(path)
        end
      rescue Sequel::Error, SystemCallError => e
        raise Unusable, "#{path}: #{words(e)}"
      end

      # WAL lets many read while one writes. Every save is on the disk before it is answered: a cut of the power
      # loses none.
      def self.settle(connection, wait_s)
        # SQLite's own wait would hold up every thread of ours, the one it waits for among them.
        connection.busy_handler_timeout = (wait_s * 1000).round
        connection.execute('PRAGMA journal_mode = WAL')
        connection.execute('PRAGMA synchronous = FULL')
      end

      # @return [Integer] form that this Miser gives a file
      def self.newest = Dir[File.join(MIGRATIONS, '*.rb')].size

      # What is left of a shop that is laid out afresh.
      # @param path [String]
      # @return [void]
      def self.remove(path) = ['', '-wal', '-shm', MADE].each { |tail| FileUtils.rm_f("#{path}#{tail}") }

      class << self
        private

        def opened(path, wait_s)
          upgrade(path, wait_s) unless path == ':memory:'
          database = Sequel.sqlite(path, foreign_keys: true, max_connections: path == ':memory:' ? 1 : CONNECTIONS,
            after_connect: ->(connection) { settle(connection, wait_s) })
          database.extend(Turn::Taken)
          database.turn = Turn.new(wait_s)
          migrate(database) if path == ':memory:'
          database
        rescue StandardError
          database&.disconnect
          raise
        end

        # The newest form in memory, where nothing is to be lost.
        def migrate(database)
          Sequel.extension :migration
          Sequel::Migrator.run(database, MIGRATIONS)
        end

        def upgrade(path, wait_s)
          kept = form(path)
          raise Unusable, "#{path} was written by a newer Miser (form #{kept}, this one knows #{newest}): install that one again" if kept > newest

          Upgrade.new(path, MIGRATIONS, wait_s).run(kept, newest) if kept < newest
        rescue Upgrade::Lossy => e
          raise Unusable, "#{path} can’t be brought to the newest form (#{e.message}): nothing of it was changed"
        end

        # @return [Integer] form of the file; 0 where there is none
        def form(path)
          return 0 unless File.size?(path)

          Sequel.sqlite(path, max_connections: 1) { |file| file.table_exists?(:schema_info) ? file[:schema_info].get(:version).to_i : 0 }
        end

        def prepare(path)
          folder = File.dirname(path)
          FileUtils.mkdir_p(folder, mode: FOLDER_OF_OWNER)
          raise Unusable, "#{folder} can’t be written: check whose it is, or give another with --data" unless File.writable?(folder)

          size = File.size?(path)
          return if size || !File.exist?("#{path}#{MADE}")

          raise Unusable, "#{path} is #{File.exist?(path) ? 'empty' : 'gone'}, and there was a shop in it. Put a copy of it back; " \
                          "to begin with an empty shop instead, remove #{path}#{MADE}"
        end

        def whole!(database, path)
          said = database.fetch('PRAGMA quick_check(1)').single_value
          return if said == 'ok'

          database.disconnect
          raise Unusable, "#{path} is damaged (#{said.to_s.lines.first.to_s.strip[0, 120]}). Put a copy of it back"
        end

        def keep_to_owner(path)
          File.write("#{path}#{MADE}", '') unless File.exist?("#{path}#{MADE}")
          ['', '-wal', '-shm', MADE].map { |tail| "#{path}#{tail}" }.select { |file| File.file?(file) && File.owned?(file) }
                                    .each { |file| File.chmod(NONE_BUT_OWNER, file) }
        end

        # @param error [StandardError]
        # @return [String] what it means to whoever starts Miser
        def words(error)
          case error.message
          when /file is not a database|malformed|not a database/ then 'is no file of Miser’s, or it is damaged. Put a copy of it back'
          when /readonly|read-only/ then 'can’t be written: check whose it is'
          when /disk is full|No space/ then 'the disk is full. Make room, then start again'
          when /unable to open/ then 'can’t be opened: check whose it is'
          when /locked|busy/ then 'is in use by another program'
          else error.message.lines.first.to_s.strip
          end
        end
      end
    end
  end
end

require_relative 'upgrade'
