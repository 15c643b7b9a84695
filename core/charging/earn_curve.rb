# frozen_string_literal: true

require_relative 'form'

module Miser
  module Charging
    # What an alternator earns against engine speed, hot: I_inf times a Form's share. What is
    # not known of it is kept as a set of curves, each with its weight, since near cut-in the
    # doubt is no bell and no tangent describes it. n in rpm, I in A.
    class EarnCurve
      # One curve that what is known allows: cut-in (rpm), softness of the knee, most it gives
      # (A) with its variance (A²), and how much of the belief lies on it.
      Node = Struct.new(:n0, :c, :amps, :variance, :weight)
      # Doubts beside the nodes'. @!attribute shape [Float] in the form itself, a share of I_inf
      # @!attribute gain [Float] in the clamp's gain where points were measured, a share (the nodes have it already)
      # @!attribute flux [Float] in what heat takes, where heat was reckoned
      Doubts = Struct.new(:shape, :gain, :flux, keyword_init: true)
      NO_DOUBTS = Doubts.new(shape: 0.0, gain: 0.0, flux: 0.0).freeze

      # Times wider, an e-fold of speed outside what was measured: assumption.
      OUTSIDE = 1.5
      # Under this share of its cut-in speed nobody doubts that it earns nothing: assumption.
      STANDS = 0.85

      attr_reader :form, :i_inf, :n0, :c, :v_ref, :nodes, :basis, :remarks, :inputs

      # @param form [Form]
      # @param i_inf [Float] A @param n0 [Float] rpm at v_ref @param c [Float]
      # @param nodes [Array<Node>]
      # @param basis [Symbol] :points, :one_point, :rating, :rating_only
      # @param measured [Array(Float, Float), nil] rpm between which it was measured
      # @param doubts [Doubts]
      def initialize(form:, i_inf:, n0:, c:, v_ref:, nodes:, basis:, measured: nil, doubts: NO_DOUBTS, remarks: [],
                     inputs: [])
        @form = form
        @i_inf = i_inf
        @n0 = n0
        @c = c
        @v_ref = v_ref
        @nodes = nodes
        @basis = basis
        @measured = measured
        @doubts = doubts
        @remarks = remarks
        @inputs = inputs
      end

      # @return [Float] rpm at which it starts to earn at those volts
      def cut_in(volts = v_ref) = n0 * by_volts(volts)

      # @param rpm [Float] engine speed
      # @param volts [Float] held at its terminals
      # @return [Float] A
      def amps(rpm, volts)
        return 0.0 unless rpm.positive?

        i_inf * form.share(rpm / (n0 * by_volts(volts)), c)
      end

      # Root mean square of what it may be apart from amps.
      # @return [Float] A
      def sigma(rpm, volts)
        return 0.0 unless rpm.positive?

        # Every line of one speed asks again.
        ((@sigmas ||= {})[volts] ||= {})[rpm] ||= Math.sqrt(spread(rpm, volts) + (shape(rpm, volts)**2) + (heat(rpm, volts)**2))
      end

      # Part of the doubt that is the clamp's own gain.
      # @return [Float] A, above 0 where the clamp reads too much
      def gain(rpm, volts) = @doubts.gain * amps(rpm, volts)

      # Speed at which it earns just so much.
      # @param spend [Float] A
      # @return [Float, nil] rpm; nil where it never does
      def break_even(spend, volts)
        share = [spend, 0.0].max / i_inf
        share < 1.0 ? form.ratio(share, c) * n0 * by_volts(volts) : nil
      end

      # Volts at a speed where the amps come to nothing.
      # @return [Float] V
      def open_circuit(rpm) = ((v_ref + form.drop_v) * rpm / n0) - form.drop_v

      # @return [Float] A
      def i_inf_sigma = rms { |node| [node.amps - i_inf, node.variance] }
      # @return [Float] rpm
      def n0_sigma = rms { |node| [node.n0 - n0, 0.0] }
      # @return [Float]
      def c_sigma = rms { |node| [node.c - c, 0.0] }

      private

      # The bridge's diodes want their volts too.
      def by_volts(volts) = (volts + form.drop_v) / (v_ref + form.drop_v)

      # Asked for at every speed that is drawn: what speed decides is worked out once for all nodes of one cut-in.
      def spread(rpm, volts)
        now = amps(rpm, volts)
        ratio = rpm / by_volts(volts)
        total = 0.0
        flat.each do |n0, list|
          rise = form.rise(ratio / n0)
          i = 0
          while i < list.size
            share = form.share_at(rise, list[i])
            off = (list[i + 1] * share) - now
            total += list[i + 3] * ((off * off) + (list[i + 2] * share * share))
            i += 4
          end
        end
        total
      end

      # @return [Array<Array(Float, Array<Float>)>] by cut-in: softness, amps, variance, weight, node after node
      def flat = @flat ||= nodes.group_by(&:n0).map { |n0, list| [n0, list.flat_map { |node| node.to_a.drop(1) }] }

      def shape(rpm, volts)
        return 0.0 if @doubts.shape.zero?

        low, high = @measured
        away = low ? [Math.log(low / rpm), Math.log(rpm / high), 0.0].max : 1.0
        starts = (((rpm / cut_in(volts)) - STANDS) / (1 - STANDS)).clamp(0.0, 1.0)
        @doubts.shape * i_inf * (1 + (OUTSIDE * away)) * starts
      end

      # Flux lost moves the cut-in as well as the output.
      def heat(rpm, volts)
        sigma = @doubts.flux
        return 0.0 if sigma.zero?

        at = ->(lost) { i_inf * (1 - lost) * form.share(rpm * (1 - lost) / (n0 * by_volts(volts)), c) }
        (at.call(-sigma) - at.call(sigma)).abs / 2
      end

      def rms
        squares = nodes.sum do |node|
          off, variance = yield(node)
          node.weight * ((off**2) + variance)
        end
        Math.sqrt(squares)
      end
    end
  end
end
