# frozen_string_literal: true

require_relative '../job/fitting'
require_relative '../ticket/stage'

module Miser
  module Stages
    # A part, or none, for every lamp.
    class ChooseStage < Stage
      declare 'choose', label: 'Choose', group: 'decide', place: 40
      reads :positions, :loads, :choices, :readings, :sums, :bench, :assumptions

      # What was decided for a lamp, on the other side or on all lamps alike: position/other_side, position/alike.
      act('same') do |call|
        from, to = call.value.split('/', 2)
        Stages.known!(from, call.ticket.document.lamps.to_h { |l| [l.id, l] }, 'Lamp')
        Stages.known!(to, Job::Fitting::TO, 'Where to')
        Job::Fitting.same(call.document, from, to, &call.fresh_id)
      end

      # A row of several lamps as so many lamps, to be decided for singly.
      act('split') do |call|
        Stages.known!(call.value, call.ticket.document.lamps.to_h { |l| [l.id, l] }, 'Lamp')
        Job::Fitting.split(call.document, call.value, &call.fresh_id)
      end

      def wants = [*misfits, *undecided, *unknown, *uncoloured]

      # Each lamp's part, as often as it is there.
      def needs
        fitted = document.lamps.select(&:part)
        fitted.map { |l| Buying::Need.part(l.part, l.count, why(l.name, l.count, subject: l.id)) } + fitted.flat_map { |l| stuck(l) }
      end

      def touched? = document.choices.any?

      private

      # What is glued wants its ground clean, dry and primed.
      def stuck(lamp)
        return [] unless lamp.part['adhesive']

        %w[alcohol primer].map { |kind| need(ticket.catalogue.item(kind, count: lamp.count), "#{lamp.name}: glued on", subject: lamp.id) }
      end

      # What is chosen and does not fit; a headlamp's own stage says it of a headlamp.
      def misfits
        ticket.misfits.reject { |lamp, _| lamp.head? }.map do |lamp, text|
          want("/choices/#{lamp.choice['id']}", "#{lamp.name}: #{text}", subject: lamp.id, weight: 'wrong')
        end
      end

      def uncoloured
        document.lamps.select(&:part).reject(&:head?).filter_map do |lamp|
          light = Job::LampLight.new(lamp, lamp.part)
          light.unsaid? ? want("/choices/#{lamp.choice['id']}", "#{lamp.name}: #{light.worst.text}", subject: lamp.id) : nil
        end
      end

      def undecided
        document.lamps.select { |l| l.own_loads.any? && !l.choice }.map do |l|
          want("/positions/#{l.id}", "#{l.name}: keep or swap", subject: l.id)
        end
      end

      # Every function of a part is said and known, or said to stay on the old lamp or to go dark.
      def unknown
        budget.entries('after').select { |e| e.choice && !e.load.known? }.map do |e|
          want("/choices/#{e.choice['id']}", "#{e.load.name}: draw unknown", subject: e.choice['position_id'])
        end
      end
    end
  end
end
