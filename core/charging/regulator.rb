# frozen_string_literal: true

module Miser
  module Charging
    # How a regulator holds the volts, as a person is asked for it. Most machines' are shunts: common practice.
    module Regulator
      USUAL = 'shunt'
      KINDS = { USUAL => 'shunt: burns what is not used', 'series' => 'series: opens instead' }.freeze
    end
  end
end
