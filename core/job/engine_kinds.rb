# frozen_string_literal: true

module Miser
  module Job
    # What an engine spends on itself, offered where nobody has measured it.
    # All figures: Miser's own assumptions at 14 V, carried with the doubt of a default.
    module EngineKinds
      Kind = Struct.new(:key, :label, :idle_rpm, :cruise_rpm, :redline_rpm, :loads, keyword_init: true)

      # loads: role => amps at 14 V
      TABLE = [
        Kind.new(key: 'carb_single', label: 'Carburettor, one cylinder', idle_rpm: 1400, cruise_rpm: 5000, redline_rpm: 8500,
          loads: { 'ignition' => 0.7, 'instruments' => 0.2 }),
        Kind.new(key: 'carb_twin', label: 'Carburettors, two cylinders', idle_rpm: 1200, cruise_rpm: 4500, redline_rpm: 8000,
          loads: { 'ignition' => 1.8, 'instruments' => 0.3 }),
        Kind.new(key: 'efi_single', label: 'Injected, one cylinder', idle_rpm: 1450, cruise_rpm: 5000, redline_rpm: 9000,
          loads: { 'ignition' => 0.8, 'fuel_pump' => 2.2, 'injection' => 0.6, 'controller' => 0.6, 'instruments' => 0.3 }),
        Kind.new(key: 'efi_multi', label: 'Injected, two cylinders or more', idle_rpm: 1100, cruise_rpm: 4000, redline_rpm: 8500,
          loads: { 'ignition' => 2.4, 'fuel_pump' => 4.0, 'injection' => 1.4, 'controller' => 1.5, 'fan' => 5.5,
                   'instruments' => 0.8 }),
        Kind.new(key: 'two_stroke', label: 'Two-stroke, magneto ignition', idle_rpm: 1600, cruise_rpm: 5500, redline_rpm: 8000, loads: {}),
        Kind.new(key: 'two_stroke_efi', label: 'Two-stroke, injected', idle_rpm: 1600, cruise_rpm: 5500, redline_rpm: 8300,
          loads: { 'ignition' => 1.2, 'fuel_pump' => 2.6, 'injection' => 1.1, 'controller' => 0.8, 'instruments' => 0.4 }),
        Kind.new(key: 'governed', label: 'Small governed engine, magneto ignition', idle_rpm: 2200, cruise_rpm: 3600, redline_rpm: 3800,
          loads: {})
      ].freeze
      BY_KEY = TABLE.to_h { |k| [k.key, k] }.freeze

      # @return [Boolean] whether such an engine is known to spend nothing of what is earned
      def self.own_nothing?(key) = BY_KEY.key?(key) && BY_KEY[key].loads.empty?
    end
  end
end
