# frozen_string_literal: true

require 'bundler/setup'
require_relative 'program'

exit Miser::Cli::Program.run(ARGV)
