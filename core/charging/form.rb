# frozen_string_literal: true

module Miser
  module Charging
    # The shape of what an alternator gives over engine speed, as a share of the most it
    # ever gives. ratio is speed over cut-in speed at the volts it feeds.
    class Form
      # Two diodes of a silicon bridge, 0.75 V each: the coils must pass them as well. Common practice.
      BRIDGE_V = 1.5

      attr_reader :key, :label, :knee, :knee_sigma, :drop_v, :formula, :source

      # @param exponent [Float, nil] a; nil for a coil without a bridge
      # @param knee [String, nil] the setting that says how soft it is, its doubt beside it
      def initialize(key, label, formula:, source:, exponent: nil, knee: nil, drop_v: 0.0)
        @key = key
        @label = label
        @exponent = exponent
        @knee = knee
        @knee_sigma = knee && "#{knee}_sigma"
        @drop_v = drop_v
        @formula = formula
        @source = source
      end

      def knee? = !@knee.nil?

      # @param ratio [Float] speed over cut-in speed
      # @param c [Float] softness of the knee; a coil has none
      # @return [Float] 0 to 1
      def share(ratio, c) = share_at(rise(ratio), c)

      # The part of a share that speed alone decides.
      # @param ratio [Float] @return [Float] nothing up to cut-in
      def rise(ratio)
        return 0.0 unless ratio > 1.0

        @exponent ? (ratio - 1)**@exponent : (ratio * ratio) - 1
      end

      # @param rise [Float] @return [Float] 0 to 1
      def share_at(rise, c) = @exponent ? rise / (rise + c) : Math.sqrt(rise / (rise + 1))

      # @param share [Float] from 0 up to, not including, 1
      # @return [Float] ratio at which it is met
      def ratio(share, c)
        return 1 / Math.sqrt(1 - (share * share)) unless @exponent

        1 + ((c * share / (1 - share))**(1 / @exponent))
      end

      # @return [Float, nil] a of the formula
      attr_reader :exponent

      SIMULATED = 'found by running stators with resistance, inductance and a bridge of diodes in a general circuit simulator'

      THREE_PHASE = new('three_phase', 'three phases, bridge', exponent: 1.57, knee: 'knee', drop_v: BRIDGE_V,
        formula: 'I = I_inf · x^1.57 / (x^1.57 + c), x = n / n0 − 1, n0 ∝ V + 1.5', source: SIMULATED)
      # Fourteen single-phase coils behind four diodes, hot and cold, are met within 1.5 % of
      # I_inf with a = 2.0 and c between 0.64 and 1.07: test/fixtures/stators.
      ONE_PHASE = new('one_phase', 'one phase, bridge', exponent: 2.0, knee: 'knee_one_phase', drop_v: BRIDGE_V,
        formula: 'I = I_inf · x² / (x² + c), x = n / n0 − 1, n0 ∝ V + 1.5', source: SIMULATED)
      # From E² = V² + (ωLI)² with E ∝ n: a plain coil into lamps.
      COIL = new('coil', 'lighting coil, no bridge', formula: 'I = I_inf · √(1 − (n0 / n)²), n0 ∝ V',
        source: 'Caliskan, Perreault, Jahns, Kassakian, IEEE Trans. Circuits and Systems I, 2003')

      BY_KEY = [THREE_PHASE, ONE_PHASE, COIL].to_h { |form| [form.key, form] }.freeze
      # Windings behind a bridge, as a person tells them apart; the usual one first.
      WINDINGS = { 'three_phase' => 'three phases: three wires to the regulator', 'one_phase' => 'one phase: two wires' }.freeze
    end
  end
end
