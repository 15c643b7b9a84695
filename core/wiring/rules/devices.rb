# frozen_string_literal: true

require_relative '../finding'

module Miser
  module Wiring
    # Outputs of a hub, and all of it together.
    class HubOver < Rule
      declare 'hub_over', label: 'Hub over its limits', severity: 'red'

      def findings = scheme.devices.each_with_index.select { |d, _| d['kind'] == 'hub' }.flat_map { |d, i| outputs(d, i) + total(d, i) }

      private

      def outputs(device, index)
        Devices.outputs(device).filter_map do |o|
          most = truth.most_a(index, o)
          if most > o.limit_a
            found(format('%s, output %s: %s is on together, %g A is its limit.', device['name'], o.label, amps(most), o.limit_a),
              subject: device['id'])
          end
        end
      end

      def total(device, index)
        most = truth.states.map { |s| Devices.outputs(device).sum { |o| truth.look(s).output_a(index, o) } }.max
        limit = Devices.limit(device, 'total_a')
        return [] unless most > limit

        [found(format('%s: %s together, %g A in all is its limit. Its rating is not what the machine earns.', device['name'], amps(most), limit),
          subject: device['id'])]
      end
    end

    # A step that trips only when somebody turns it up.
    class StepUnderFull < Rule
      declare 'step', label: 'Controller step under full draw', severity: 'red'

      def findings
        scheme.devices.each_with_index.select { |d, _| d['kind'] == 'controller' }.flat_map do |d, i|
          Devices.outputs(d).filter_map { |o| step(d, i, o) }
        end
      end

      private

      def step(device, index, output)
        full = truth.most_a(index, output, full: true)
        return if full.zero?

        right = Devices.step_for(full)
        cure = right && Cure.new(label: "step #{number(right)} A",
          edits: [edit("/wiring/devices/#{device['id']}/channel_#{output.key}/fuse_a", right)])
        unless output.limit_a
          return found("#{device['name']}, #{output.label}: no step set.", subject: device['id'], severity: 'amber',
            cures: [cure])
        end
        return unless full > output.limit_a

        found(format('%s, %s: %s at full intensity, its fuse is set at %g A. It trips when somebody turns it up.', device['name'], output.label,
          amps(full), output.limit_a), subject: device['id'], cures: [cure])
      end
    end

    # A hub or controller that is not there, an output that two share.
    class NoOutput < Rule
      declare 'no_output', label: 'Hub or controller missing', severity: 'amber'

      def findings
        fed.select { |c| c.feed.kind.device? }.filter_map do |c|
          kind = c.feed.kind.key
          next found("#{c.name}: #{Devices::KINDS.fetch(kind).downcase} not chosen yet.", subject: c.id, cures: [add(c, kind)]) unless c.feed.device
          next if Devices.output(c.feed.device, c.feed.row['output'])

          found("#{c.name}: no output of #{c.feed.device['name']} chosen.", subject: c.id)
        end
      end

      private

      # One with the usual limits, of which its maker may say other.
      def add(c, kind)
        id = "d-#{kind}"
        return if scheme.plan.device(id)

        out = Devices.outputs({ 'kind' => kind }).map(&:key).find { |o| Devices.suits?({ 'kind' => kind }, o, c.role) }
        Cure.new(label: 'add one', edits: [{ 'op' => 'add', 'at' => '/wiring/devices', 'value' => { 'id' => id, **Devices.fresh(kind) } },
          *on_feed(c, '', 'device_id' => id, 'output' => out).edits])
      end
    end

    # An output that feeds its own box.
    class OwnOutput < Rule
      declare 'own_output', label: 'A hub on its own output', severity: 'red'

      def findings
        scheme.devices.select { |d| own?(d) }.map do |d|
          found("#{d['name']} is fed from an output of its own: it never wakes.", subject: d['id'],
            cures: [Cure.new(label: 'from the battery', edits: [edit("/wiring/devices/#{d['id']}/from_device", nil)])])
        end
      end

      private

      # Itself, or by way of others.
      def own?(device)
        seen = []
        at = device
        while at && at['from_device'] && !seen.include?(at['id'])
          seen << at['id']
          at = scheme.plan.device(at['from_device'])
          return true if at && at['id'] == device['id']
        end
        false
      end
    end

    # What a controller does without its wires.
    class NoIgnition < Rule
      declare 'no_ignition', label: 'No ignition trigger', severity: 'red'

      def findings
        scheme.devices.select { |d| d['kind'] == 'controller' && !Devices.triggers(d).key?('ignition') }.map do |d|
          found("#{d['name']}: without its ignition wire it does nothing.", subject: d['id'],
            cures: [Cure.new(label: 'from the wire live with the key',
              edits: [edit("/wiring/devices/#{d['id']}/triggers/ignition", 'key')])])
        end
      end
    end
  end
end
