# frozen_string_literal: true

require_relative '../headlight/choice'
require_relative '../ticket/stage'

module Miser
  module Stages
    # Whether a headlight fits, measured.
    class HeadlightStage < Stage
      declare 'headlight', label: 'Headlight', group: 'decide', place: 60
      reads :headlight
      figures :headlight

      # A headlight by its id; an empty word takes it back.
      act('headlight') do |call|
        judged = call.ticket.headlights.all.find { |c| c.id == call.value }
        Stages.known!(call.value, call.ticket.document.candidates.to_h { |c| [c['id'], c] }, 'Headlight') unless judged || call.value.empty?
        Miser::Headlight::Choice.take(call.document, judged, &call.fresh_id)
      end

      # Only where a part is thought of: the lamp may stay as it is.
      def wants
        return [] if document.candidates.empty? || document.headlight['chosen']

        [want('/headlight/chosen', 'No headlight chosen yet')]
      end

      def touched? = document.candidates.any?

      def figure(_kind, part = nil, name = nil, *) = ticket.headlights.all.find { |c| c.id == part }&.figure(name)
    end
  end
end
