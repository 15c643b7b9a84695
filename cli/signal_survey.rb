# frozen_string_literal: true

require_relative 'job_argument'
require_relative 'export'
require_relative 'kept'

module Miser
  module Cli
    # The signal circuit of a job file, or of a job in the shop or the demo, known well enough to be solved.
    module SignalSurvey
      # @return [Miser::Signals::Survey]
      # @raise [Failure] naming what is missing
      def self.read(path)
        survey = Miser::Signals::Survey.new(Miser::Budget::Budget.new(document(path)))
        return survey if survey.ready?

        raise Failure,
          "#{path}: the signal circuit is not known well enough yet\n#{survey.missing.map { |m| "  #{m[:at]}: #{m[:text]}" }.join("\n")}"
      end

      # A file where there is one of that name, else a job kept here.
      def self.document(word)
        return JobArgument.read(word).document if word == '-' || File.exist?(word) || word.include?('.')

        shops = [false, true].map { |demo| Options.database_path({ data: Options.default_data, demo: demo }) }.select { |p| File.exist?(p) }
        raise Failure, "#{word}: there is no such file, and no shop yet at #{Options.default_data}" if shops.empty?

        found = shops.lazy.map { |p| kept(p, word) }.find(&:itself)
        found || raise(Failure, "there is no file and no job “#{word}”")
      end

      def self.kept(path, word)
        Export.pick(Store::Jobs.new(Kept.open(path)), word).document
      rescue Failure => e
        raise if e.message.start_with?('several')
      end
    end
  end
end
