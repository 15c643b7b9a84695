# frozen_string_literal: true

require_relative '../block'
require_relative 'opened'

module Miser
  module Card
    # A hub or a controller: stuck on, fed from the battery, set.
    class Boxed < Block
      # Of its minutes. Assumption.
      SHARES = [2, 2, 1].freeze

      def steps = @plan.boxes.flat_map { |box| chain(of(box)) }

      private

      def of(box)
        mount, feed, set = shared(ticket.catalogue.minutes('feed.box'), SHARES)
        fuse = box['fuse_a'] ? format(' through its own fuse of %g A, fuse out until the last', box['fuse_a']) : ''
        [step(box, 'mount', mount, "Stick #{box['name']} down near the battery.", 'Clean, dry a minute, primer, dry, then press the adhesive. Nothing moves against it at either lock.'),
          step(box, 'feed', feed, "Ring terminals of #{box['name']} to the battery#{fuse}.",
            'The negative one waits with the battery’s own.', caution('battery_first', 'fuse_last')),
          step(box, 'set', set, "Set the channels of #{box['name']} as planned.", nil)]
      end

      def step(box, part, minutes, text, detail, cautions = [])
        Step.of(key: "box/#{box['id']}/#{part}", phase: :fit, kind: 'wire', block: box['name'], where: 'battery', text: text,
          detail: detail, minutes: minutes,
          cautions: cautions, needs: [POWER_OFF, Ready::PARTS, Opened.opened('wiring')], gives: [JOINED],
          why: why('wiring', 'feeds hang on it', subject: nil))
      end
    end
  end
end
