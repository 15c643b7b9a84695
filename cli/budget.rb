# frozen_string_literal: true

require_relative 'options'
require_relative 'job_argument'
require_relative '../formats/budget_report'

module Miser
  module Cli
    # budget FILE: the ledger, before and after.
    module Budget
      def self.run(argv)
        options = Options.parse(argv, %i[format], files: 1, usage: 'budget FILE [--format text|json]')
        budget = Miser::Budget::Budget.new(JobArgument.read(options[:arguments].first).document)
        $stdout.write(options[:format] == 'json' ? Formats::BudgetReport.json(budget) : Formats::BudgetReport.text(budget))
        0
      end
    end
  end
end
