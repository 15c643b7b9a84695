# frozen_string_literal: true

module Miser
  module Job
    # Electrical systems met in the shop, the circuits each has, and its hazard.
    module Systems
      System = Struct.new(:key, :label, :circuits, :means, keyword_init: true)

      TABLE = [
        System.new(key: 'battery_dc', label: 'Battery DC', circuits: { 'main' => 'dc' },
          means: 'Alternator, regulator/rectifier, battery, everything else.'),
        System.new(key: 'ac_lit', label: 'AC-lit', circuits: { 'lighting' => 'ac' },
          means: 'A coil feeds the lamps with AC; brightness follows engine speed. LED units need DC or an AC rating.'),
        System.new(key: 'mixed', label: 'Mixed: AC headlamp, small battery', circuits: { 'lighting' => 'ac', 'main' => 'dc' },
          means: 'Two budgets; a draw saved on one does not help the other.'),
        System.new(key: 'data_bus', label: 'Data bus', circuits: { 'main' => 'dc' },
          means: 'A body controller drives the lamps and watches their current. Never splice into its wires.')
      ].freeze
      BY_KEY = TABLE.to_h { |s| [s.key, s] }.freeze
      CIRCUIT_NAMES = { 'main' => 'Battery circuit', 'lighting' => 'Lighting coil' }.freeze
    end
  end
end
