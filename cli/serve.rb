# frozen_string_literal: true

require_relative 'options'
require_relative 'listen'
require_relative 'demo_data'
require_relative 'kept'
require_relative 'hold'

module Miser
  module Cli
    # serve: the shop's own jobs.
    module Serve
      def self.run(argv)
        options = Options.parse(argv, %i[port data], usage: 'serve [--port N] [--data DIR]')
        Listen.free!(options[:port])
        path = Options.database_path(options)
        Hold.take(path)
        database = Kept.open(path)
        DemoData.shelf(database, Store::Shop.new(database))
        Listen.on(database, options[:port])
      end
    end
  end
end
