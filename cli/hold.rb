# frozen_string_literal: true

require 'fileutils'
require_relative '../store/database'

module Miser
  module Cli
    # One program at a time serves a shop's file or lays it out afresh: the second is told of the first.
    module Hold
      module_function

      # Held until the program ends, however it ends.
      # @param path [String] the shop's file
      # @return [void]
      # @raise [Failure]
      def take(path)
        # What Miser writes from here on is for whoever runs it.
        File.umask(0o077)
        FileUtils.mkdir_p(File.dirname(path), mode: Store::Database::FOLDER_OF_OWNER)
        file = File.open("#{path}.lock", File::RDWR | File::CREAT, Store::Database::NONE_BUT_OWNER) # rubocop:disable Style/FileOpen -- it stays open as long as the program runs
        unless file.flock(File::LOCK_EX | File::LOCK_NB)
          raise Failure, "#{path} is served already#{" by process #{file.read.strip}" if file.size.positive?}: stop that one first, " \
                         'or give another folder with --data'
        end
        file.truncate(0)
        file.write(Process.pid.to_s)
        file.flush
        @held = file
      rescue Errno::EEXIST, Errno::ENOTDIR
        raise Failure, "#{File.dirname(path)} is no folder; give one with --data"
      rescue Errno::ENOSPC
        raise Failure, "#{path} can’t be written: the disk is full. Make room, then start again"
      rescue SystemCallError => e
        raise Failure, "#{path} can’t be used: #{e.message.sub(/ @.*/, '')}"
      end
    end
  end
end
