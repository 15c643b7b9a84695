# frozen_string_literal: true

module Miser
  module Job
    # What a load does on the machine, which law it usually follows, and how much
    # of the time it is on in each shipped scenario.
    module Roles
      # @!attribute filament [String, nil] which of a bulb's two it is usually on
      Role = Struct.new(:key, :group, :label, :law, :duties, keyword_init: true) do
        def filament = FILAMENTS[key]
      end

      # Common practice: in a bulb of two, the dim one glows and the bright one brakes or flashes.
      FILAMENTS = { 'head_low' => 'low', 'head_high' => 'high', 'tail' => 'dim', 'position' => 'dim', 'plate' => 'dim', 'brake' => 'bright',
                    'signal_left' => 'bright', 'signal_right' => 'bright' }.freeze

      # Order of the duties below.
      SCENARIOS = %w[idle_night slow_trail cruise_day cruise_night all_on key_on parked].freeze

      def self.role(key, group, label, law, *duties)
        Role.new(key: key, group: group, label: label, law: law, duties: SCENARIOS.zip(duties).to_h)
      end
      private_class_method :role

      # Duties: signals half the time while flashing, brake a tenth to a fifth of a
      # slow ride (assumptions, editable per scenario).
      TABLE = [
        role('ignition', 'engine', 'Ignition', 'regulated', 1, 1, 1, 1, 1, 0.2, 0),
        role('fuel_pump', 'engine', 'Fuel pump', 'heater', 1, 1, 1, 1, 1, 0, 0),
        role('injection', 'engine', 'Injection', 'heater', 0.4, 0.6, 1, 1, 1, 0, 0),
        role('controller', 'engine', 'Controllers', 'driver', 1, 1, 1, 1, 1, 1, 0),
        role('fan', 'engine', 'Cooling fan', 'heater', 0.5, 0.4, 0, 0, 0.5, 0, 0),
        role('instruments', 'engine', 'Instruments', 'regulated', 1, 1, 1, 1, 1, 1, 0),
        role('head_low', 'lamp', 'Headlamp, low', 'filament', 1, 1, 1, 0, 1, 1, 0),
        role('head_high', 'lamp', 'Headlamp, high', 'filament', 0, 0, 0, 1, 0, 0, 0),
        role('tail', 'lamp', 'Tail', 'filament', 1, 1, 1, 1, 1, 1, 0),
        role('brake', 'lamp', 'Brake', 'filament', 1, 0.15, 0.05, 0.05, 0.15, 0, 0),
        role('plate', 'lamp', 'Number plate', 'filament', 1, 1, 1, 1, 1, 1, 0),
        role('position', 'lamp', 'Position, running', 'filament', 1, 1, 1, 1, 1, 1, 0),
        role('signal_left', 'lamp', 'Signals, left', 'filament', 0.5, 0.03, 0.02, 0.02, 0.05, 0, 0),
        role('signal_right', 'lamp', 'Signals, right', 'filament', 0, 0.03, 0.02, 0.02, 0.05, 0, 0),
        role('telltale', 'lamp', 'Tell-tales', 'filament', 0.5, 0.06, 0.04, 1, 0.1, 0, 0),
        role('dash_light', 'lamp', 'Dash light', 'filament', 1, 1, 0, 1, 1, 1, 0),
        role('aux_lamp', 'lamp', 'Auxiliary lamp', 'filament', 0, 0, 0, 1, 1, 0, 0),
        role('grips', 'accessory', 'Heated grips', 'heater', 1, 1, 0, 1, 1, 0, 0),
        role('charger', 'accessory', 'Radio charger', 'driver', 1, 1, 1, 1, 1, 1, 0),
        role('tracker', 'accessory', 'Tracker', 'driver', 1, 1, 1, 1, 1, 1, 0),
        role('accessory', 'accessory', 'Other accessory', 'regulated', 0, 1, 1, 1, 1, 0, 0),
        role('load_resistor', 'resistor', 'Load resistor', 'heater', 0.5, 0.06, 0.04, 0.04, 0.1, 0, 0)
      ].freeze
      BY_KEY = TABLE.to_h { |r| [r.key, r] }.freeze

      # What a load of that role is called until somebody calls it otherwise.
      # @return [String]
      def self.usual_name(key) = named(key).label.delete_prefix('Other ').capitalize

      # Roles that go on drawing with the key off, as they are usually wired.
      HOT = %w[tracker].freeze

      # @return [Role]
      def self.named(key) = BY_KEY.fetch(key) { BY_KEY.fetch('accessory') }
    end
  end
end
