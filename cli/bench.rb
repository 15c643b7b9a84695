# frozen_string_literal: true

require_relative 'options'
require_relative '../bench/speed'

module Miser
  module Cli
    # bench: speed as ratios against an outside reference in the same run.
    module Bench
      def self.run(argv)
        Options.parse(argv, [], usage: 'bench')
        Miser::Bench::Speed.new.run
        0
      end
    end
  end
end
