# frozen_string_literal: true

require 'securerandom'

module Miser
  module Cli
    # A file written for somebody: whole or not at all, never through a link, and never over
    # another unless that is asked for.
    module NewFile
      module_function

      # @param path [String] @param bytes [String] @param over [Boolean] whether one there may be replaced
      # @return [void]
      # @raise [Failure]
      def write(path, bytes, over: false) = make(path, over: over) { |beside| put(beside, bytes) }

      # @yieldparam beside [String] a file to be made, which takes the other's name when it is whole
      # @return [void]
      # @raise [Failure]
      def make(path, over: false)
        raise Failure, "#{path} is a link; give the file itself" if File.symlink?(path)
        raise Failure, "#{path} is a folder" if File.directory?(path)
        raise Failure, "#{path} is there already; --over replaces it" if File.exist?(path) && !over

        beside = "#{path}.#{SecureRandom.alphanumeric(8)}.part"
        yield beside
        over ? File.rename(beside, path) : settle(beside, path)
      rescue Errno::EEXIST
        raise Failure, "#{path} is there already; --over replaces it"
      rescue SystemCallError => e
        raise Failure, "#{path}: #{e.message.sub(/ @.*/, '')}"
      ensure
        File.unlink(beside) if beside && File.exist?(beside)
      end

      def put(path, bytes)
        File.open(path, File::WRONLY | File::CREAT | File::EXCL | File::NOFOLLOW | File::BINARY) do |file|
          file.write(bytes)
          file.fsync
        end
      end

      # A link keeps what somebody else put there since; some sticks know none.
      def settle(beside, path)
        File.link(beside, path)
      rescue Errno::EPERM, Errno::EOPNOTSUPP, NotImplementedError
        File.rename(beside, path)
      end
      private_class_method :put, :settle
    end
  end
end
