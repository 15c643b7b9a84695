# frozen_string_literal: true

module Miser
  module Charging
    # How a regulator holds the volts, as a person is asked for it. Most machines' are shunts: common practice.
    module Regulator
      USUAL = 'shunt'
      # What an AC regulator does to the wave: common practice. Nobody said: the worse of both is reckoned with.
      PHASE_CUTTING = 'phase_cutting'
      WAVES = { 'clamping' => 'clamps each half-wave at its height', PHASE_CUTTING => 'cuts each half-wave short' }.freeze
      KINDS = { USUAL => 'shunt: burns what is not used', 'series' => 'series: opens instead' }.freeze
    end
  end
end
