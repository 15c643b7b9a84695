# frozen_string_literal: true

require_relative 'options'
require_relative '../speed/beams'
require_relative '../speed/book'
require_relative '../speed/budgets'
require_relative '../speed/cards'
require_relative '../speed/fuzz'
require_relative '../speed/house'
require_relative '../speed/plans'
require_relative '../speed/signals'
require_relative '../speed/streams'
require_relative '../speed/wiring'

module Miser
  module Cli
    # bench: speed as ratios against an outside reference in the same run; bench fuzz: many bent requests.
    module Bench
      def self.run(argv)
        return Speed::Fuzz.new.run ? 0 : 1 if argv == ['fuzz']

        Options.parse(argv, [], usage: 'bench [fuzz]')
        Speed::Budgets.new.run
        Speed::House.new.run
        Speed::Book.new.run
        Speed::Signals.new.run
        Speed::Wiring.new.run
        Speed::Plans.new.run
        Speed::Cards.new.run
        Speed::Beams.new.run
        Speed::Streams.new.run
        0
      end
    end
  end
end
