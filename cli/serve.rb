# frozen_string_literal: true

require_relative 'options'
require_relative 'listen'
require_relative 'demo_data'
require_relative 'kept'
require_relative 'hold'
require_relative 'on_network'

module Miser
  module Cli
    # serve: the shop's own jobs.
    module Serve
      def self.run(argv)
        options = Options.parse(argv, %i[port data bind host cert key processes], usage: Program::COMMANDS['serve'].first)
        Listen.free!(options[:port], options[:bind] || Listen::HOST)
        path = Options.database_path(options)
        Hold.take(path)
        database = Kept.open(path)
        shop = Store::Shop.new(database)
        DemoData.shelf(database, shop)
        DemoData.unpriced(database, shop)
        Listen.on(database, options[:port], path: path, processes: options[:processes],
          door: options[:bind] && OnNetwork.new(options, database, path))
      end
    end
  end
end
