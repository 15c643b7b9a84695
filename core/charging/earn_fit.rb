# frozen_string_literal: true

require_relative '../errors'
require_relative 'descent'
require_relative 'earn_curve'
require_relative 'heat'

module Miser
  module Charging
    # Finds the earn curve from all that is known at once: what such machines usually are, a
    # rating, a cut-in, and any number of measured points. Least squares in ln n0 and ln c, the
    # most it gives solved for in each (it enters straight); the doubt round the best is kept
    # as nodes of a grid, each weighted by how well it meets what is known (adaptive
    # quadrature; Naylor and Smith, Applied Statistics 31, 1982).
    class EarnFit
      # @!attribute rpm, volts, amps [Float] @!attribute cold [Boolean] @!attribute sigma [Float] A, its scatter
      Point = Struct.new(:rpm, :volts, :amps, :cold, :sigma, keyword_init: true)
      # @!attribute sigma [Float] its doubt, a share of it
      Known = Struct.new(:value, :sigma)
      # A measured point that the curve misses.
      # @!attribute off [Float] A, above 0 where more was read @!attribute rpm [Float, nil] where the curve gives what was read
      Miss = Struct.new(:point, :off, :rpm, keyword_init: true)
      # What a place in ln n0 and ln c amounts to: sum of squares, the most it gives (A), and how sharply that is told (1/A²).
      Place = Struct.new(:u, :w, :squares, :amps, :precision)
      # One thing read, as a place meets it: amps · output · share(speed / n0, c · knee).
      Row = Struct.new(:amps, :weight, :output, :speed, :knee)

      # Where nothing rates it, most machines give between 5 and 50 A: assumption. A, and its doubt in A.
      USUAL_OUTPUT = [20.0, 20.0].freeze
      # Misses of more than this many standard uncertainties are said.
      MISS = 2.0
      # Points that scatter more than this many times their doubt are all doubted so much more: assumption.
      STRETCH = 1.5
      # Steps that the search begins with, in what is believed beforehand: as far, in so many.
      COARSE = { u: [3.0, 7], w: [2.0, 2] }.freeze

      # Steps of the grid of nodes, in standard uncertainties: along ln n0, and across it.
      ALONG = (-4..4).map { |i| i * 0.8 }.freeze
      ACROSS = (-2..2).map { |i| i * 1.1 }.freeze
      # A bell has a third on its middle step; with more than this on one, steps are made finer by so much, to no less than that.
      MOST_ON_ONE = 0.55
      FINER = 1.8
      LEAST_STEP = 1e-5
      # Nodes of less weight than this say nothing.
      LEAST_WEIGHT = 3e-4
      # A²: below this no clamp reads.
      LEAST = 1e-6

      # @param form [Form]
      # @param v_ref [Float] V at which n0 is stated
      # @param cut_in [Known] rpm, cold
      # @param settings [Assumptions]
      # @param points [Array<Point>]
      # @param rating [Point, nil] as on its plate, cold; sigma is its doubt
      # @param apart [Float] how far the machine its points were read on may be from this one, a share alike at all speeds
      def initialize(form:, v_ref:, cut_in:, settings:, points: [], rating: nil, apart: 0.0)
        @apart = apart
        @form = form
        @v_ref = v_ref
        @cut_in = cut_in
        @settings = settings
        @points = points
        @rating = rating
        @heat = Heat.new(settings)
        @knee = form.knee? ? Known.new(settings[form.knee], settings[form.knee_sigma] / settings[form.knee]) : Known.new(1.0, 1.0)
        @mixed = points.any? { |p| !p.cold }
      end

      # @param more [Hash] basis, remarks, inputs: handed on to the curve
      # @return [EarnCurve]
      # @raise [LateCutIn] where it starts to earn only above the speed it is rated at
      def curve(**more)
        raise LateCutIn.new(cut_in: @cut_in.value, rpm: @rating.rpm) if @rating && @points.empty? && @cut_in.value >= @rating.rpm

        slowest, fastest = @points.map(&:rpm).minmax
        EarnCurve.new(form: @form, v_ref: @v_ref, i_inf: best.amps * @heat.output, n0: Math.exp(best.u) * @heat.cut_in,
          c: softness(best.w) * @heat.knee, nodes: nodes, measured: slowest && [slowest, fastest],
          doubts: EarnCurve::Doubts.new(shape: @settings[:earn_shape], gain: gain, flux: @mixed ? 0.0 : @heat.sigma), **more)
      end

      # A measured point that the curve misses: the one without which the others agree best, since it drags their curve.
      # @return [Miss, nil]
      def miss
        return nil unless @points.any? { |p| (p.amps - amps_of(p)).abs > MISS * doubt(p) }

        worst = @points.min_by { |p| without(p).best.squares }
        others = without(worst)
        Miss.new(point: worst, off: worst.amps - others.amps_of(worst), rpm: others.speed_of(worst))
      end

      protected

      # @return [Place] the least
      def best
        @best ||= begin
          @scale = @points.map(&:amps).max || 0.0
          @rough = search(rows)
          # With the curve known roughly, its doubt of shape and of heat is known as well.
          @scale = @rough.amps
          found = search(rows, @rough)
          scatter = @points.size > 1 ? Math.sqrt([found.squares, 0.0].max / @points.size) : 0.0
          scatter > STRETCH ? search(rows(scatter), found) : found
        end
      end

      # @return [Float] A that the best curve gives where a point was taken
      def amps_of(point) = best.amps * share_of(point, best.u, best.w)

      # @return [Float, nil] rpm at which it gives a point's amps
      def speed_of(point)
        share = point.amps / best.amps / output(point)
        share.between?(0.0, 0.98) ? @form.ratio(share, softness(best.w) * knee(point)) * Math.exp(best.u) * drift(point) : nil
      end

      private

      def softness(ln) = @form.knee? ? Math.exp(ln) : 0.0

      def output(point) = point.cold ? 1.0 : @heat.output
      def knee(point) = point.cold ? 1.0 : @heat.knee

      # How its cut-in moved with its volts and its heat.
      def drift(point)
        (point.volts + @form.drop_v) / (@v_ref + @form.drop_v) * (point.cold ? 1.0 : @heat.cut_in)
      end

      def share_of(point, ln_n0, ln_c)
        output(point) * @form.share(point.rpm / drift(point) / Math.exp(ln_n0), softness(ln_c) * knee(point))
      end

      # @param stretch [Float] times that the points are doubted more
      def rows(stretch = 1.0)
        list = @points.map { |p| row(p, doubt(p) * stretch) }
        @rating ? list << row(@rating, @rating.sigma) : list
      end

      def row(point, sigma) = Row.new(point.amps, 1.0 / (sigma * sigma), output(point), point.rpm / drift(point), knee(point))

      # Scatter of the clamp and doubt of shape; of a cold point among hot ones, what heat takes as well. A
      def doubt(point)
        heat = @mixed && point.cold && @rough ? heat_of(point) : 0.0
        Math.sqrt((point.sigma**2) + ((@settings[:earn_shape] * @scale)**2) + (heat**2) + LEAST)
      end

      def heat_of(point)
        at = ->(lost) { (1 - lost) * share_of(point, @rough.u - Math.log(1 - lost), @rough.w) * @rough.amps }
        (at.call(-@heat.sigma) - at.call(@heat.sigma)) / 2
      end

      def before = @before ||= [Math.log(@cut_in.value), @form.knee? ? Math.log(@knee.value) : 0.0]

      def place(rows, ln_n0, ln_c)
        n0 = Math.exp(ln_n0)
        c = softness(ln_c)
        sxx, sxy, syy = usual
        rows.each do |r|
          share = r.output * @form.share(r.speed / n0, c * r.knee)
          sxx += r.weight * share * share
          sxy += r.weight * r.amps * share
          syy += r.weight * r.amps * r.amps
        end
        amps = [sxx.positive? ? sxy / sxx : 0.0, 1e-3].max
        apart = [(ln_n0 - before[0]) / @cut_in.sigma, (ln_c - before[1]) / @knee.sigma]
        Place.new(ln_n0, ln_c, syy - (2 * amps * sxy) + (amps * amps * sxx) + (apart[0]**2) + (apart[1]**2), amps, sxx)
      end

      # What is believed of the output where nothing rates it, as sums of squares.
      def usual
        return [0.0, 0.0, 0.0] if @rating

        amps, sigma = USUAL_OUTPUT
        [1 / (sigma**2), amps / (sigma**2), (amps / sigma)**2]
      end

      # From coarse steps over all that is believed possible, or from what was found with other doubts, down to the least.
      # @return [Place]
      def search(rows, near = nil)
        @rows = rows
        (far, many), (wide, few) = COARSE.values_at(:u, :w)
        du = far * @cut_in.sigma / many
        dw = wide * @knee.sigma / few
        start = near ? place(rows, near.u, near.w) : coarse(many, few, du, dw)
        descent.from(start, du, dw)
      end

      def coarse(many, few, step_u, step_w)
        us = (-many..many).map { |i| before[0] + (i * step_u) }
        ws = @form.knee? ? (-few..few).map { |i| before[1] + (i * step_w) } : [0.0]
        us.product(ws).map { |u, w| place(@rows, u, w) }.min_by(&:squares)
      end

      def descent = Descent.new(flat: !@form.knee?) { |u, w| place(@rows, u, w) }

      # @return [Array<EarnCurve::Node>] hot
      def nodes
        along, across, lean = widths
        weighed = weigh(along, across, lean)
        # Steps too coarse would leave all belief on the middle ones, and no doubt.
        weighed = weigh(along /= FINER, across, lean /= FINER) while along > LEAST_STEP && coarse?(weighed)
        least = LEAST_WEIGHT * weighed.sum(&:last)
        kept = weighed.select { |_, weight| weight > least }
        total = kept.sum(&:last)
        kept.map { |p, weight| node(p, weight / total) }
      end

      # @return [Array<Array(Place, Float)>] the grid's places, each with its weight
      def weigh(along, across, lean)
        places = grid(along, across, lean)
        floor = places.map(&:squares).min
        places.map { |p| [p, Math.exp((floor - p.squares) / 2) / Math.sqrt(p.precision) / p.amps] }
      end

      # Whether one step along ln n0 holds nearly all.
      def coarse?(weighed)
        by_step = weighed.group_by { |p, _| p.u }.values.map { |column| column.sum(&:last) }
        by_step.max > MOST_ON_ONE * by_step.sum
      end

      # A clamp's gain is common to all points: no number of them takes it away.
      def node(place, weight)
        EarnCurve::Node.new(Math.exp(place.u) * @heat.cut_in, softness(place.w) * @heat.knee, place.amps * @heat.output,
          ((1 / place.precision) + ((gain * place.amps)**2)) * (@heat.output**2), weight)
      end

      def gain = @points.empty? ? 0.0 : Math.hypot(@settings[:clamp_gain], @apart)

      def grid(along, across, lean)
        return ALONG.map { |z| place(@rows, best.u + (along * z), 0.0) } unless @form.knee?

        ALONG.product(ACROSS).map { |z, t| place(@rows, best.u + (along * z), best.w + (lean * z) + (across * t)) }
      end

      # From the bends of the sum of squares, and never wider than what was believed beforehand.
      # @return [Array(Float, Float, Float)] σ of ln n0; σ of ln c at a given n0; how ln c leans with ln n0
      def widths
        du = span(@cut_in.sigma) { |d| [best.u + d, best.w] }
        dw = span(@knee.sigma) { |d| [best.u, best.w + d] }
        huu, huw, hww = descent.bends(best, du, dw)
        return [huu.positive? ? [Math.sqrt(2 / huu), @cut_in.sigma].min : @cut_in.sigma, 0.0, 0.0] unless @form.knee?

        det = (huu * hww) - (huw * huw)
        return [@cut_in.sigma, @knee.sigma, 0.0] unless huu.positive? && hww.positive? && det.positive?

        along = [Math.sqrt(2 * hww / det), @cut_in.sigma].min
        [along, [Math.sqrt(2 / hww), @knee.sigma].min, (-huw / hww * along).clamp(-@knee.sigma, @knee.sigma)]
      end

      # A difference about as wide as the doubt, so that a kink does not pass for a cliff.
      def span(wide)
        rise = lambda { |d|
          [d, -d].sum { |at| place(@rows, *yield(at)).squares } - (2 * best.squares)
        }
        wide /= 1.5 while wide > 1e-4 && rise.call(wide) > 2.0
        wide
      end

      def without(point)
        (@without ||= {})[point] ||= EarnFit.new(form: @form, v_ref: @v_ref, cut_in: @cut_in, settings: @settings,
          points: @points - [point], rating: @rating)
      end
    end
  end
end
