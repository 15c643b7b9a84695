# frozen_string_literal: true

require_relative '../ticket/stage'

module Miser
  module Stages
    # Whether the part of a headlamp fits, measured.
    class HeadlightStage < Stage
      declare 'headlight', label: 'Headlight', group: 'decide', place: 60
      reads :machine, :system, :circuits, :positions, :loads, :choices, :readings, :sums, :bench, :assumptions, :beam
      figures :headlight
      # Checks told one by one; further ones are counted.
      TOLD = 2

      # Only where a part is thought of: the lamp may stay as it is.
      def wants = ticket.headlights.select { |h| parts?(h) }.flat_map { |h| h.chosen ? of_chosen(h, h.chosen) : undecided(h) }

      # What fitting it pulls in.
      def needs
        ticket.headlights.filter_map { |h| h.chosen && [h, h.chosen] }.flat_map do |h, chosen|
          chosen.extra_parts.map { |item| need(item, "#{chosen.name}, #{h.lamp.name}", subject: h.lamp.id) }
        end
      end

      def needed? = document.headlamps?

      def touched? = ticket.headlights.any? { |h| parts?(h) || h.lamp.row['housing'] }

      def figure(_kind, choice = nil, name = nil, *) = ticket.headlights.flat_map(&:all).find { |c| c.id == choice }&.figure(name)

      private

      def parts?(headlight) = headlight.lamp.parts.any?

      def at(headlight) = "/positions/#{headlight.lamp.id}"

      def undecided(headlight)
        headlight.lamp.choice ? [] : [want(at(headlight), "#{headlight.lamp.name}: no part chosen yet", subject: headlight.lamp.id)]
      end

      # A part that is chosen is done with when it draws what is known and every check that matters is made.
      def of_chosen(headlight, judged)
        unknown = judged.amps_figure.known? ? [] : [['draw unknown', 'usual']]
        open_checks = judged.unmeasured.map(&:text)
        told = [*open_checks.first(TOLD), open_checks.size > TOLD ? "and #{open_checks.size - TOLD} checks more" : nil].compact.join('; ')
        found = judged.stops.map { |f| [f.text, 'wrong'] } + (told.empty? ? [] : [[told, 'usual']])
        (found + unknown).map { |text, weight| want(at(headlight), "#{judged.name}: #{text}", subject: headlight.lamp.id, weight: weight) }
      end
    end
  end
end
