# frozen_string_literal: true

require 'fileutils'
require 'open3'
require 'tmpdir'

module Miser
  module Formats
    # Other programs' work on pictures, with bounds: what a stranger's file can make them take of
    # time, memory and disk; and the folder they work in, which goes with the work.
    module ImageTool
      SECONDS = 20
      # Memory and any one file, bytes. A picture of 60 million pixels in many scans takes 400 MB.
      MEMORY = 2_000 * 1024 * 1024
      FILE = 400 * 1024 * 1024
      FILES = 64
      LIMITS = { rlimit_cpu: SECONDS, rlimit_as: MEMORY, rlimit_fsize: FILE, rlimit_nofile: FILES, rlimit_core: 0 }.freeze
      # Else each thread of a tool reserves memory that it never uses.
      SURROUNDINGS = { 'MALLOC_ARENA_MAX' => '2' }.freeze
      FOLDER = 'miser-picture-'

      module_function

      # @param command [Array<String>]
      # @return [Array(String, Process::Status)] all that it said
      def run(*command) = Open3.capture2e(SURROUNDINGS, 'timeout', '-k', '1', SECONDS.to_s, *command, **LIMITS)

      # @param stdin [String] @return [Array(String, Process::Status)] what it gave out
      def pipe(stdin, *command)
        Open3.capture2(SURROUNDINGS, 'timeout', '-k', '1', SECONDS.to_s, *command, stdin_data: stdin, binmode: true, **LIMITS)
      end

      # @yieldparam folder [String] gone afterwards
      def folder(&) = Dir.mktmpdir("#{FOLDER}#{Process.pid}-", &)

      # Folders that a killed Miser left.
      # @return [void]
      def sweep
        Dir[File.join(Dir.tmpdir, "#{FOLDER}*")].each do |path|
          pid = path[/#{FOLDER}(\d+)-/, 1].to_i
          FileUtils.rm_rf(path) if File.owned?(path) && !File.symlink?(path) && !alive?(pid)
        end
      end

      def alive?(pid)
        pid.positive? && Process.kill(0, pid) == 1
      rescue Errno::ESRCH
        false
      rescue Errno::EPERM
        true
      end
      private_class_method :alive?
    end
  end
end
