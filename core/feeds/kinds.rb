# frozen_string_literal: true

require_relative '../job/roles'
require_relative 'joins'
require_relative 'kind'
require_relative 'wire'

module Miser
  module Feeds
    # A over which a lamp wants a relay of its own. Common practice.
    RELAY_FROM_A = 5.0
    # A that a tapped wire of the machine stands more. Common practice.
    TAP_MOST_A = 2.0
    NO_BATTERY = 'there is no battery: the coil feeds everything'

    # Always hot.
    class BatteryDirect < Kind
      declare 'battery', label: 'Battery direct', what: 'Always hot, through its own fuse at the battery: a tracker, never a lamp.',
        wires: [wire('supply', 'battery to load', :battery, :load, 0.75, fused: true),
          wire('earth', 'back to the battery', :load, :earth, 0.75)],
        parts: { 'fuse_holder' => 1, 'blade_fuse' => 1, 'ring_terminal' => 2 }, undo: 'nothing is left', source: 'battery'

      def self.reason(kase) = kase.role == 'tracker' ? 'it must draw with the key off' : nil
      def self.no(kase) = kase.battery ? nil : NO_BATTERY
    end

    # The part plugs in where the old one did.
    class OwnPlug < Kind
      declare 'own_plug', label: 'Own plug', what: 'The part plugs into the old holder or connector.', undo: 'plug the old lamp back'

      def self.reason(kase) = kase.swapped && !kase.brought && !kase.plugs_differ ? 'same plug' : nil
      def self.no(kase) = kase.swapped && !kase.brought ? nil : 'it has no plug of the machine’s to go into'
    end

    # Plug-in between machine and part.
    class Adapter < Kind
      declare 'adapter', label: 'Adapter harness', what: 'Plugs in between the machine’s connector and the part’s.', undo: 'unplug it',
        parts: { 'lamp_adapter' => 1 }, extra_ohms: 2 * JOINT_OHM

      def self.reason(kase) = kase.swapped && !kase.brought && kase.plugs_differ ? 'its connector is not the machine’s' : nil
      def self.no(kase) = OwnPlug.no(kase)
    end

    # Battery-fed between plug-in harnesses.
    class Hub < Kind
      declare 'hub', label: 'Isolating hub', what: 'Battery-fed box between plug-in harnesses: senses the machine’s lamps, drives outputs of its own.',
        wires: [wire('out', 'hub to load', :device, :load, 0.75), wire('earth', 'back to the hub', :load, :device, 0.75)],
        parts: { 'hub_lead' => 1 }, undo: 'unplug it'

      def self.device? = true
      def self.reason(kase) = kase.bus && !kase.swapped && kase.role != 'tracker' ? 'a data bus: nothing is spliced into its wires' : nil
      def self.no(kase) = kase.battery ? nil : NO_BATTERY
    end

    # Battery-fed, dims, electronic fuses, takes triggers.
    class Controller < Kind
      declare 'controller', label: 'Two-channel controller', what: 'Battery-fed, dims in eight steps, a fuse of its own for each channel, does what its triggers say.',
        wires: [wire('out', 'controller to load', :device, :load, 1.5), wire('earth', 'back to the controller', :load, :device, 1.5)],
        parts: { 'bullet_pair' => 2 }, undo: 'unplug it; its triggers come out of their taps'

      def self.device? = true

      def self.reason(kase) = kase.role == 'aux_lamp' && kase.extras > 1 ? 'two sets of extra lamps, dimmed and fused apart' : nil
      def self.no(kase) = kase.battery ? nil : NO_BATTERY
    end

    # Coil on a trigger wire, current from the battery.
    class Relay < Kind
      declare 'relay', label: 'Relay', what: 'The lamp’s current comes from the battery through its own fuse; a wire of the machine only pulls the relay in.',
        wires: [wire('supply', 'battery to 30', :battery, :relay, 1.5, fused: true), wire('out', '87 to lamp', :relay, :load, 1.5),
          wire('earth', 'back to the battery', :load, :earth, 1.5),
          wire('trigger', 'trigger to 86', :trigger, :relay, 0.75, carries: :coil),
          wire('coil_earth', '85 to earth', :relay, :ground, 0.75, carries: :coil)],
        parts: { 'relay' => 1, 'relay_socket' => 1, 'fuse_holder' => 1, 'blade_fuse' => 1, 'ring_terminal' => 3, 'piercing_tap' => 1 },
        cuts: 1, undo: 'a pin hole in one wire', source: 'battery', extra_ohms: CONTACT_OHM

      def self.relay? = true
      def self.no(kase) = kase.battery ? nil : NO_BATTERY

      def self.reason(kase)
        return 'its draw is not known: a relay stands what a lamp wire may not' if kase.amps.nil? && kase.role == 'aux_lamp'

        kase.amps && kase.amps > RELAY_FROM_A && !kase.swapped ? format('it draws %.1f A, over %g A', kase.amps, RELAY_FROM_A) : nil
      end
    end

    # A Y between plug and socket.
    class BranchAdapter < Kind
      declare 'branch', label: 'Branch adapter', what: 'A Y between plug and socket: a second lamp on the same function.', undo: 'unplug it',
        wires: [wire('feed', 'branch to lamp', :line, :load, 0.75), wire('earth', 'back to the branch', :load, :line, 0.75)],
        parts: { 'branch_adapter' => 1 }, most_a: RELAY_FROM_A

      def self.reason(kase)
        extra = kase.brought || (kase.group == 'lamp' && !kase.swapped)
        extra && kase.role.start_with?('signal_') ? 'a second lamp on the same function' : nil
      end

      def self.no(kase)
        return 'a data bus counts what its lamps draw' if kase.bus

        Job::Roles.named(kase.role).group == 'lamp' ? nil : 'a second lamp on the same function: this is none'
      end
    end

    # A pin screwed into one wire.
    class PiercingTap < Kind
      declare 'tap', label: 'Piercing tap', what: 'A pin screwed into one wire, on the machine’s side of the connector, so that the lamp still unplugs.',
        wires: [wire('feed', 'tap to lamp', :line, :load, 0.75), wire('earth', 'to earth', :load, :earth, 0.75)],
        parts: { 'piercing_tap' => 1 }, cuts: 1, undo: 'a pin hole in one wire; take the wire out of the tap and it is off', most_a: TAP_MOST_A

      def self.reason(kase)
        small = kase.amps.nil? || kase.amps <= TAP_MOST_A
        small && (kase.brought || (kase.role == 'aux_lamp' && kase.amps)) ? 'one small extra function' : nil
      end

      def self.no(kase) = kase.bus ? 'never into a wire of a data bus' : nil
    end

    # The switched terminal that the maker left.
    class AccessoryTerminal < Kind
      declare 'accessory', label: 'Accessory terminal', what: 'The switched terminal that the maker left: small loads, and a hub’s trigger.',
        wires: [wire('feed', 'terminal to load', :line, :load, 0.75, fused: true), wire('earth', 'to earth', :load, :earth, 0.75)],
        parts: { 'fuse_holder' => 1, 'blade_fuse' => 1, 'bullet_pair' => 1, 'ring_terminal' => 1 }, undo: 'unplug it', source: 'accessory',
        most_a: RELAY_FROM_A

      def self.reason(kase) = kase.amps.nil? || kase.amps <= RELAY_FROM_A ? 'a small load that goes off with the key' : nil
    end
  end
end
