# frozen_string_literal: true

require_relative '../block'
require_relative 'opened'

module Miser
  module Card
    # What keeps the signals right once their lamps are LEDs.
    class Cured < Block
      # What is done first, by remedy; the rest says the remedy itself.
      DO = {
        'flasher_3' => 'Pull the old flasher and plug the new one in; its third terminal to earth.',
        'flasher_2' => 'Pull the old flasher and plug the new one in.',
        'resistors' => 'Bolt a load resistor to bare metal on each side, away from wires and plastic, and join it across that side’s lamp.',
        'controller' => 'Tell the controller that LEDs are fitted.',
        'keep_one' => 'Leave the rear lamps filament.',
        'diodes' => 'Take the tell-tale’s two wires off, join a diode from each side to its one wire, and its other wire to earth.',
        'led_telltales' => 'Fit a tell-tale for each side, each back to earth.',
        'polarity' => 'Turn the dark lamp’s two wires about, and label them.'
      }.freeze
      HOT = %w[resistors].freeze

      def steps = @plan.remedies.map { |remedy| step(remedy) }

      private

      def step(remedy)
        cost = remedy.cost
        parts = cost.parts.map { |p| p.count > 1 ? "#{p.count} × #{p.name}" : p.name }
        Step.of(key: "cure/#{remedy.key}", phase: :fit, kind: 'fit', block: 'Turn signals', where: 'flasher and loom',
          text: DO.fetch(remedy.key, remedy.label),
          detail: [parts.any? ? "#{parts.join(', ')}." : nil, *cost.notes].compact.join(' '), minutes: cost.minutes,
          cautions: [*(HOT.include?(remedy.key) ? caution('resistor_hot') : []), *(cost.loses_warning ? caution('no_lamp_warning') : []),
            *(cost.cuts.positive? ? caution('battery_first') : [])],
          needs: [POWER_OFF, Ready::PARTS, *opened(remedy)], gives: [JOINED], why: why('signals', "#{remedy.label} was chosen"))
      end

      def opened(remedy) = (%w[diodes led_telltales].include?(remedy.key) ? %w[dash wiring] : %w[wiring]).map { |what| Opened.opened(what) }
    end
  end
end
