# frozen_string_literal: true

require_relative '../figure'
require_relative '../job/document'
require_relative '../charging/earn_fit'
require_relative '../charging/missed'
require_relative '../charging/regulator'
require_relative '../charging/battery'

module Miser
  module Budget
    # One circuit of the machine: its earn curve as best known, the volts its
    # budget is figured at, its regulator and battery.
    class Circuit
      attr_reader :id, :name, :kind, :curve, :battery, :volts, :volts_sigma, :reason, :document

      # @param document [Hash] member of the job's circuits
      # @param machine [Hash]
      # @param settings [Assumptions] @param refused [String, nil] why nothing is said of its machine
      def initialize(document, machine, settings, refused: nil)
        @refused = refused
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

      # Whether its regulator burns what is not used.
      def shunts? = regulated? && (document.dig('regulator', 'kind') || Charging::Regulator::USUAL) == 'shunt'

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
      def i_inf_figure = curve_figure('A', 'Most it can earn') { [curve.i_inf, curve.i_inf_sigma] }

      # @return [Figure] rpm at which it starts to earn, at budget volts
      def cut_in_figure = curve_figure('rpm', 'Cut-in speed') { [curve.cut_in(volts), curve.n0_sigma] }

      # @param rpm [Float]
      # @return [Figure] A earned at budget volts
      def earns(rpm, volts_part = 0.0)
        return Figure.unknown('A', reason) unless curve

        Figure.new(curve.amps(rpm, volts), 'A', sigma: Math.hypot(curve.sigma(rpm, volts), volts_part), assumed: assumed?) do
          Working.new(title: "Earned at #{rpm.round} rpm", formula: curve.form.formula,
            inputs: [Input.new(name: 'Engine speed n', value: rpm, unit: 'rpm', origin: 'scenario'),
              Input.new(name: 'Volts V', value: volts, unit: 'V', sigma: volts_sigma, origin: 'budget volts', ref: "circuit/#{id}/volts"),
              *curve_inputs],
            source: curve.form.source, notes: remarks)
        end
      end

      # @return [Array<Input>] the curve's own figures, hot, at the budget volts, and what they rest on
      def curve_inputs
        [Input.new(name: 'I_inf, hot', value: curve.i_inf, unit: 'A', sigma: curve.i_inf_sigma, origin: basis_words),
          Input.new(name: 'n0, hot', value: curve.cut_in(volts), unit: 'rpm', sigma: curve.n0_sigma, origin: basis_words),
          *(curve.form.knee? ? [Input.new(name: 'c, hot', value: curve.c, unit: '1', sigma: curve.c_sigma, origin: basis_words)] : []),
          *curve.inputs]
      end

      # @return [Float] A, of a clamp reading
      def clamp_sigma(amps) = (amps * @settings[:clamp_pct]) + @settings[:meter_resolution]

      # What is left of doubt in the curve at a speed where it was read: the clamp's scatter and gain, and the form.
      # @return [Float] A
      def read_sigma(amps)
        Math.sqrt((clamp_sigma(amps)**2) + ((@settings[:clamp_gain] * amps)**2) + ((@settings[:earn_shape] * curve.i_inf)**2))
      end

      def assumed? = curve && curve.basis != :points

      # Whether all that it is drawn through was read on other machines of its model.
      def learnt? = points.any? && points.all? { |p| elsewhere?(p) }

      def basis_words
        { points: 'measured points', rating: 'rating and cut-in', rating_only: 'rating alone, cut-in assumed',
          one_point: 'one measured speed', same_model: 'points of the same model, measured elsewhere' }.fetch(curve.basis)
      end

      # @return [Array<Hash>] measured points that say both speed and amps
      def points = @points ||= Job::Document.rows(@alternator, 'points').select { |p| p['rpm'] && p['amps'] && p['rpm'].positive? }

      # @return [Integer] how many speeds were really measured at
      def speeds = points.map { |p| p['rpm'].to_f }.sort.slice_when { |x, y| y - x > ALIKE * y }.count

      # @return [Array(Hash, String), nil] the measured point that the others contradict, and why
      attr_reader :missed

      private

      # Speeds nearer than this tell the same: assumption.
      ALIKE = 0.01
      # Times wider than round the idle speed: the slowest point may be anywhere above it.
      VAGUE = 3.0
      private_constant :ALIKE, :VAGUE

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
        @curve = fitted
        @reason = nil if curve
      rescue DomainError => e
        @curve = nil
        @reason = e.message
      end

      # One fit for all that is known; what is not known stays wide.
      def fitted
        return needs(@refused) if @refused
        return needs('charging output is unknown: enter the rated watts, or measure what it earns') unless rating || points.any?
        return needs('enter the cut-in speed or the idle speed') unless cut_in

        fit = Charging::EarnFit.new(form: form, v_ref: volts, cut_in: cut_in.first, settings: @settings, points: fit_points, rating: rating,
          apart: apart)
        remark(fit)
        fit.curve(basis: basis, remarks: @remarks, inputs: fit_inputs)
      end

      # A lighting coil that nothing rectifies keeps a law of its own.
      def form
        return Charging::Form::COIL if ac? && !rectified?

        Charging::Form::BY_KEY.fetch(@alternator['winding'] || (ac? ? 'one_phase' : 'three_phase'))
      end

      def basis
        return :same_model if learnt?
        return :points if speeds > 1
        return :one_point if points.any?

        @alternator['cut_in_rpm'] ? :rating : :rating_only
      end

      def fit_points
        @fit_points ||= points.map do |p|
          Charging::EarnFit::Point.new(rpm: p['rpm'].to_f, volts: (p['volts'] || held_volts).to_f, amps: p['amps'].to_f,
            cold: p['stator'] == 'cold', sigma: learnt? ? clamp_sigma(p['amps'].to_f) : point_sigma(p))
        end
      end

      # What was read elsewhere is doubted by as much as its machines differ.
      def point_sigma(point) = Math.hypot(clamp_sigma(point['amps'].to_f), (elsewhere?(point) && point['doubt_a']) || 0.0)

      def elsewhere?(point) = point['taken_on'] && point['taken_on'] != 'this_machine'

      # One machine of a model earns more than another at every speed alike: where nothing was read on this one, that is no scatter
      # that more points would take away. A share.
      def apart
        return 0.0 unless learnt?

        points.map { |p| p['doubt_a'] && p['amps'].positive? ? p['doubt_a'] / p['amps'] : @settings[:sigma_same_model] }.max
      end

      # What its plate says: cold, at the speed it is rated at.
      def rating
        watts = @alternator['rated_w']
        return nil unless watts&.positive? && @alternator['rated_rpm']&.positive?

        at = (@alternator['rated_v'] || held_volts).to_f
        @rating ||= Charging::EarnFit::Point.new(rpm: @alternator['rated_rpm'].to_f, volts: at, amps: watts / at, cold: true,
          sigma: @settings[:rating_sigma] * watts / at)
      end

      # As entered, else as usual of the idle speed, else of the slowest point that earned.
      # @return [Array(EarnFit::Known, Array<Input>), nil]
      def cut_in
        @cut_in ||= entered_cut_in || usual_cut_in || slowest
      end

      def entered_cut_in
        given = @alternator['cut_in_rpm']
        given && [Charging::EarnFit::Known.new(given.to_f, @settings[:cut_in_sigma]),
          [Input.new(name: 'Cut-in', value: given, unit: 'rpm', origin: 'entered'), @settings.input('cut_in_sigma')]]
      end

      def usual_cut_in
        idle = @machine['idle_rpm']
        idle&.positive? && [Charging::EarnFit::Known.new(@settings[:cut_in_of_idle] * idle, @settings[:cut_in_assumed_sigma]),
          [@settings.input('cut_in_of_idle'), @settings.input('cut_in_assumed_sigma')]]
      end

      def slowest
        earning = points.select { |p| p['amps'].positive? }
        return nil if speeds < 2 || earning.empty?

        slow = @settings[:cut_in_of_idle] * earning.map { |p| p['rpm'] }.min
        [Charging::EarnFit::Known.new(slow, VAGUE * @settings[:cut_in_assumed_sigma]), [@settings.input('cut_in_of_idle')]]
      end

      def remark(fit)
        @remarks << 'Cut-in speed is assumed from the idle speed: the band is wide.' if points.empty? && !@alternator['cut_in_rpm']
        @remarks << 'One speed measured: the curve’s shape rests on its cut-in speed. Measure at a second speed.' if points.any? && speeds < 2
        @remarks << 'Points of the same model, measured elsewhere: one read on this machine tells more.' if learnt?
        @remarks << 'Points taken on a cold stator were brought to hot.' if fit_points.any?(&:cold)
        miss = fit.miss or return

        @missed = [points[fit_points.index(miss.point)], Charging::Missed.words(miss)]
        @remarks << @missed.last
      end

      def fit_inputs
        plate = rating && [Input.new(name: 'Rated output', value: @alternator['rated_w'], unit: 'W', origin: 'rating plate'),
          @settings.input('rating_sigma')]
        read = fit_points.map do |p|
          Input.new(name: format('Read at %d rpm%s', p.rpm.round, p.cold ? ', cold' : ''), value: p.amps, unit: 'A', sigma: p.sigma,
            origin: learnt? ? 'same model, measured elsewhere' : 'clamp')
        end
        keys = [*('clamp_gain' if read.any?), *form.knee]
        [*read, *plate, *cut_in.last, *keys.map { |key| @settings.input(key) }, *Charging::Heat.new(@settings).inputs]
      end

      def needs(reason)
        @reason ||= reason # the first want is the nearest to a curve
        nil
      end

      def curve_figure(unit, title)
        return Figure.unknown(unit, reason) unless curve

        value, sigma = yield
        Figure.new(value, unit, sigma: sigma, assumed: assumed?) do
          Working.new(title: "#{title}, #{name}", formula: curve.form.formula, inputs: curve_inputs, source: curve.form.source, notes: remarks)
        end
      end
    end
  end
end
