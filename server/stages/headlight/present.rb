# frozen_string_literal: true

require_relative '../../stage_views'

module Miser
  module Server
    # Fit and choice of the headlights, as the contract has it.
    module HeadlightView
      extend Present

      module_function

      # @param list [Headlight::Candidates]
      def lamp(list)
        { id: list.lamp.id, name: list.lamp.name, does: list.lamp.does, recommended: list.recommended&.id, chosen: list.chosen&.id,
          winter: list.winter?, candidates: list.all.map { |j| candidate(j) } }
      end

      def candidate(judged)
        judged.to_h.except(:amps_figure).merge(amps: figure(judged.amps_figure, "headlight/#{judged.id}/amps"),
          school: Headlight::Candidates::LABELS.fetch(judged.kind),
          extra_parts: judged.extra_parts.map(&:to_h),
          findings: judged.findings.map { |f| finding(f, judged) })
      end

      def finding(found, judged)
        found.to_h.except(:spare).merge(part: found.part&.to_h, clearance: found.clearance, wanting: found.wanting?,
          spare: found.spare && figure(found.spare, "headlight/#{judged.id}/#{found.rule}"))
      end
    end

    StageViews.declare('headlight') do |ticket, _look|
      { plug_room_m: ticket.document.settings[:fit_plug_m], lamps: ticket.headlights.map { |list| HeadlightView.lamp(list) } }
    end
  end
end
