# frozen_string_literal: true

module Miser
  module Signals
    # How a signal loop can be wired, in the trade's words.
    module Terms
      TELLTALES = { 'pair' => 'one each side, to earth', 'shared' => 'one between left and right', 'pilot' => 'one on the flasher',
                    'none' => 'none, or in the cluster' }.freeze
      # Terminals of a flasher's plug, pin by pin: every order met.
      PLUGS = %w[49/49a 49a/49 49/49a/31 49/31/49a 49a/49/31 49a/31/49 31/49/49a
        31/49a/49].to_h { |key| [key, key.gsub('/', ' · ')] }.freeze
      WIRES = { 'supply' => 'Supply wire', 'output' => 'Flasher to switch', 'left' => 'Left wire', 'right' => 'Right wire' }.freeze
      SCHOOLS = { 'swap' => 'flasher swap: costs no amps, no heat', 'resistors' => 'load resistors: keeps the flasher' }.freeze
      # What is on, with a command given.
      COMMANDED = { 'off' => 'nothing on', 'left' => 'left on', 'right' => 'right on', 'hazard' => 'hazard on',
                    'brake' => 'brake held' }.freeze
      COMMANDS = { 'off' => 'Off', 'left' => 'Left', 'right' => 'Right', 'hazard' => 'Hazard' }.freeze
      # Parts of the drawn loop that are no lamps.
      PARTS = { 'battery' => 'Battery', 'fuse' => 'Fuse', 'flasher' => 'Flasher', 'switch' => 'Switch', 'diode_left' => 'Diode, left',
                'diode_right' => 'Diode, right',
                'load_left' => 'Load resistor, left', 'load_right' => 'Load resistor, right' }.freeze
    end
  end
end
