# frozen_string_literal: true

require_relative '../block'

module Miser
  module Card
    # How the machine came in: looked at and measured before anything comes off.
    class Before < Block
      def steps
        chain([tried, volts, wall, pictures, *power].compact)
      end

      private

      def tried
        Step.of(key: 'before/tried', phase: :before, kind: 'check', block: 'As it came in', where: 'machine', minutes: 4.0, gives: [SEEN],
          text: 'Try every lamp in every state, before anything comes off.', held_by: :tried_before,
          hold: 'What was dark before is not your doing; what is dark afterwards is.', why: why('function', 'before and after are set beside each other'),
          opens: { stage: 'function', subject: 'before' })
      end

      def volts
        running = @plan.battery? ? 'Volts at rest, at idle and at cruise, and the draw with the key off.' : 'Volts at idle and at cruise, at the lamp.'
        Step.of(key: 'before/volts', phase: :before, kind: 'measure', block: 'As it came in', where: 'machine', minutes: 5.0,
          tool: 'meter, clamp',
          text: running, cautions: caution('running_engine', *(@plan.battery? ? %w[meter_jack] : [])), gives: [SEEN],
          why: why('readings', 'what the charging system gives'), opens: { stage: 'readings', subject: nil })
      end

      def wall
        return unless @plan.lamps.flatten.any?(&:head?)

        Step.of(key: 'before/wall', phase: :before, kind: 'aim', block: 'As it came in', where: 'wall', minutes: 6.0,
          tool: 'light meter, tape',
          text: 'Read the dipped beam on the wall, and mark where the cut-off stands.', detail: 'Same spot and height afterwards, or the two tell nothing.',
          cautions: caution('lamp_hot'), gives: [SEEN], why: why('beam', 'the headlamp is changed'), opens: { stage: 'beam', subject: nil })
      end

      def pictures
        return unless @plan.openings.any?

        Step.of(key: 'before/pictures', phase: :before, kind: 'ready', block: 'As it came in', where: 'machine', minutes: 1.5,
          tool: 'camera',
          text: 'Photograph what will be opened: covers, plugs, how wires are led.', gives: [SEEN], why: why('fit', 'it goes back as it was'))
      end

      # Key, then battery: before any wire is cut or a plug pulled.
      def power
        return [coil_off] unless @plan.battery?

        [Step.of(key: 'before/key', phase: :before, kind: 'strip', block: 'Power off', where: 'machine', minutes: 0.5, text: 'Key out.',
          why: why('fit', 'every job')),
          Step.of(key: 'before/battery', phase: :before, kind: 'strip', block: 'Power off', where: 'battery', minutes: 3.0,
            tool: '10 mm open',
            text: 'Battery negative off first, and laid aside where it can’t fall back.', gives: [POWER_OFF], needs: [SEEN],
            hold: 'No wire is cut and no plug pulled with the battery on.', cautions: caution('battery_first', 'battery_acid'),
            why: why('fit', 'no wire is live while it is worked on'))]
      end

      def coil_off
        Step.of(key: 'before/key', phase: :before, kind: 'strip', block: 'Power off', where: 'machine', minutes: 0.5, gives: [POWER_OFF],
          needs: [SEEN],
          text: 'Engine off, key out; the coil feeds nothing while it stands.', hold: 'No plug is pulled with the engine running.',
          cautions: document.system == 'ac_lit' ? caution('ac_runaway') : [], why: why('fit', 'no wire is live while it is worked on'))
      end
    end
  end
end
