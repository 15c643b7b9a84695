# frozen_string_literal: true

require 'securerandom'
require_relative 'options'
require_relative 'new_file'
require_relative '../store/backup'

module Miser
  module Cli
    # backup --to FILE: the whole shop as one file, also while it is served.
    module Backup
      def self.run(argv)
        options = Options.parse(argv, %i[data demo to over], usage: 'backup --to FILE [--over] [--demo] [--data DIR]')
        to = options[:to] or raise Failure.new('say where to: backup --to FILE', 2)
        path = Options.database_path(options)
        raise Failure, "there is no shop at #{path} yet" unless File.exist?(path)

        NewFile.make(to, over: options[:over]) { |beside| told(Store::Backup.take(path, beside), to) }
        0
      end

      def self.told(contents, to)
        puts "#{contents.jobs.size} jobs, last changed #{contents.newest || 'never'}, #{(contents.bytes / 1024.0 / 1024.0).ceil(1)} MB: #{to}"
      end
    end
  end
end
