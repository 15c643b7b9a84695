# frozen_string_literal: true

require_relative '../../core/miser'

module Miser
  module Server
    # Fit and choice of a headlight, as the contract has it.
    module Present
      module_function

      # @param document [Hash] job
      # @return [Headlight::Candidates]
      def candidates(document)
        budget = Budget::Budget.new(document)
        low = document['loads'].find { |l| l['role'] == 'head_low' }
        circuit = budget.ledgers('before')[low && low['circuit']] || budget.ledgers('before').values.first
        Headlight::Candidates.new(document['headlight'] || {}, document['machine'] || {}, circuit.circuit.volts)
      end

      # @return [Hash]
      def headlight(document)
        list = candidates(document)
        { recommended: list.recommended&.id, chosen: document.dig('headlight', 'chosen'),
          candidates: list.all.map { |j| j.to_h.except(:document).merge(school: Headlight::Candidates::LABELS.fetch(j.kind), findings: j.findings.map(&:to_h)) } }
      end
    end
  end
end
