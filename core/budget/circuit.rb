# frozen_string_literal: true

require_relative '../figure'
require_relative '../job/document'
require_relative '../charging/earn_fit'
require_relative '../charging/battery'

module Miser
  module Budget
    # One circuit of the machine: its earn curve as best known, the volts its
    # budget is figured at, its regulator and battery.
    class Circuit
      attr_reader :id, :name, :kind, :curve, :battery, :volts, :volts_sigma, :reason, :document

      # @param document [Hash] member of the job's circuits
      # @param machine [Hash]
      # @param settings [Assumptions]
      def initialize(document, machine, settings)
        @document = document
        @machine = machine
        @settings = settings
        @id = document['id']
        @name = document['name'] || @id
        @kind = document['kind']
        @alternator = Job::Document.part(document, 'alternator')
        @battery = Charging::Battery.from(document['battery'], settings) if dc?
        choose_volts
        find_curve
      end

      def dc? = kind == 'dc'
      def ac? = kind == 'ac'

      # Whether a regulator holds the volts. A battery circuit is taken as regulated.
      def regulated? = Job::Document.part(document, 'regulator').fetch('fitted', true) != false

      # Whether a rectifier-regulator makes DC of the coil's AC.
      def rectified? = document.dig('regulator', 'makes_dc') == true

      # @return [Float, nil] V the regulator holds; nil without one
      def held = regulated? ? held_volts : nil

      def pole_pairs = @alternator['pole_pairs']

      def half_wave? = @alternator['half_wave'] == true

      def measured_volts = document.dig('regulator', 'volts')

      # @return [Array<String>] what the curve's maker had to say
      def remarks = @remarks || []

      # @return [Figure] budget volts
      def volts_figure
        Figure.new(volts, 'V', sigma: volts_sigma, assumed: @volts_setting && true) do
          input = if @volts_setting
                    @settings.input(@volts_setting)
                  else
                    Input.new(name: 'Volts held', value: volts, unit: 'V', origin: @volts_origin)
                  end
          Working.new(title: "Budget volts, #{name}", formula: 'the chosen voltage', inputs: [input], source: 'common practice',
            notes: ['Amps are figured at the volts the machine runs at; a bench reading is carried there by its draw law.'])
        end
      end

      # @return [Figure] A it tends to at high speed
      def i_inf_figure = curve_figure('A', 'Most it can earn') { curve.i_inf }

      # @return [Figure] rpm at which it starts to earn, at budget volts
      def cut_in_figure = curve_figure('rpm', 'Cut-in speed') { curve.cut_in(volts) }

      # @param rpm [Float]
      # @return [Figure] A earned at budget volts
      def earns(rpm, volts_part = 0.0)
        return Figure.unknown('A', reason) unless curve

        Figure.new(curve.amps(rpm, volts), 'A', sigma: Math.hypot(curve.sigma(rpm, volts), volts_part), assumed: assumed?) do
          Working.new(title: "Earned at #{rpm.round} rpm", formula: 'I = h · √(a − b·(V / (V_ref·n))²)',
            inputs: [Input.new(name: 'Engine speed n', value: rpm, unit: 'rpm', origin: 'scenario'),
              Input.new(name: 'Volts V', value: volts, unit: 'V', sigma: volts_sigma, origin: 'budget volts', ref: "circuit/#{id}/volts"),
              Input.new(name: 'a = I_inf²', value: curve.a, unit: 'A²', sigma: Math.sqrt(curve.covariance[0]), origin: basis_words),
              Input.new(name: 'b = I_inf²·n0²', value: curve.b, unit: 'A²·rpm²', sigma: Math.sqrt(curve.covariance[2]),
                origin: basis_words),
              *(curve.hot >= 1.0 ? [] : [@settings.input('hot_stator')]), *curve.inputs],
            source: CURVE_SOURCE, notes: remarks)
        end
      end

      # @return [Float] A, of a clamp reading
      def clamp_sigma(amps) = (amps * @settings[:clamp_pct]) + @settings[:meter_resolution]

      CURVE_SOURCE = 'Caliskan, Perreault, Jahns, Kassakian, IEEE Trans. Circuits and Systems I, 2003'

      def assumed? = curve && curve.basis != :points

      def basis_words
        { points: 'measured points', rating: 'rating and cut-in', rating_only: 'rating alone, cut-in assumed',
          one_point: 'one measured point' }.fetch(curve.basis)
      end

      # @return [Array<Hash>] measured points that say both speed and amps
      def points = @points ||= Job::Document.rows(@alternator, 'points').select { |p| p['rpm'] && p['amps'] && p['rpm'].positive? }

      private

      def choose_volts
        school = @settings.voltage_school
        if school == 'measured' && measured_volts
          @volts = measured_volts
          @volts_sigma = @settings[:measured_v_sigma]
          @volts_origin = 'measured'
        elsif school == 'measured'
          @volts_setting = ac? ? 'ac_regulated_v' : 'running_v'
          @volts = @settings[@volts_setting]
          @volts_sigma = @settings[:running_v_sigma]
        else
          @volts = school.to_f
          @volts_sigma = 0.0
          @volts_origin = 'chosen voltage'
        end
      end

      # The school sets the volts for the arithmetic; what a regulator holds is
      # a matter of the machine.
      def held_volts = measured_volts || @settings[ac? ? :ac_regulated_v : :running_v]

      def find_curve
        @remarks = []
        @curve = from_points || from_one_point || from_rating
        @reason = nil if curve
        @reason ||= 'charging output is unknown: enter the rated watts, or measure two points' unless @curve
      rescue DomainError => e
        @curve = nil
        @reason = e.message
      end

      # Where hot and cold points are mixed, the cold ones are brought to hot before
      # the fit; where all are cold the whole curve is.
      def hot_points
        points.map do |p|
          amps = p['stator'] == 'cold' && !all_cold? ? p['amps'] * @settings[:hot_stator] : p['amps']
          [p['rpm'].to_f, p['volts'] || held_volts, amps]
        end
      end

      def all_cold? = points.all? { |p| p['stator'] == 'cold' }

      def heat = all_cold? ? { hot: @settings[:hot_stator], hot_sigma: @settings[:hot_stator_sigma] } : {}

      def from_points
        return nil if points.size < 2

        if Charging::EarnFit.distinct(points.map { |p| p['rpm'].to_f }) < 2
          @remarks << 'The measured points are all at one speed; that tells nothing of the curve’s shape. They count as one point.'
          return nil
        end
        @remarks << 'Points taken on a cold stator were brought to hot.' if points.any? { |p| p['stator'] == 'cold' }
        Charging::EarnFit.from_points(hot_points, v_ref: volts, amps_sigma: ->(amps) { clamp_sigma(amps) }, **heat)
      end

      def from_one_point
        return nil if points.empty?

        rpm, volts_then, = hot_points.first
        amps = hot_points.sum(&:last) / hot_points.size
        cut_in, cut_in_sigma, inputs = cut_in_known
        return needs('one measured point needs the cut-in or idle speed too: enter it, or measure a second point') unless cut_in
        return needs("the measured point (#{rpm.round} rpm) is below the cut-in speed (#{cut_in.round} rpm)") unless cut_in < rpm

        @remarks << 'One measured point: the curve’s shape rests on its cut-in speed. Measure a second point.'
        Charging::EarnFit.from_rating(watts: amps * volts_then, rpm: rpm, volts: volts_then, cut_in: cut_in, basis: :one_point,
          watts_sigma: @settings[:clamp_pct], cut_in_sigma: cut_in_sigma, inputs: inputs, **heat)
      end

      def from_rating
        watts = @alternator['rated_w']
        rpm = @alternator['rated_rpm']
        return needs('charging output is unknown: enter the rated watts, or measure two points') unless watts&.positive?
        return needs('the rated watts need the engine speed they are rated at') unless rpm

        cut_in, cut_in_sigma, inputs = cut_in_known
        return needs('enter the cut-in speed or the idle speed') unless cut_in

        given = @alternator['cut_in_rpm']
        Charging::EarnFit.from_rating(watts: watts, rpm: rpm, volts: @alternator['rated_v'] || held_volts, cut_in: cut_in,
          watts_sigma: @settings[:rating_sigma], cut_in_sigma: cut_in_sigma,
          basis: given ? :rating : :rating_only, hot: @settings[:hot_stator],
          hot_sigma: @settings[:hot_stator_sigma],
          inputs: [Input.new(name: 'Rated output', value: watts, unit: 'W', origin: 'rating plate'), *inputs])
      end

      def cut_in_known
        given = @alternator['cut_in_rpm']
        if given
          [given.to_f, @settings[:cut_in_sigma],
            [Input.new(name: 'Cut-in', value: given, unit: 'rpm', origin: 'entered'), @settings.input('cut_in_sigma')]]
        elsif @machine['idle_rpm']
          @remarks << 'Cut-in speed is assumed from the idle speed: the band is wide.'
          [@settings[:cut_in_of_idle] * @machine['idle_rpm'], @settings[:cut_in_assumed_sigma], [@settings.input('cut_in_of_idle')]]
        end
      end

      def needs(reason)
        @reason ||= reason # the first want is the nearest to a curve
        nil
      end

      def curve_figure(unit, title)
        return Figure.unknown(unit, reason) unless curve

        Figure.new(yield, unit, assumed: assumed?) do
          Working.new(title: "#{title}, #{name}", formula: unit == 'rpm' ? 'n0 = √(b / a) · V / V_ref' : 'I_inf = h · √a',
            inputs: [Input.new(name: 'a', value: curve.a, unit: 'A²', origin: basis_words),
              Input.new(name: 'b', value: curve.b, unit: 'A²·rpm²', origin: basis_words)] + curve.inputs,
            source: CURVE_SOURCE, notes: remarks)
        end
      end
    end
  end
end
