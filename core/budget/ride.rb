# frozen_string_literal: true

require_relative '../figure'
require_relative '../charging/battery'
require_relative 'scenario'

module Miser
  module Budget
    # A ride as minutes in each scenario: what it puts into the battery or takes.
    class Ride
      MOST_RIDES = 365

      attr_reader :net, :legs, :charge_before, :charge_after, :rides, :reason

      # @param ledger [Ledger] of the battery's circuit
      # @param legs [Array<Hash>] minutes, scenario, rpm
      # @param scenarios [Hash{String=>Hash}] scenario documents by id
      # @param machine [Hash]
      # @param settings [Assumptions]
      def initialize(ledger, legs, scenarios, machine, settings)
        @ledger = ledger
        @rows = legs
        @scenarios = scenarios
        @machine = machine
        @settings = settings
        @battery = ledger.circuit.battery
        @reason = missing
        reason ? @net = Figure.unknown('Ah', reason) : ride
      end

      private

      def missing
        return 'no ride is entered' if @rows.empty?
        return 'battery capacity is not entered' unless @battery

        @rows.each do |leg|
          return 'every part of the ride needs its minutes' unless leg['minutes']
          return 'a part of the ride names a scenario that is gone' unless @scenarios[leg['scenario']]

          line = line_for(leg)
          return line.keeps.reason unless line.keeps.known?
        end
        nil
      end

      # @return [Line] one for each part, as its own speed has it
      def line_for(leg) = (@found ||= {}.compare_by_identity)[leg] ||= find_line(leg)

      def find_line(leg)
        document = @scenarios[leg['scenario']]
        document = document.merge('rpm' => leg['rpm']) if leg['rpm'] && document['engine'] == 'running'
        Line.new(@ledger, Scenario.new(document.merge('id' => "#{document['id']}@#{leg['rpm']}"), @machine))
      end

      def ride
        @charge_before = @battery.charge
        @lines = @rows.map { |leg| [leg, line_for(leg)] }
        total, sigma = tally
        @net = Figure.new(total, 'Ah', sigma: sigma, assumed: true) { working(total) }
        @rides = count_rides
      end

      # The parts one after another, each from the charge that the one before left.
      def tally
        charge = cranked(@charge_before)
        @legs = @lines.map do |leg, line|
          hours = leg['minutes'] / 60.0
          after = line.battery.flow.after(charge, hours)
          ah = (after - charge) * @battery.capacity_ah
          charge = after
          { id: leg['id'], ah: ah, sigma: doubt(line, hours, ah), keeps: line.keeps.value }
        end
        @charge_after = charge
        [(charge - @charge_before) * @battery.capacity_ah, @legs.sum { |l| l[:sigma] }]
      end

      # Where the battery takes no more, or the system sags to where it is not drawn on, the
      # doubt in what is kept moves less of it.
      def doubt(line, hours, amp_hours)
        kept = line.keeps.value.abs * hours
        (line.keeps.sigma || 0.0) * hours * (kept.zero? ? 1.0 : (amp_hours.abs / kept).clamp(0.0, 1.0))
      end

      def cranked(charge) = [charge - (@settings[:crank_ah] / @battery.capacity_ah), 0.0].max

      # @return [Float] charge after one ride that began with that charge
      def once(charge)
        @lines.reduce(cranked(charge)) { |left, (leg, line)| line.battery.flow.after(left, leg['minutes'] / 60.0) }
      end

      # @return [Integer, nil] rides begun before it will not crank; nil where it never comes to that
      def count_rides
        charge = @charge_before
        MOST_RIDES.times do |i|
          return i if charge < @settings[:no_crank_soc]

          after = once(charge)
          return nil if after >= charge - 1e-6

          charge = after
        end
        nil
      end

      def working(total)
        inputs = @lines.zip(@legs).map do |(leg, line), result|
          Input.new(name: format('%<name>s, %<min>g min', name: line.scenario.name, min: leg['minutes']), value: result[:ah], unit: 'Ah',
            sigma: result[:sigma], origin: 'solved')
        end
        inputs << @settings.input('crank_ah')
        Working.new(title: format('Ride: %+.2f Ah', total),
          formula: 'dq/dt = rate of what the battery gives or takes at its own volts, part after part, less the start', inputs: inputs,
          source: 'common practice', notes: ['Doubts of one ride’s parts come from the same curve and loads: they add straight.'])
      end
    end
  end
end
