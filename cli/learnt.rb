# frozen_string_literal: true

require 'date'
require_relative 'options'
require_relative 'kept'
require_relative 'new_file'
require_relative '../formats/learnt_file'
require_relative '../server/learnt'
require_relative '../store/shop'

module Miser
  module Cli
    # learnt give: what the shop has learnt, as a file for others; learnt take FILE: another's, shown, and with --accept taken;
    # learnt merge FILE …: several as one, with --sum as one shop.
    module Learnt
      ACTS = %w[give take merge].freeze

      def self.run(argv)
        act = argv.first
        raise Failure.new("usage: bin/miser #{Program::COMMANDS['learnt'].first}", 2) unless ACTS.include?(act)

        rest = argv.drop(1)
        if act == 'merge'
          merge(rest)
        else
          public_send(act, Options.parse(rest, %i[data demo to over accept], files: act == 'take' ? 1 : 0,
            usage: Program::COMMANDS['learnt'].first))
        end
      end

      def self.give(options) = out(Formats::LearntFile.write(shop(options).shared(Time.now.utc)), options)

      def self.take(options)
        read = read(options[:arguments].first)
        learnt = shop(options)
        fresh, older = learnt.fresh(read.shops)
        rows = fresh.sum { |s| s[:rows].size }
        read.errors.each { |e| warn "#{e.at}: #{e.field} #{e.message}; accepted: #{e.accepts}" }
        learnt.elsewhere.put(fresh) if options[:accept] && fresh.any?
        done = options[:accept] ? 'taken' : 'would come in (--accept takes them)'
        puts "#{rows} rows of #{fresh.size} shops #{done}; #{read.refused} can’t be believed; #{older} shops are here already"
        0
      end

      def self.merge(argv)
        files = argv.take_while { |word| !word.start_with?('--') }
        rest = argv.drop(files.size)
        options = Options.parse(rest, %i[to over sum], usage: Program::COMMANDS['learnt'].first)
        raise Failure.new("usage: bin/miser #{Program::COMMANDS['learnt'].first}", 2) if files.empty?

        merged = Formats::LearntFile.merge(files.map { |file| read(file).shops })
        shops = merged.map { |s| s.merge(rows: s[:rows].map { |r| r.except('key') }) }
        out(Formats::LearntFile.write(options[:sum] ? [Formats::LearntFile.sum(shops)] : shops), options)
      end

      def self.read(path)
        Formats::LearntFile.read(Options.read_file(path))
      rescue Formats::LearntFile::Refused => e
        raise Failure, "#{path}: #{e.error.field} #{e.message}; accepted: #{e.error.accepts}"
      end

      def self.shop(options)
        path = Options.database_path(options)
        raise Failure, "there is no shop at #{path} yet" unless File.exist?(path)

        database = Kept.open(path)
        Server::Learnt.new(database, Store::Shop.new(database))
      end

      def self.out(text, options)
        options[:to] ? NewFile.write(options[:to], text, over: options[:over]) : $stdout.write(text)
        0
      end
      private_class_method :merge, :read, :shop, :out
    end
  end
end
