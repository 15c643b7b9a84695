# frozen_string_literal: true

require_relative 'ticket/ticket'
require_relative 'ticket/tally'
require_relative 'job/systems'
require_relative 'job/engine_kinds'

module Miser
  # The stages of the ticket. Every file in core/stages declares one; putting a file there
  # is all it takes.
  module Stages
    FOLDER = File.expand_path('stages', __dir__)

    # @param value [String] @param table [Hash] by what is accepted @param field [String] as a person calls it
    # @raise [Stage::Unavailable]
    def self.known!(value, table, field)
      raise Stage::Unavailable.new(field: field, given: value, accepts: table.keys.join(', ')) unless table.key?(value)
    end
  end

  Dir[File.join(Stages::FOLDER, '*.rb')].each { |file| require file }
end
