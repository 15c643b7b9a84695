# frozen_string_literal: true

require_relative '../block'

module Miser
  module Card
    # Closed: nothing left over, everything once more, aimed, ridden.
    class Finished < Block
      def steps = chain([tray, again, film, aim, wall, ride].compact)

      private

      def step(part, **rest) = Step.of(key: "end/#{part}", phase: :finish, block: 'Closed', needs: [TRIED, CLOSED], **rest)

      def tray
        return unless @plan.openings.any?

        step('tray', kind: 'close', where: 'bench', minutes: 1.0, text: 'Look at the tray: every place empty, nothing left over.',
          held_by: :tray,
          hold: 'A fastener left over belongs somewhere.', why: why('fit', 'fasteners that came out'))
      end

      def again
        step('again', kind: 'check', where: 'machine', minutes: 3.0, text: 'Try every lamp once more, closed.',
          held_by: :tried_closed, hold: 'Nothing leaves with a lamp untried after closing, unless it is said why.',
          detail: 'One that worked open and is dark now is a pinched wire.',
          cautions: caution('lamp_hot'), why: why('function', 'closing pinches wires'), opens: { stage: 'function', subject: 'closed' })
      end

      def film
        return unless @plan.lamps.flatten.any? { |l| l.part && l.head? }

        step('film', kind: 'close', where: 'front', minutes: 0.5, text: 'Film off the lens, last of all.',
          why: why('headlight', 'a new headlamp'))
      end

      def aim
        return unless @plan.lamps.flatten.any?(&:head?)

        step('aim', kind: 'aim', where: 'wall', minutes: 8.0, tool: 'screwdriver, tape', text: 'Aim the headlamp, rider aboard.',
          held_by: :aimed, hold: 'An unaimed beam blinds whoever comes the other way.', cautions: caution('aim_law'),
          why: why('aim', 'the headlamp was changed'), opens: { stage: 'aim', subject: nil })
      end

      def wall
        return unless @plan.lamps.flatten.any?(&:head?)

        step('wall', kind: 'aim', where: 'wall', minutes: 6.0, tool: 'light meter, tape',
          text: 'Read the dipped beam on the wall again, at the same marks.', cautions: caution('lamp_hot'),
          why: why('beam', 'before and after'), opens: { stage: 'beam', subject: nil })
      end

      def ride
        step('ride', kind: 'ride', where: 'road', minutes: 10.0, text: 'Ride it, then look at every lamp, screw and tie once more.',
          cautions: caution('law'),
          why: why('hand_over', 'before it leaves'))
      end
    end
  end
end
