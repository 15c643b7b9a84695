# frozen_string_literal: true

require_relative 'options'
require_relative 'listen'
require_relative 'demo_data'

module Miser
  module Cli
    # serve: the shop's own jobs.
    module Serve
      def self.run(argv)
        options = Options.parse(argv, %i[port data], usage: 'serve [--port N] [--data DIR]')
        Listen.free!(options[:port])
        database = Store::Database.open(Options.database_path(options))
        DemoData.shelf(database)
        Listen.on(database, options[:port])
      end
    end
  end
end
