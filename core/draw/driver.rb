# frozen_string_literal: true

require_relative 'law'

module Miser
  module Draw
    # A switching driver takes constant watts: fewer volts, more amps.
    class Driver < Law
      declare 'driver', label: 'Switching driver', exponent: -1.0, used_for: 'most LED headlamps', source: 'common practice'

      def light(at, of:) = of.positive? ? (at < min_v ? 0.0 : 1.0) : nil # rubocop:disable Style/NestedTernaryOperator
    end
  end
end
