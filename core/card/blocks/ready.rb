# frozen_string_literal: true

require_relative '../block'

module Miser
  module Card
    # Before a tool is touched.
    class Ready < Block
      PARTS = 'everything lies ready'

      def steps = chain([stand, tray, parts, sheets].compact)

      private

      def stand
        Step.of(key: 'ready/stand', phase: :ready, kind: 'ready', block: 'Make ready', where: 'bay', minutes: 3.0,
          text: 'Stand the machine level, wheels chocked, engine and lamps cool.', detail: 'A towel over what can be scratched; light on the work.',
          cautions: caution('lamp_hot', *fuel), why: why('fit', 'every job'))
      end

      def fuel = document.role('fuel_pump') ? %w[fuel] : []

      def tray
        return unless @plan.openings.any?

        Step.of(key: 'ready/tray', phase: :ready, kind: 'ready', block: 'Make ready', where: 'bench', minutes: 1.0,
          text: 'Lay out the tray sheet: each fastener that comes out gets its place.', why: why('fit', 'something is opened'))
      end

      def parts
        return unless @plan.any?

        names = (@plan.lamps.flatten.filter_map(&:part).map { |p| p['name'] } + @plan.remedies.flat_map { |r| r.cost.parts.map(&:name) }).uniq
        Step.of(key: 'ready/parts', phase: :ready, kind: 'ready', block: 'Make ready', where: 'bench', minutes: 2.0, gives: [PARTS],
          text: 'Lay out what was ordered, and hold each part against what it replaces.', held_by: :parts,
          hold: 'Nothing is opened before everything is here.',
          detail: names.any? ? "#{names.join(', ')}." : nil, why: why('order', 'what the change needs'))
      end

      def sheets
        return unless @plan.lamps.flatten.any?(&:part)

        Step.of(key: 'ready/sheets', phase: :ready, kind: 'ready', block: 'Make ready', where: 'bench', minutes: 2.0,
          text: 'Have the parts’ fitting instructions at hand.', detail: 'Some stand on the maker’s page only: fetch them before stripping.',
          why: why('choose', 'parts that were chosen'))
      end
    end
  end
end
