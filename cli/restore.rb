# frozen_string_literal: true

require_relative 'options'
require_relative 'hold'
require_relative 'kept'
require_relative '../store/backup'
require_relative '../store/people'

module Miser
  module Cli
    # restore FILE: looks at a copy of the shop first, then puts it in the place of what is there.
    module Restore
      SHOWN = 12

      def self.run(argv)
        options = Options.parse(argv, %i[data demo over], files: 1, usage: 'restore FILE [--over] [--demo] [--data DIR]')
        from = options[:arguments].first
        path = Options.database_path(options)
        raise Failure, "#{from} is not there" unless File.file?(from)
        raise Failure, "#{from} is the shop’s own file" if File.identical?(from, path)

        Hold.take(path)
        beside = look(Store::Backup.contents(from), from, path, options[:over])
        Store::Backup.put_back(from, path, beside)
        Kept.open(path).tap { |database| Store::People.new(database).all_out }.disconnect
        puts "#{path} is now what #{from} holds#{"; what was there is #{beside}" if File.exist?(beside)}"
        0
      rescue SystemCallError => e
        raise Failure, "it was not put back: #{e.message.sub(/ @.*/, '')}"
      end

      # @return [String] where what is there now will be kept
      # @raise [Failure] where something would be lost, and nobody said that it may
      def self.look(contents, from, path, over)
        puts "#{from}: #{contents.jobs.size} jobs, last changed #{contents.newest || 'never'}"
        lost = File.size?(path) ? lost_of(path, contents) : []
        tell(lost) if lost&.any?
        $stdout.flush
        raise Failure, 'what is here can’t be read; --over puts the other in its place, and keeps this beside it' unless lost || over
        raise Failure, "#{lost.size} jobs would be set back or lost; --over does it all the same" if lost&.any? && !over

        free("#{path}.before-#{Time.now.strftime('%Y%m%d-%H%M%S')}")
      end

      # Two in one second do not get in each other's way.
      def self.free(path) = [path, *(2..99).map { |n| "#{path}-#{n}" }].find { |name| !File.exist?(name) }

      def self.tell(lost)
        more = lost.size > SHOWN ? " and #{lost.size - SHOWN} more" : ''
        puts "Not in it, or later here: #{lost.first(SHOWN).join(', ')}#{more}"
      end

      # @return [Array<String>, nil] nil where nobody can say
      def self.lost_of(path, contents)
        Store::Backup.lost(Store::Backup.contents(path), contents)
      rescue Store::Database::Unusable => e
        puts "Here now: #{e.message}"
        nil
      end
      private_class_method :look, :free, :tell, :lost_of
    end
  end
end
