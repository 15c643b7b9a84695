# frozen_string_literal: true

require_relative 'options'
require_relative '../store/jobs'
require_relative '../formats/job_file'
require_relative 'kept'
require_relative 'new_file'
require_relative 'shop_folder'

module Miser
  module Cli
    # export JOB: a job of the shop as a file; export --all DIR: all of it as a folder.
    module Export
      def self.run(argv)
        options = Options.parse(argv, %i[data demo to over all], files: 1, usage: Program::COMMANDS['export'].first)
        path = Options.database_path(options)
        raise Failure, "there is no shop at #{path} yet" unless File.exist?(path)
        return all(path, options[:arguments].first) if options[:all]

        jobs = Store::Jobs.new(Kept.open(path))
        document = pick(jobs, options[:arguments].first).document
        text = Formats::JobFile.write(document, jobs.attachments.of(document['id'], Job::Attached.ids(document)))
        options[:to] ? NewFile.write(options[:to], text, over: options[:over]) : $stdout.write(text)
        0
      end

      def self.all(path, folder)
        puts "#{ShopFolder.new(Kept.open(path)).write(folder)} jobs, the shelf and the settings: #{folder}"
        0
      end

      def self.pick(jobs, word)
        saved = jobs.find(word)
        return saved if saved

        named = jobs.all.select { |s| s.document['name'].casecmp?(word) }
        if named.empty?
          raise Failure,
            "there is no job “#{word}”; jobs: #{jobs.all.map { |s| "#{s.document['id']} (#{s.document['name']})" }.join(', ')}"
        end
        if named.size > 1
          raise Failure,
            "several jobs are named “#{word}”; give one of the ids #{named.map { |s| s.document['id'] }.join(', ')}"
        end

        named.first
      end
    end
  end
end
