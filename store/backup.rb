# frozen_string_literal: true

require 'fileutils'
require 'sqlite3'
require_relative 'database'

module Miser
  module Store
    # A copy of a shop's file taken while it is in use (SQLite's online backup), looked at before
    # it counts; and such a copy put back, with what stood there kept beside it.
    module Backup
      # What is in a file. @!attribute jobs [Hash{String=>Hash}] by id: name, revision, changed_at
      # @!attribute bytes [Integer]
      Contents = Struct.new(:jobs, :bytes, keyword_init: true) do
        # @return [String, nil] when something was last changed
        def newest = jobs.values.filter_map { |job| job[:changed_at] }.max
      end
      CODES = SQLite3::Constants::ErrorCode
      private_constant :CODES
      # Pages copied before others get to write.
      STEP = 400
      PAUSE_S = 0.01
      TRIES = 500

      module_function

      # @param path [String] the shop's file @param to [String] a file that is not there yet
      # @return [Contents] what is in the copy
      # @raise [Database::Unusable]
      def take(path, to)
        File.open(to, File::WRONLY | File::CREAT | File::EXCL, Database::NONE_BUT_OWNER, &:fsync)
        copy(path, to)
        # One file, to be carried about.
        alone(to)
        File.open(to, &:fsync)
        contents(to)
      rescue SQLite3::Exception => e
        raise Database::Unusable, "#{path}: #{e.message}"
      end

      # @param path [String]
      # @return [Contents]
      # @raise [Database::Unusable] where it is no shop's file, a damaged one, or a newer Miser's
      def contents(path)
        with(path) do |file|
          said = file.get_first_value('PRAGMA integrity_check(1)')
          raise Database::Unusable, "#{path} is damaged (#{said.to_s[0, 120]})" unless said == 'ok'

          kept = file.get_first_value('SELECT version FROM schema_info').to_i
          raise Database::Unusable, "#{path} was written by a newer Miser" if kept > Database.newest

          rows = file.execute('SELECT id, name, revision, changed_at FROM jobs WHERE removed_at IS NULL')
          Contents.new(jobs: rows.to_h { |id, *rest| [id, %i[name revision changed_at].zip(rest).to_h] }, bytes: File.size(path))
        end
      rescue SQLite3::Exception
        raise Database::Unusable, "#{path} is no file of Miser’s, or it is damaged"
      end

      # What the one has that the other has not, or has it later.
      # @param now [Contents] @param then_ [Contents]
      # @return [Array<String>] names
      def lost(now, then_)
        now.jobs.reject { |id, job| (then_.jobs[id] || {})[:changed_at].to_s >= job[:changed_at].to_s }.values.map { |job| job[:name] }
      end

      # Puts a copy in the place of what is there, whole or not at all.
      # @param from [String] @param path [String] the shop's file, which nobody serves @param beside [String] where what was there goes
      # @return [void]
      def put_back(from, path, beside)
        keep(path, beside) if File.size?(path)
        part = "#{path}.part"
        FileUtils.rm_f(part)
        take(from, part)
        %w[-wal -shm].each { |tail| FileUtils.rm_f("#{path}#{tail}") }
        File.rename(part, path)
        File.open(File.dirname(path), &:fsync)
      ensure
        FileUtils.rm_f(part) if part
      end

      # What can't be read is kept as it is.
      def keep(path, beside)
        take(path, beside)
        # Nothing of the old file is left outside it: its name can change hands.
        alone(path)
      rescue Database::Unusable, SQLite3::Exception
        FileUtils.rm_f(beside)
        ['', '-wal'].select { |tail| File.exist?("#{path}#{tail}") }.each { |tail| FileUtils.cp("#{path}#{tail}", "#{beside}#{tail}") }
      end

      def copy(path, to)
        with(path) do |source|
          with(to) do |target|
            backup = SQLite3::Backup.new(target, 'main', source, 'main')
            step(backup)
            backup.finish
          end
        end
      end

      def step(backup)
        tries = 0
        loop do
          case code = backup.step(STEP)
          when CODES::DONE then return
          when CODES::OK then sleep PAUSE_S
          when CODES::BUSY, CODES::LOCKED
            raise Database::Unusable, 'it can’t be copied: others write without pause' if (tries += 1) > TRIES

            sleep PAUSE_S
          when CODES::FULL then raise Database::Unusable, 'it can’t be copied: the disk is full'
          else raise Database::Unusable, "it can’t be copied: SQLite says #{code}"
          end
        end
      end

      def alone(path) = with(path) { |file| file.execute('PRAGMA journal_mode = DELETE') }

      def with(path)
        file = SQLite3::Database.new(path, readonly: !File.writable?(path))
        file.busy_timeout = 5000
        yield file
      ensure
        file&.close
      end
      private_class_method :keep, :copy, :step, :alone, :with
    end
  end
end
