# frozen_string_literal: true

require_relative 'law'

module Miser
  module Draw
    # A linear regulator holds the current; the spare volts become heat.
    class Regulated < Law
      declare 'regulated', label: 'Constant current', exponent: 0.0, used_for: 'LEDs behind a linear regulator, electronics',
        source: 'common practice'
    end
  end
end
