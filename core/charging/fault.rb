# frozen_string_literal: true

require_relative '../stepped_fault'

module Miser
  module Charging
    # What can go wrong between the stator and the battery: what each does, how it is proved and mended. How common each is is common
    # practice.
    class Fault
      # What is wrong, as changes of a charging system.
      # @!attribute out_ohm, earth_ohm [Float] Ω more between regulator and battery, and in the regulator's earth
      # @!attribute share [Float] of what it earned that is left @!attribute held [Float, nil] V the regulator holds now
      # @!attribute legs [Hash{String=>Float}] share of the coil's volts left between two legs @!attribute earthed [Boolean] a leg touches the frame
      # @!attribute ohms_times [Float] the battery's resistance, times what it was @!attribute charge [Float, nil] of the battery
      # @!attribute leak_a [Float] A drawn with the key out
      Trouble = Struct.new(:out_ohm, :earth_ohm, :share, :held, :legs, :earthed, :ohms_times, :charge, :leak_a, keyword_init: true) do
        def initialize(out_ohm: 0.0, earth_ohm: 0.0, share: 1.0, held: nil, legs: {}, earthed: false, ohms_times: 1.0, charge: nil,
                       leak_a: 0.0)
          super
        end
      end
      NONE = Trouble.new.freeze

      # @!attribute phases [Integer, nil] legs it wants
      Kind = Struct.new(:key, :label, :prior, :check, :cure, :trouble, :phases, keyword_init: true)
      # Legs of the coils, as they stand in the plug.
      LEGS = { 3 => %w[a b c], 1 => %w[a b] }.freeze
      # Of what a stator of three legs gave, what is left: with a leg open, with a diode open, with a leg on the frame, with three turns
      # in ten of one leg shorted; and of the volts between that leg and another. Found by running stators in a general circuit simulator
      # (test/fixtures/stators), the mean of speeds from 1.6 to 4.5 times idle.
      TWO_LEGS = 0.54
      FIVE_DIODES = 0.85
      EARTHED = 0.24
      SHORTED = 0.7
      SHORTED_V = 0.72

      def self.kind(key, label, prior, check, cure, phases: nil, **steps)
        Kind.new(key: key, label: label, prior: prior, check: check, cure: cure, phases: phases, trouble: steps)
      end
      private_class_method :kind

      TABLE = [
        kind('leg_open', 'one leg of the stator open', 2.0, 'Stator unplugged, running: volts AC between legs, all three alike.',
          'Mend its plug, else another stator.', phases: 3, leg: { share: TWO_LEGS, legs: { 'ab' => 0.0, 'ac' => 0.0 } }),
        kind('leg_earthed', 'stator touches the frame', 1.0, 'Stator unplugged, running: volts AC from a leg to frame: there should be none.',
          'Another stator, or have it wound anew.', leg: { share: EARTHED, earthed: true }),
        kind('turns', 'turns of one leg of the stator shorted', 1.2, 'Stator unplugged, running: volts AC between legs, two pairs too low.',
          'Another stator, or have it wound anew.', leg: { share: SHORTED, legs: { 'ab' => SHORTED_V, 'ac' => SHORTED_V } }),
        kind('diode', 'diode of the regulator open', 1.2, 'Stator good, amps into the battery too few, no volts lost on the way.',
          'Another regulator.', leg: { share: FIVE_DIODES }),
        kind('regulator_dead', 'regulator gives nothing', 1.5, 'Stator good, and nothing flows from the regulator.', 'Another regulator.',
          leg: { share: 0.0 }),
        kind('regulator_low', 'regulator holds too little', 1.0, 'Volts at the regulator itself, at cruise, with little on.',
          'Another regulator.',
          leg: { held: 13.0 }),
        kind('regulator_high', 'regulator holds too much', 1.2, 'Volts at the battery, at cruise: over 14.8.', 'Another regulator.',
          leg: { held: 15.8 }),
        kind('output_joint', 'bad plug between regulator and battery', 3.0, 'Volts from the regulator’s output to battery +, at cruise.',
          'Clean it, solder it through, or lay a wire of its own.', bad: { out_ohm: 0.25 }, worse: { out_ohm: 0.8 }),
        kind('regulator_earth', 'bad earth of the regulator', 2.0, 'Volts from the regulator’s case to battery −, at cruise.',
          'To bare metal, or a wire to battery −.', bad: { earth_ohm: 0.25 }, worse: { earth_ohm: 0.8 }),
        kind('battery_tired', 'battery tired: too much resistance', 2.5, 'Volts at the battery with all lights on, engine off, against at rest.',
          'Another battery.', tired: { ohms_times: 12.0 }),
        kind('drain', 'something draws with the key out', 2.0, 'Milliamps in the battery’s lead, key out; pull fuses until it stops.',
          'Take it off, or put it behind the key.', little: { leak_a: 0.12, charge: 0.5 }, much: { leak_a: 0.6, charge: 0.2 })
      ].freeze

      # @param legs [Integer] of the stator
      # @return [Array<SteppedFault>] each does a Trouble
      def self.all_in(legs)
        TABLE.select { |k| k.phases.nil? || k.phases == legs }
             .flat_map { |k| SteppedFault.of(k, k.trouble.transform_values { |changes| Trouble.new(**changes) }) }
      end
    end
  end
end
