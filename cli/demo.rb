# frozen_string_literal: true

require_relative 'options'
require_relative 'listen'
require_relative 'demo_data'
require_relative 'hold'
require_relative 'stand_in_instruments'

module Miser
  module Cli
    # demo: the made-up shop.
    module Demo
      # The made-up shop's last year is written into its book, unless this says not to: it takes some seconds.
      YEAR = 'MISER_DEMO_YEAR'

      def self.run(argv)
        options = Options.parse(argv, %i[port data reset processes], usage: Program::COMMANDS['demo'].first)
        path = Options.database_path(options, demo: true)
        Listen.free!(options[:port]) unless options[:reset]
        Hold.take(path)
        if options[:reset]
          DemoData.open(path, reset: true, history: year?).disconnect
          puts "Demo data laid out afresh in #{path}"
          return 0
        end
        database = kept(path)
        StandInInstruments.start(Store::Shop.new(database))
        Listen.on(database, options[:port], path: path, processes: options[:processes])
      end

      def self.year? = ENV[YEAR] != 'none'

      def self.kept(path)
        DemoData.open(path, history: year?)
      rescue Store::Database::Unusable => e
        raise Failure, "#{e.message}. It is made up: bin/miser demo --reset lays it out afresh"
      end
      private_class_method :kept, :year?
    end
  end
end
