# frozen_string_literal: true

module Miser
  # Volts that the trade reckons with, each in one place. What a machine really has is
  # a setting or a reading; these are the marks on the scale.
  module Volts
    # The name on a lamp; rated watts are at it. Common practice.
    NOMINAL = 12.0
    # A rested battery under a lamp: where a bench reading is expected. Common practice.
    BENCH = 12.5
    # A rested battery, well charged, with hardly a load: where a circuit is asked about. Common practice.
    REST = 12.6
    # Engine running, lights on: the least a healthy system holds, and where small lamps are
    # tested. Common practice; the test: UN Regulation 37 (from memory).
    RUNNING = 13.5
    # Where headlamps are tested: UN Regulation 37 (from memory).
    HEADLAMP_TEST = 13.2
    # What engine loads are stated at. Assumption.
    CHARGING = 14.0
    # A nearly flat battery with the lights on, and one on full charge: the ends of what a
    # circuit must work at. Assumption.
    FLAT_LIT = 11.5
    FULL_CHARGE = 14.5
    # V that a circuit may be asked about. Assumption.
    ASKED = (9.0..16.0)
    # Offered to look at a circuit with. Assumption.
    OFFERED = [FLAT_LIT, 12.1, REST, HEADLAMP_TEST, 13.8, FULL_CHARGE].freeze
  end
end
