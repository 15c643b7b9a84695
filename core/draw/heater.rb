# frozen_string_literal: true

require_relative 'law'

module Miser
  module Draw
    # Ohm's law: grips, seats, vests, load resistors.
    class Heater < Law
      declare 'heater', label: 'Heater', exponent: 1.0, drifts: false, used_for: 'grips, seats, vests, load resistors', source: 'Ohm’s law'

      def light(_at, of:) = nil # rubocop:disable Lint/UnusedMethodArgument -- it gives none
    end
  end
end
