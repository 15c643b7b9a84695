# frozen_string_literal: true

require 'securerandom'
require_relative 'options'
require_relative 'job_argument'
require_relative '../store/jobs'
require_relative 'kept'
require_relative 'shop_folder'

module Miser
  module Cli
    # import FILE: takes a job file in, as a new job or over the one it came from; a folder is a whole shop.
    module Import
      def self.run(argv)
        options = Options.parse(argv, %i[data demo over], files: 1, usage: Program::COMMANDS['import'].first)
        return whole(options) if File.directory?(options[:arguments].first)

        read = JobArgument.read(options[:arguments].first)
        document = read.document
        jobs = Store::Jobs.new(Kept.open(Options.database_path(options)))
        old = jobs.find(document['id'])
        old ? over(jobs, read, old, options[:over]) : fresh(jobs, read)
        0
      end

      def self.whole(options)
        folder = options[:arguments].first
        count = ShopFolder.new(Kept.open(Options.database_path(options))).read(folder, over: options[:over])
        puts "#{count} jobs, the shelf and the settings are as in #{folder}"
        0
      end

      def self.fresh(jobs, read)
        document = read.document
        document = document.merge('id' => SecureRandom.alphanumeric(12)) if jobs.taken?(document['id'])
        jobs.create(document, files: read.attachments)
        puts "Taken in as #{document['id']} (#{document['name']})"
      end

      def self.over(jobs, read, old, allowed)
        document = read.document
        differences = Formats::JobFile.differences(old.document, document)
        return puts("#{document['id']} is the same already") if differences.empty?

        differences.first(40).each { |d| puts "  #{d[:at]}: #{short(d[:from])} -> #{short(d[:to])}" }
        unless allowed
          raise Failure,
            "#{document['id']} is here already and differs in #{differences.size} places; --over lays the file over it"
        end

        jobs.change(document['id'], old.revision, what: 'file laid over', files: read.attachments) { document }
        puts "Laid over #{document['id']} (#{document['name']}); the former state can be undone to"
      end

      def self.short(value) = value.nil? ? 'nothing' : value.to_s[0, 60]
    end
  end
end
