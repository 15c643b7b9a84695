# frozen_string_literal: true

require_relative 'job_argument'

module Miser
  module Cli
    # The signal circuit of a job file, known well enough to be solved.
    module SignalSurvey
      # @return [Miser::Signals::Survey]
      # @raise [Failure] naming what is missing
      def self.read(path)
        survey = Miser::Signals::Survey.new(Miser::Budget::Budget.new(JobArgument.read(path).document))
        return survey if survey.ready?

        raise Failure, "#{path}: the signal circuit is not known well enough yet\n#{survey.missing.map { |m| "  #{m[:at]}: #{m[:text]}" }.join("\n")}"
      end
    end
  end
end
