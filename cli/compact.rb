# frozen_string_literal: true

require_relative 'options'
require_relative 'hold'
require_relative 'kept'
require_relative '../store/jobs'

module Miser
  module Cli
    # compact: gives the disk back what the shop's file does not need, while nobody serves it.
    module Compact
      DAY_S = 24 * 3600

      def self.run(argv)
        options = Options.parse(argv, %i[data demo removed], usage: Program::COMMANDS['compact'].first)
        path = Options.database_path(options)
        raise Failure, "there is no shop at #{path} yet" unless File.exist?(path)

        Hold.take(path)
        before = size(path)
        database = Kept.open(path)
        gone = options[:removed] ? purge(Store::Jobs.new(database), options[:removed]) : []
        database.run('VACUUM')
        database.run('PRAGMA wal_checkpoint(TRUNCATE)')
        database.disconnect
        puts "Thrown away: #{gone.join(', ')}" if gone.any?
        puts format('%<path>s: %<before>.1f MB before, %<after>.1f MB now', path: path, before: before, after: size(path))
        0
      end

      # @return [Array<String>] names
      def self.purge(jobs, days)
        raise Failure.new('days are counted from 0', 2) if days.negative?

        old = jobs.removed.select { |job| Time.now - Time.parse(job[:removed_at]) >= days * DAY_S }
        old.select { |job| jobs.purge(job[:id]) }.map { |job| job[:name] }
      end

      # @return [Float] MB
      def self.size(path) = ['', '-wal'].sum { |tail| File.size?("#{path}#{tail}").to_i } / 1024.0 / 1024.0
      private_class_method :purge, :size
    end
  end
end
