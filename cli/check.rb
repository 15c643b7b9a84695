# frozen_string_literal: true

require_relative 'options'
require_relative 'job_argument'

module Miser
  module Cli
    # check FILE: is it valid, and what is odd in it.
    module Check
      def self.run(argv)
        options = Options.parse(argv, [], files: 1, usage: 'check FILE')
        path = options[:arguments].first
        ticket = Ticket.new(JobArgument.read(path).document)
        problems = ticket.problems
        problems.each { |p| puts "#{p.level}: #{p.at}: #{p.message}. Accepted: #{p.accepts}." }
        missing = ticket.wants.reject { |m| m.stage == 'hand_over' }
        missing.each { |m| puts "missing: #{m.stage}: #{m.text}" }
        puts "#{path}: valid, #{problems.count { |p| p.level == 'problem' }} problems, #{missing.size} things missing"
        problems.any? { |p| p.level == 'problem' } ? 1 : 0
      end
    end
  end
end
