# frozen_string_literal: true

require_relative '../figure'

module Miser
  module Budget
    # Each change's own share: what one swap, removal or added accessory does
    # alone, in every scenario.
    class Changes
      # @!attribute saving [Figure] A at budget volts while it is on; negative where it spends more
      # @!attribute alone [#call] of a scenario: what the change alone does there
      Change = Struct.new(:load_id, :name, :from, :to, :circuit, :saving, :alone, keyword_init: true) do
        # With this change alone.
        # @param scenario [Scenario]
        # @return [Hash, nil] id, keeps_delta, break_even (Figure); nil where nothing turns
        def in(scenario) = scenario.running? ? alone.call(scenario) : nil
      end

      # @param before [Hash{String=>Ledger}] by circuit id
      # @param after [Hash{String=>Ledger}]
      def initialize(before, after)
        @before = before
        @after = after
      end

      # @return [Array<Change>]
      def all
        @before.keys.flat_map do |id|
          old = @before[id].entries.to_h { |e| [e.id, e] }
          new = @after[id].entries.to_h { |e| [e.id, e] }
          (old.keys | new.keys).filter_map { |load| change(id, old[load], new[load]) if differs?(old[load], new[load]) }
        end
      end

      private

      def differs?(old, new) = old.nil? || new.nil? || !new.choice.nil?

      def change(circuit_id, old, new)
        entry = new || old
        Change.new(load_id: entry.id, name: entry.name, circuit: circuit_id, from: old ? 'as it came in' : nil,
          to: new && (new.part_name || new.name), saving: saving(circuit_id, old, new),
          alone: ->(scenario) { share(circuit_id, scenario, old, new) })
      end

      def saving(circuit_id, old, new)
        volts = @before[circuit_id].circuit.volts
        why = [old, new].compact.filter_map { |e| e.load.reason_at(volts) }.first
        return Figure.unknown('A', why) if why

        pair = [old, new].map { |e| e ? e.load.figure(volts) : Figure.new(0.0, 'A', sigma: 0.0) }
        first, other = [old, new].compact.map(&:load)
        Figure.new(pair[0].value - pair[1].value, 'A', sigma: first.sigma_apart(other, volts), assumed: pair.any?(&:assumed)) do
          inputs = { 'before' => old, 'after' => new }.filter_map do |side, e|
            e && Input.new(name: side == 'before' ? e.name : (e.part_name || e.name), value: e.load.amps(volts), unit: 'A',
              sigma: e.load.sigma(volts),
              origin: e.load.anchor.origin.label, ref: "load/#{side}/#{e.id}")
          end
          Working.new(title: "Saved by #{(new || old).name}", formula: 'I_before(V) − I_after(V)', inputs: inputs, source: 'draw laws',
            notes: [format('Both at %.1f V, while lit. The saving at running volts differs from the bench.', volts),
              'What one meter is off by moves both alike and is not in the doubt.'])
        end
      end

      def share(circuit_id, scenario, old, new)
        ledger = @before[circuit_id]
        line = ledger.line(scenario)
        volts = ledger.circuit.volts
        unknown = [old, new].compact.any? { |e| e.load.reason_at(volts) }
        return { id: scenario.id, keeps_delta: nil, break_even: Figure.unknown('rpm', 'draw unknown') } if unknown || !line.spends.known?

        delta = [[new, 1], [old, -1]].sum { |e, sign| e ? sign * scenario.duty(e.row) * e.load.amps(volts) : 0.0 }

        { id: scenario.id, keeps_delta: -delta, break_even: ledger.break_even([line.spends.value + delta, 0.0].max) }
      end
    end
  end
end
