# frozen_string_literal: true

require 'bundler/setup'
require 'minitest/autorun'
require 'fileutils'
require 'json'
require 'tmpdir'
require_relative '../cli/demo_data'
require_relative '../core/miser'
require_relative '../formats/usual_tables'
require_relative 'support/machines'

# The five machines alone, where a whole program is started: its year takes seconds each time.
ENV['MISER_DEMO_YEAR'] = 'none'

module Miser
  # Shared by every test.
  class Test < Minitest::Test
    include Machines

    MARKET = Cli::DemoData.market
    CATALOGUE = Formats::UsualTables.catalogue(MARKET)
    # The demo's jobs as whole files.
    DEMO = Dir.mktmpdir.then do |folder|
      Minitest.after_run { FileUtils.rm_rf(folder) }
      Cli::DemoData.texts.map { |id, text| File.join(folder, "#{id}.miser.json").tap { |path| File.write(path, text) } }
    end.freeze

    # @return [Float] from a normal distribution of one
    def gauss(random) = Math.sqrt(-2 * Math.log(1 - random.rand)) * Math.cos(2 * Math::PI * random.rand)

    def assert_within(share, expected, actual, message = nil)
      assert_in_delta expected, actual, (expected.abs * share) + 1e-12, message
    end
  end
end
