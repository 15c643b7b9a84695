# frozen_string_literal: true

require_relative '../figure'
require_relative 'flow'

module Miser
  module Budget
    # What one line means for the battery: what it really gives at its own volts, how long
    # that lasts, and in words. That the volts cannot be held and that the battery runs down
    # are two statements: a sagging system earns more and spends less.
    class BatterySide
      # From a balance lower than this share of the battery's own volts no other is looked for: the machine had given up there.
      SOUND = 0.85

      # @param line [Line]
      def initialize(line)
        @line = line
        @ledger = line.ledger
        @circuit = line.circuit
        @battery = line.circuit.battery
      end

      # @return [Figure] A the battery gives (above 0) or takes, with the system settled
      def amps
        @amps ||= if reason then Figure.unknown('A', reason)
                  else Figure.new(given(@battery), 'A', assumed: true) { working }
                  end
      end

      # @return [Figure] h until it will not crank
      def lasts
        @lasts ||= if reason then Figure.unknown('h', reason)
                   elsif hours then Figure.new(hours, 'h', assumed: true) { lasts_working }
                   else Figure.unknown('h', words || 'nothing is taken from the battery')
                   end
      end

      # @return [Flow, nil] nil where it is not known
      def flow = reason ? nil : (@flow ||= Flow.new(@battery) { |battery| given(battery) })

      # What becomes of a line that does not keep.
      # @return [String, nil] nil where nothing is asked of the battery
      def words
        return unless fate
        return fate unless @line.scenario.running?
        # One certainty for one figure: what may keep may also hold its volts.
        return "#{may_not_hold}#{fate}" if @line.verdict == 'too_close'

        "#{cannot_hold}#{fate}"
      end

      # The same of the battery alone, without the volts that the regulator would hold.
      # @return [String, nil]
      def fate
        return nil if reason || !@line.keeps.value.negative? || holds?
        return format('settles at %.1f V, battery not drawn on', @line.point.volts) if @line.scenario.running? && !drawn?
        return 'battery does not crank as it is' if flat?

        hours ? 'battery runs down' : format('battery falls to %d %% and stays there', (rests * 100).round)
      end

      private

      def reason
        @reason ||= if @circuit.ac? then 'there is no battery on this circuit'
                    elsif @battery.nil? then 'battery capacity is not entered'
                    elsif !@line.keeps.known? then @line.keeps.reason
                    end
      end

      def flat? = @battery.charge <= @battery.no_crank

      def hours = flat? ? nil : (@hours ||= flow.until(@battery.charge, @battery.no_crank))

      # Amps it gives with that charge.
      def given(battery)
        return @line.spends.value if @line.scenario.parked?

        near = @near || @line.point.volts
        point = @ledger.point_with(@line.scenario, battery, near: near > SOUND * battery.rest_v ? near : nil)
        @near = point.volts
        point.battery_a
      end

      def drawn? = flow.rate(@battery.charge) < -Flow::STILL

      def rests = flow.settles(@battery.charge, @battery.no_crank)

      # A budget may be figured at other volts than the regulator holds, where the school says so.
      def holds? = @line.scenario.running? && @line.point.regime == :held

      def may_not_hold = @circuit.held ? format('may not hold %.1f V; then ', @circuit.held) : 'if it owes: '

      def cannot_hold = @circuit.held ? format('cannot hold %.1f V; ', @circuit.held) : ''

      def working
        Working.new(title: "Battery gives: #{@line.scenario.name}", formula: 'alternator(n, V) + battery(V) = Σ loads(V), at its own volts',
          inputs: [Input.new(name: 'System volts', value: @line.system_v.value, unit: 'V', origin: 'solved', ref: @line.path('system_v')),
            Input.new(name: 'Battery at rest', value: @battery.rest_v, unit: 'V', origin: 'battery'), @battery.ohms_input],
          source: 'common practice', notes: ['Under 0 it takes that much.'])
      end

      def lasts_working
        parked = @line.scenario.parked?
        Working.new(title: parked ? 'Days until it will not crank' : 'Until it will not crank',
          formula: 't = ∫ dq / rate(q); rate = I / C · max(1, (I·H / C)^(k−1))',
          inputs: [Input.new(name: 'Battery gives, now', value: amps.value, unit: 'A', origin: 'solved', ref: @line.path('battery_a')),
            *@battery.inputs],
          source: 'Peukert’s law, and never more than it has',
          notes: ['I is what the battery gives with the circuit solved at its own volts, which fall as it empties.',
            *(parked ? ['The battery’s own leakage is not counted.'] : [])])
      end
    end
  end
end
