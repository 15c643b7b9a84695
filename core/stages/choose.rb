# frozen_string_literal: true

require_relative '../ticket/stage'

module Miser
  module Stages
    # A part, or none, for every lamp.
    class ChooseStage < Stage
      declare 'choose', label: 'Choose', group: 'decide', place: 40
      reads :loads, :choices, :readings, :bench, :assumptions

      def wants = [*undecided, *unknown]

      def touched? = document.choices.any?

      private

      def undecided
        document.lamps.reject { |l| document.choices_by_load[l['id']] }.map do |l|
          want("/loads/#{l['id']}", "#{l['name']}: keep or swap", subject: l['id'])
        end
      end

      def unknown
        swapped = document.choices.select { |c| c['action'] == 'swap' }.to_h { |c| [c['load_id'], c] }
        budget.entries('after').select { |e| swapped[e.id] && !e.load.known? }.map do |e|
          want("/choices/#{swapped[e.id]['id']}", "#{e.part_name}: draw unknown", subject: e.id)
        end
      end
    end
  end
end
