# frozen_string_literal: true

require_relative '../../core/miser'

module Miser
  module Server
    # Fit and choice of a headlight, as the contract has it.
    module Present
      module_function

      # @param document [Hash] job
      # @param shelf [#call] photometry by its id
      # @return [Headlight::Candidates]
      def candidates(document, shelf)
        budget = Budget::Budget.new(document)
        low = document['loads'].find { |l| l['role'] == 'head_low' }
        circuit = budget.ledgers('before')[low && low['circuit']] || budget.ledgers('before').values.first
        Headlight::Candidates.new(document['headlight'] || {}, document['machine'] || {}, circuit.circuit.volts, patterns: patterns(document, shelf))
      end

      # Every part's photometry on one wall, aimed alike, so that they can be held against each other.
      def patterns(document, shelf)
        aim = Beam::Aim.new(document['aim'] || {}).school.target
        (document.dig('headlight', 'candidates') || []).filter_map do |part|
          photometry = shelf.call(part['photometry'])
          wall = photometry&.wall(Beam::Wall::USUAL, down: -aim)
          [part['id'], wall.words(aim * wall.distance)] if wall&.lit?
        end.to_h
      end

      # @return [Hash]
      def headlight(document, shelf)
        list = candidates(document, shelf)
        { recommended: list.recommended&.id, chosen: document.dig('headlight', 'chosen'), plug_room_m: Headlight::FitRules::PLUG_ROOM,
          candidates: list.all.map { |j| j.to_h.except(:document, :amps_figure).merge(amps: figure(j.amps_figure, "headlight/#{j.id}/amps"), school: Headlight::Candidates::LABELS.fetch(j.kind), findings: j.findings.map(&:to_h)) } }
      end
    end
  end
end
