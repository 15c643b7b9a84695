# frozen_string_literal: true

require_relative 'options'
require_relative '../formats/job_file'

module Miser
  module Cli
    # A job file named on the command line.
    module JobArgument
      module_function

      # @param path [String] or - for standard input
      # @return [Formats::JobFile::Read]
      # @raise [Failure] naming every field refused
      def read(path)
        limit = Formats::JobFile::MOST_BYTES
        if path != '-' && File.file?(path) && File.size(path) > limit
          raise Failure,
            "#{path}: the file is #{File.size(path) / 1024 / 1024} MB; at most #{limit / 1024 / 1024} MB are taken"
        end

        read = Formats::JobFile.read(path == '-' ? $stdin.read.to_s : Options.read_file(path))
        warn "miser: #{path}: kept, but not understood: #{read.unknown.first(10).join(', ')}" if read.unknown.any?
        read
      rescue Formats::JobFile::Refused => e
        count = e.errors.size == 1 ? 'one thing is' : "#{e.errors.size} things are"
        raise Failure, "#{path}: #{count} wrong\n#{e.errors.map { |x| "  #{x}" }.join("\n")}"
      end
    end
  end
end
