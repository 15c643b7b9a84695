# frozen_string_literal: true

require_relative '../block'
require_relative 'fed'

module Miser
  module Card
    # Tried and measured while it is still open: what is wrong now is mended without opening twice.
    class Checked < Block
      def steps = chain([tried, volts, key_off, tray].compact)

      private

      def step(part, needs: [], **rest)
        Step.of(key: "check/#{part}", phase: :check, block: 'Checked while open', needs: [POWER_ON, Powered::BATTERY_ON, JOINED, *needs], gives: [TRIED], **rest)
      end

      def tried
        step('tried', kind: 'check', where: 'machine', minutes: 5.0, text: 'Try every lamp in every state, while it is still open.',
          held_by: :tried_open,
          hold: 'No closing with a lamp untried or wrong, unless it is said why.', cautions: caution('lamp_hot'), why: why('function', 'before it is closed'),
          opens: { stage: 'function', subject: 'open' })
      end

      def volts
        step('volts', kind: 'measure', where: 'machine', minutes: 6.0, tool: 'meter, clamp',
          text: 'Volts at idle and at cruise, with all on that will be.',
          detail: 'What each new lamp draws, warm, goes into its reading.', cautions: caution('running_engine', 'meter_jack'),
          why: why('readings', 'claimed is not measured'), opens: { stage: 'readings', subject: nil })
      end

      def key_off
        return unless @plan.battery?

        step('key_off', kind: 'measure', where: 'battery', minutes: 2.0, tool: 'meter', text: 'Draw with the key off.',
          detail: 'Wait until controllers have gone to sleep.',
          cautions: caution('meter_jack'), why: why('readings', 'a tracker or a relay left on empties the battery'),
          opens: { stage: 'readings', subject: nil })
      end

      def tray
        return unless @plan.openings.any?

        step('tray', kind: 'check', where: 'bench', minutes: 1.0, text: 'Count the tray before anything is closed.', held_by: :counted,
          hold: 'What is missing is found, or another taken, before it is closed.', detail: 'Each place has as many as came out.',
          why: why('fit', 'fasteners that came out'))
      end
    end
  end
end
