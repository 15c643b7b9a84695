# frozen_string_literal: true

require 'bundler/setup'
require 'minitest/autorun'
require 'json'
require 'tmpdir'
require_relative '../core/miser'
require_relative '../formats/usual_tables'
require_relative 'support/machines'

module Miser
  # Shared by every test.
  class Test < Minitest::Test
    include Machines

    CATALOGUE = Formats::UsualTables.catalogue
    DEMO = Dir[File.expand_path('../demo/jobs/*.json', __dir__)].freeze

    def assert_within(share, expected, actual, message = nil)
      assert_in_delta expected, actual, (expected.abs * share) + 1e-12, message
    end
  end
end
