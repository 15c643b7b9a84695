# frozen_string_literal: true

require_relative '../formats/job_file'
require_relative '../store/database'
require_relative '../store/jobs'
require_relative '../store/parts'

module Miser
  module Cli
    # What is kept, as it is kept now: what an older Miser left is brought forward when it is opened.
    module Kept
      # @param path [String] database file
      # @return [Sequel::Database]
      def self.open(path)
        Store::Database.open(path).tap do |database|
          Store::Jobs.new(database).bring_forward(Job::Template::VERSION) { |document| Formats::JobFile.current(document) }
          Store::Parts.new(database).bring_forward { |part| Formats::Migrations::From1.part(part) }
        end
      end
    end
  end
end
