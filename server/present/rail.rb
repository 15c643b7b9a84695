# frozen_string_literal: true

require_relative 'figure'

module Miser
  module Server
    # The amp rail of the scenario and circuit looked at, as lean as an edit's answer wants it.
    module Present
      LINE_FIGURES = %i[earns spends keeps break_even system_v lasts].freeze

      module_function

      # What is looked at, where it is there; else the first there is.
      # @return [Array(Budget::Scenario, String)] scenario (nil without one), id of a circuit
      def look(budget, scenario, circuit)
        circuits = budget.ledgers('before').keys
        [budget.scenario(scenario) || budget.scenarios.first, circuits.include?(circuit) ? circuit : circuits.first]
      end

      # @param budget [Budget::Budget]
      # @return [Hash]
      def rail(budget, scenario: nil, circuit: nil)
        scenario, circuit = look(budget, scenario, circuit)
        lines = Budget::Budget::STEPS.to_h { |step| [step, scenario && budget.ledgers(step)[circuit].line(scenario)] }
        lamps = lines.delete('lamps')
        refused = budget.refusal ? { refused: budget.refusal } : {}
        { **refused, scenario: scenario&.id, circuit: circuit, engine: scenario&.engine, rpm: scenario&.rpm, redline: budget.redline,
                     step: Budget::Curve.step(budget.redline),
                     curve: budget.ledgers('before')[circuit].circuit.curve ? nil : budget.ledgers('before')[circuit].circuit.reason,
                     lines: lines.transform_values { |l| l && line(l) }, lamps: lamps && kept(lamps),
                     same: Budget::Steps.same(budget.document), blocks: lines.transform_values { |l| l ? columns(l.blocks) : nil } }
      end

      # What is kept at a step that is only passed through.
      # @param line [Budget::Line]
      def kept(line)
        { keeps: figure(line.keeps, "line/#{line.ledger.side}/#{line.scenario.id}/#{line.circuit.id}/keeps"), verdict: line.verdict }
      end

      # @param line [Budget::Line]
      def line(line)
        path = "line/#{line.ledger.side}/#{line.scenario.id}/#{line.circuit.id}"
        figures = LINE_FIGURES.to_h { |name| [name, figure(line.public_send(name), "#{path}/#{name}")] }
        figures.merge(side: line.ledger.side, circuit: line.circuit.id, known_spends: finite(line.known_spends), verdict: line.verdict,
          battery: line.battery.words, band: Miser::Budget::Verdict.band(line.keeps.value, line.keeps.sigma)&.map { |v| significant(v) },
          regime: line.system_v.known? ? line.point&.regime&.to_s : nil)
      end

      # Blocks side by side, a column a property: names and origins in words are in the document and the tables.
      def columns(blocks)
        { load: blocks.map { |b| b.entry.id }, kind: blocks.map { |b| b.entry.kind },
          amps: blocks.map { |b| b.amps && significant(b.amps, 4) },
          sigma: blocks.map { |b| b.sigma && significant(b.sigma, 3) }, duty: blocks.map(&:duty),
          origin: blocks.map { |b| b.entry.load.anchor&.origin&.key } }
      end

      # Three decimals: a screen shows two.
      # @param curve [Budget::Curve]
      def curve(curve)
        rounded = ->(list) { list&.map { |v| v.round(3) } }
        { rpm: curve.rpm, earns: rounded[curve.earns], earns_sigma: rounded[curve.earns_sigma], earns_low: rounded[curve.earns_low],
          earns_high: rounded[curve.earns_high],
          keeps: curve.keeps.transform_values(&rounded), keeps_sigma: curve.keeps_sigma.transform_values(&rounded),
          verdicts: curve.verdicts,
          system_v: curve.system_v.transform_values(&rounded), reason: curve.reason }
      end
    end
  end
end
