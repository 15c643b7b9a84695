# frozen_string_literal: true

require_relative '../budget/budget'
require_relative '../charging/health'

module Miser
  module Verdicts
    # Everything to be read before parts come off, and the same list again after the
    # conversion: what is there, what is missing, the most worthwhile first.
    class Baseline
      # @!attribute at [String] place in the document, or the load for a draw
      # @!attribute value [Float, nil] @!attribute unit [String]
      # @!attribute share [Float, nil] of the doubt in the tightest scenario that this reading would take away
      # @!attribute call [Charging::Health::Call, nil]
      Item = Struct.new(:key, :label, :at, :subject, :value, :unit, :done, :share, :call, :why, keyword_init: true)

      # @param budget [Budget::Budget]
      # @param side [String] before or after @param tried [Boolean] whether the function check of that side is whole
      def initialize(budget, side, tried: false)
        @whole = tried
        @budget = budget
        @side = side
        @document = budget.document
        @checks = @document.checks(side)
        @main = budget.ledgers(side).values.find { |l| l.circuit.dc? }
      end

      # @return [Array<Item>] what is missing first, the most worthwhile of it on top
      def items
        @items ||= [tried, *draws, *volts, *output, key_off,
          flash].compact.each_with_index.sort_by { |item, i| [item.done ? 1 : 0, -(item.share || 0), i] }.map(&:first)
      end

      def missing = items.reject(&:done)

      # Share of the variance in what a line keeps that a reading would take away.
      # @param line [Budget::Line] @param candidate [Budget::NextReading::Candidate]
      # @return [Float]
      def self.share(line, candidate) = 1 - ((candidate.sigma_after / line.keeps.sigma)**2)

      private

      def check(key, label, unit, call: nil, why: nil, share: nil, at: nil, value: @checks[key])
        Item.new(key: key, label: label, at: at || "/checks/#{@side}/#{key}", value: value, unit: unit, done: !value.nil?, share: share,
          call: value && call&.call(value), why: why)
      end

      def tried
        Item.new(key: 'tried', label: 'Every lamp function tried', at: "/checks/#{@side}/tried", unit: nil, value: nil,
          done: @checks['tried'] == true || @whole,
          why: 'What did not work before is not yours afterwards.')
      end

      # Each load's own draw; afterwards only what was changed.
      def draws
        @budget.entries(@side).reject { |e| @side == 'after' && e.choice.nil? }.map do |e|
          subject = e.choice ? "#{e.id}.#{e.choice['id']}" : e.id
          Item.new(key: "draw/#{subject}", label: e.choice ? e.load.name : e.name, subject: subject, at: "/loads/#{e.id}", unit: 'A',
            done: e.load.measured? || false,
            value: e.load.measured? ? e.load.anchor.amps : nil, share: e.load.measured? ? nil : share(e),
            why: 'Its draw, settled, with the volts at the lamp.')
        end
      end

      # What a measurement would take from the variance, as a share of it.
      def share(what)
        line = @line ||= @budget.doubtful_line(@side) or return nil
        best = @budget.ranked_readings(@side).find { |c| what.is_a?(Symbol) ? c.what == what.to_s : c.load_id == what.id }
        best && Baseline.share(line, best)
      end

      def volts
        return [] unless @main

        before = @side == 'before'
        circuit = "/circuits/#{@main.circuit.id}"
        rest = before ? @main.circuit.document.dig('battery', 'rest_v') : @checks['rest_v']
        cruise = before ? @main.circuit.measured_volts : @checks['cruise_v']
        health = Charging::Health
        kind = @main.circuit.document.dig('battery', 'kind')
        [check('rest_v', 'Volts at rest', 'V', value: rest, at: before ? "#{circuit}/battery/rest_v" : nil, call: lambda { |v|
          health.rest(v, kind)
        },
          why: 'An hour after riding.'),
          check('idle_v', 'Volts at idle', 'V', call: ->(v) { health.idle(v, @budget.settings[:over_v], rest, kind) },
            why: 'Lights as at a light at night.'),
          check('cruise_v', 'Volts at cruise', 'V', value: cruise, at: before ? "#{circuit}/regulator/volts" : nil,
            share: cruise ? nil : share(:volts),
            call: lambda { |v|
              health.cruise(v, @budget.settings[:low_cruise_v], @budget.settings[:over_v])
            }, why: 'At the battery, usual load.')]
      end

      # The earn curve is the machine's: it is measured once.
      def output
        return [] if @side == 'after'

        @budget.ledgers(@side).values.map(&:circuit).map do |c|
          measured = c.curve&.basis == :points
          Item.new(key: "points/#{c.id}", label: "#{c.name}: output at two speeds or more", at: "/circuits/#{c.id}/alternator/points",
            unit: 'A', value: nil, done: measured,
            share: measured ? nil : share(:earns), why: 'Clamp meter on the regulator’s output.')
        end
      end

      def key_off
        return unless @main

        check('key_off_a', 'Key-off draw', 'A', call: ->(a) { Charging::Health.key_off(a, @main.circuit.battery) },
          why: 'Battery negative off, meter between; 10 A jack first, then the milliamp jack; wait till the electronics sleep.')
      end

      def flash
        return unless @document.signal_lamps?

        check('flash_per_min', 'Flash rate', '1/min', why: 'Count flashes for half a minute, both sides.')
      end
    end
  end
end
