# frozen_string_literal: true

require 'rbconfig'

module Miser
  # The command line as tests call it: what bin/miser does after it has looked for what is to be installed.
  module Program
    CALL = [RbConfig.ruby, File.expand_path('../../cli/miser.rb', __dir__)].freeze
  end
end
