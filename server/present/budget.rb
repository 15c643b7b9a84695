# frozen_string_literal: true

require_relative 'figure'

module Miser
  module Server
    # The budget, as one scenario and circuit are looked at.
    module Present
      LINE_FIGURES = %i[earns spends keeps break_even system_v lasts].freeze

      module_function

      # @param budget [Budget::Budget]
      # @param scenario [String, nil] id; the first where it is not given or gone
      # @param circuit [String, nil]
      # @return [Hash]
      def budget(budget, scenario: nil, circuit: nil)
        scenario = budget.scenario(scenario) || budget.scenarios.first
        circuits = budget.ledgers('before').keys
        circuit = circuits.first unless circuits.include?(circuit)
        { scenario: scenario&.id, circuit: circuit, redline: budget.redline, circuits: circuits(budget),
          scenarios: budget.scenarios.map { |s| scenario(budget, s) },
          rail: Budget::Budget::SIDES.to_h { |side| [side, scenario ? blocks(budget, side, scenario, circuit) : []] },
          curve: scenario&.running? ? curve(budget.curve(scenario.id, circuit)) : nil, changes: budget.changes.map { |c| change(c) },
          accessories: budget.accessories.map { |a| accessory(a) },
          ride: Budget::Budget::SIDES.to_h { |side| [side, ride(side, budget.ride(side))] },
          flags: budget.flags.map { |f| flag(f) }, next_reading: next_reading(budget) }
      end

      def circuits(budget)
        budget.ledgers('after').values.map(&:circuit).map do |c|
          path = "circuit/#{c.id}"
          { id: c.id, name: c.name, kind: c.kind, volts: figure(c.volts_figure, "#{path}/volts"), i_inf: figure(c.i_inf_figure, "#{path}/i_inf"),
            cut_in: figure(c.cut_in_figure, "#{path}/cut_in"), basis: c.curve && c.basis_words, remarks: c.remarks, reason: c.reason }
        end
      end

      def scenario(budget, scenario)
        lines = Budget::Budget::SIDES.flat_map { |side| budget.ledgers(side).values.filter_map { |l| l.line(scenario) }.map { |l| line(side, l) } }
        { id: scenario.id, name: scenario.name, engine: scenario.engine, rpm: scenario.rpm, reason: scenario.reason, lines: lines }
      end

      def line(side, line)
        path = "line/#{side}/#{line.scenario.id}/#{line.circuit.id}"
        shown = LINE_FIGURES.to_h { |name| [name, figure(line.public_send(name), "#{path}/#{name}")] }
        light = line.light.map { |l| { load: l[:entry].id, name: l[:entry].part_name || l[:entry].name, life: l[:life], share: figure(l[:share], "#{path}/light/#{l[:entry].id}") } }
        shown.merge(side: side, circuit: line.circuit.id, known_spends: line.known_spends, verdict: line.verdict,
                    regime: line.system_v.known? ? line.point&.regime&.to_s : nil, light: light, flicker_hz: line.flicker_hz)
      end

      def blocks(budget, side, scenario, circuit)
        line = budget.ledgers(side)[circuit].line(scenario) or return []
        line.blocks.map do |b|
          { load_id: b.entry.id, name: b.entry.name, part: b.entry.part_name, kind: b.entry.kind, amps: b.amps, sigma: b.sigma, duty: b.duty,
            origin: b.entry.load.anchor&.origin&.label, id: "load/#{side}/#{b.entry.id}" }
        end
      end

      # Three decimals: a screen shows two, and the curve is most of what is sent.
      def curve(curve)
        rounded = ->(list) { list&.map { |v| v.round(3) } }
        { rpm: curve.rpm, earns: rounded[curve.earns], earns_sigma: rounded[curve.earns_sigma],
          earns_low: rounded[curve.earns_low], earns_high: rounded[curve.earns_high], keeps: curve.keeps.transform_values(&rounded),
          keeps_sigma: curve.keeps_sigma.transform_values(&rounded), system_v: curve.system_v.transform_values(&rounded), reason: curve.reason }
      end

      def change(change)
        { load_id: change.load_id, name: change.name, from: change.from, to: change.to, circuit: change.circuit,
          saving: figure(change.saving, "change/#{change.load_id}"), scenarios: change.scenarios.map { |s| s.merge(break_even: figure(s[:break_even])) } }
      end

      def accessory(judged)
        worst = judged.worst&.merge(keeps: figure(judged.worst[:keeps], "accessory/#{judged.load_id}"), above_rpm: figure(judged.worst[:above_rpm]))
        { load_id: judged.load_id, name: judged.name, amps: judged.amps ? figure(judged.amps, "load/wanted/#{judged.load_id}") : figure(Figure.unknown('A', judged.reason)),
          fits: judged.fits, reason: judged.reason, worst: worst }
      end

      def ride(side, ride)
        ride && { net: figure(ride.net, "ride/#{side}"), charge_before: ride.charge_before, charge_after: ride.charge_after, rides: ride.rides,
                  reason: ride.reason }
      end

      def flag(flag) = { key: flag.key, level: flag.level, side: flag.side, text: flag.text, cure: flag.cure }

      def next_reading(budget)
        line, best = budget.next_reading
        line && { what: best.what, load_id: best.load_id, name: best.name, share: best.share, sigma_now: line.keeps.sigma, sigma_after: best.sigma_after,
                  origin: best.origin, stage: best.stage, scenario: line.scenario.id, scenario_name: line.scenario.name }
      end
    end
  end
end
