# frozen_string_literal: true

require_relative '../budget/flags'

module Miser
  module Verdicts
    # Short cautions, shown at the step where the hand is about to go.
    module Cautions
      TABLE = {
        'battery_first' => 'Key out. Battery negative off first, back on last.',
        'battery_acid' => 'Battery acid burns and hydrogen explodes: eye protection, no sparks.',
        'lithium' => 'Lithium: never charged below 0 °C unless its maker allows it. Its protection may disconnect: the volts then run up.',
        'lamp_hot' => 'Lamps burn skin: let them cool. Look away from a lit LED; shade it.',
        'fuel' => 'Petrol vapour burns: no spark near the pump or an open line; air the place.',
        'high_tension' => 'Ignition carries thousands of volts: keep hands and leads off coil, plug and their wires.',
        'meter_jack' => 'Over 10 A use a clamp. The milliamp jack is the classic blown fuse.',
        'running_engine' => 'Machine on its stand, wheels chocked, exhaust led outside. Stator and exhaust are hot; keep clear of moving parts.',
        'data_bus' => Budget::Flags::DATA_BUS,
        'ac_runaway' => 'AC-lit: filament lamps may be all that holds the coil’s volts. Do not fit LED units without a regulator.',
        'resistor_hot' => 'Load resistors get hot enough to burn skin and melt plastic: bolt them to bare metal, away from wires.',
        'no_lamp_warning' => 'The signals no longer flash fast when a lamp is out: look at all four now and then.',
        'aim_law' => 'Aim is a matter of law, and inspection belongs to licensed people: the local rule wins over any figure here.',
        'fuse_last' => 'Keep the fuse out until the last joint is made and looked at. Two bare ends that touch are a dead short.',
        'fuse' => 'Never fuse above what the wire carries.',
        'law' => 'Lighting law differs by place and by road or off-road use: check the local code. Inspection belongs to licensed people.'
      }.freeze
    end
  end
end
