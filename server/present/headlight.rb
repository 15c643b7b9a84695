# frozen_string_literal: true

require_relative '../../core/miser'

module Miser
  module Server
    # Fit and choice of a headlight, as the contract has it.
    module Present
      module_function

      # @param document [Hash] job
      # @param beams [Beam::Beams] for what photometry foretells of its parts @param units [String] metric or us
      # @return [Headlight::Candidates]
      def candidates(document, beams, units: 'metric')
        budget = Budget::Budget.new(document)
        low = document['loads'].find { |l| l['role'] == 'head_low' }
        circuit = budget.ledgers('before')[low && low['circuit']] || budget.ledgers('before').values.first
        patterns = (document.dig('headlight', 'candidates') || []).to_h { |part| [part['id'], beams.pattern(part['photometry'], units: units)] }.compact
        Headlight::Candidates.new(document['headlight'] || {}, document['machine'] || {}, circuit.circuit.volts, feed: budget.feed(circuit.circuit.id), settings: budget.settings,
                                                                                                                 units: units, patterns: patterns)
      end

      # @return [Hash]
      def headlight(document, beams, units: 'metric')
        list = candidates(document, beams, units: units)
        { recommended: list.recommended&.id, chosen: document.dig('headlight', 'chosen'), plug_room_m: Assumptions.new(document['assumptions'] || {})[:fit_plug_m],
          candidates: list.all.map { |j| j.to_h.except(:document, :amps_figure).merge(amps: figure(j.amps_figure, "headlight/#{j.id}/amps"), school: Headlight::Candidates::LABELS.fetch(j.kind), findings: j.findings.map { |f| finding(f, j) }) } }
      end

      def finding(found, judged)
        found.to_h.except(:spare).merge(clearance: found.clearance, spare: found.spare && figure(found.spare, "headlight/#{judged.id}/#{found.rule}"))
      end
    end
  end
end
