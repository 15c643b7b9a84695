# frozen_string_literal: true

require 'fileutils'
require 'minitest'
require 'sqlite3'
require 'tmpdir'
require_relative '../../cli/demo_data'
require_relative '../../server/app'

module Miser
  # The demo laid out once, with the summaries its board shows: whoever wants it has a copy of his own.
  module DemoShop
    class << self
      # @return [String] path
      def laid_out
        @laid_out ||= File.join(Dir.mktmpdir.tap { |folder| Minitest.after_run { FileUtils.rm_rf(folder) } }, 'demo.db').tap do |path|
          database = Cli::DemoData.open(path)
          Server::App.on(database).settings.jobs.catch_up(60)
          database.run('PRAGMA wal_checkpoint(TRUNCATE)')
          database.disconnect
        end
      end

      # @param path [String] where a copy is wanted
      # @return [Sequel::Database]
      def at(path)
        FileUtils.mkdir_p(File.dirname(path))
        FileUtils.cp(laid_out, path)
        Cli::DemoData.open(path)
      end

      # @return [Sequel::Database] in memory
      def in_memory
        source = SQLite3::Database.new(laid_out, readonly: true)
        Store::Database.open(':memory:').tap do |database|
          database.synchronize do |connection|
            copy = SQLite3::Backup.new(connection, 'main', source, 'main')
            copy.step(-1)
            copy.finish
          end
        end
      ensure
        source&.close
      end
    end
  end
end
