# frozen_string_literal: true

require_relative '../figure'
require_relative 'leads'
require_relative 'warm_up'
require_relative 'two_voltage_test'
require_relative 'origin'
require_relative 'plausibility'

module Miser
  module Draw
    # One reading from the job document, understood: volts at the lamp, cold and
    # settled amps, its origin, and what is odd about it.
    class Reading
      attr_reader :id, :document, :volts, :volts_sigma, :warm_up, :origin, :law_test, :problem

      # @param document [Hash] a member of the job's readings
      # @param bench [Hash] the job's bench: leads and meter
      # @param settings [Assumptions]
      # @param drifts [Boolean] whether what was read goes on falling as it warms
      def initialize(document, bench, settings, drifts: true)
        @document = document
        @settings = settings
        @id = document['id']
        @leads = Leads.new(default_ohm: settings[:lead_ohm], length_m: bench['lead_length_m'], area_mm2: bench['lead_area_mm2'],
          meter_ohm: bench['meter_ohm'], measured_ohm: bench['series_ohm'])
        @warm_up = WarmUp.new(samples, tolerance: settings[:settle_tolerance], drifts: drifts)
        @origin = Origin.named(origin_key)
        place_volts
        test_law
      end

      # Amps the budget stands on: settled where known.
      # @return [Float, nil]
      def amps = series? ? (warm_up.settled || warm_up.last) : document['amps']

      # Amps the fuse stands on.
      # @return [Float, nil]
      def cold_amps = warm_up.cold || (document['kind'] == 'cold' ? document['amps'] : nil)

      def usable? = !amps.nil? && problem.nil?

      # Whether a load may be said to have been read.
      def counts? = usable? && !origin.simulated?

      def series? = document['kind'] == 'series'

      # @return [Float, nil] A, meter and origin together, volts not counted
      def sigma
        return nil unless amps

        # A series read short of its end carries what may still fall.
        Math.hypot(origin.sigma(amps, @settings), warm_up.settled_sigma || 0.0)
      end

      # @return [Figure] volts at the lamp
      def volts_figure
        Figure.new(volts, 'V', sigma: volts_sigma, assumed: volts_assumed?) { volts_working }
      end

      # @return [Figure] amps it settles at
      def settled_figure
        return Figure.unknown('A', warm_up.reason || 'no series was taken') unless warm_up.settled

        Figure.new(warm_up.settled, 'A', sigma: sigma) do
          inputs = samples.sort.last(3).map { |t, a| Input.new(name: format('at %g s', t), value: a, unit: 'A', origin: 'read') }
          many = samples.size >= WarmUp::MANY
          formula = if many
                      "x(t) = x∞ + Σ b·e^(−t/τ), τ from #{Tails::TAUS.first.round} to #{Tails::TAUS.last.round} s, " \
                        "least squares through #{samples.size} samples, each b believed within ±#{(Tails::HEIGHT * 100).round} % beforehand"
                    else
                      'x∞ = x3 − (x3−x2)² / ((x3−x2) − (x2−x1))'
                    end
          Working.new(title: 'Settled draw', formula: formula, inputs: [*inputs, @settings.input('settle_tolerance')],
            source: 'exponential tail', notes: [warm_up.reason])
        end
      end

      # @return [Figure] exponent of its draw law
      def exponent_figure
        return Figure.unknown('1', 'no second voltage was read') unless law_test

        Figure.new(law_test.exponent, '1', sigma: law_test.sigma) do
          second = document['second']
          Working.new(title: 'Exponent of the draw law', formula: 'α = ln(I2 / I1) / ln(V2 / V1)',
            inputs: [Input.new(name: 'I1', value: amps, unit: 'A', origin: 'read'),
              Input.new(name: 'V1', value: volts, unit: 'V', origin: 'at the lamp', ref: "reading/#{id}"),
              Input.new(name: 'I2', value: second['amps'], unit: 'A', origin: 'read'),
              Input.new(name: 'V2', value: at_the_lamp(second), unit: 'V', origin: 'at the lamp')],
            source: 'common practice: filament 0.55, driver −1, constant current 0, heater 1',
            notes: ['The last digit of the amps counts at both voltages.'])
        end
      end

      # @param rated_w [Float, nil]
      # @param filament [Boolean]
      # @param other_w [Array<Float>] W of the base's other filaments
      # @return [Plausibility, nil]
      def plausibility(rated_w:, filament:, other_w: [])
        return nil unless amps && volts&.positive?

        Plausibility.new(amps: amps, volts: volts, rated_w: rated_w, filament: filament, width: @settings[:window], other_w: other_w,
          volts_at_lamp: document['volts_at'] != 'battery')
      end

      private

      def samples
        document.fetch('samples', []).filter_map { |s| [s['t_s'], s['amps']] if s['t_s'] && s['amps'] }
      end

      def origin_key
        return 'simulated' if document['simulated']
        return 'same_model' if document['taken_on'] == 'same_model'

        cold = document['kind'] == 'cold' || (series? && warm_up.settled.nil?)
        cold ? 'measured_cold' : 'measured_settled'
      end

      def volts_assumed? = document['volts'].nil? || (document['volts_at'] == 'battery' && @leads.assumed?)

      def place_volts
        given = document['volts']
        @volts_sigma = given ? @settings[:measured_v_sigma] : @settings[:bench_rest_v_sigma]
        @volts = given || @settings[:bench_rest_v]
        return unless document['volts_at'] == 'battery' && given && amps

        @volts = @leads.lamp_volts(given, amps)
        @volts_sigma = Math.hypot(@volts_sigma, amps * @leads.ohms * (@leads.assumed? ? 0.5 : 0.1))
        @problem = format('The leads would drop more than the battery has: %.2f V at the lamp.', @volts) if @volts <= 0
      end

      def test_law
        second = document['second']
        return unless second && second['amps'] && second['volts'] && amps && document['volts']

        @law_test = TwoVoltageTest.new([volts, amps], [at_the_lamp(second), second['amps']], amps_sigma: @settings[:meter_resolution])
      rescue DomainError => e
        @problem = e.message
      end

      # The second volts are read where the first were.
      def at_the_lamp(second)
        document['volts_at'] == 'battery' ? @leads.lamp_volts(second['volts'], second['amps']) : second['volts']
      end

      def volts_working
        if document['volts_at'] == 'battery' && document['volts'] && amps
          Working.new(title: 'Volts at the lamp', formula: 'V_lamp = V_battery − I · R',
            inputs: [Input.new(name: 'Volts at the battery', value: document['volts'], unit: 'V', origin: 'read'),
              Input.new(name: 'Amps', value: amps, unit: 'A', origin: 'read'),
              if @leads.assumed?
                @settings.input('lead_ohm')
              else
                Input.new(name: 'Meter and leads', value: @leads.ohms, unit: 'Ω', origin: @leads.origin)
              end],
            source: 'Ohm’s law', notes: [])
        elsif document['volts']
          Working.new(title: 'Volts at the lamp', formula: 'as read',
            inputs: [Input.new(name: 'Volts at the lamp', value: volts, unit: 'V', origin: 'read')],
            source: 'meter', notes: [])
        else
          Working.new(title: 'Volts at the lamp', formula: 'assumed', inputs: [@settings.input('bench_rest_v')], source: 'assumption',
            notes: ['Write down the volts at the lamp with the amps, and this doubt goes.'])
        end
      end
    end
  end
end
