# frozen_string_literal: true

require_relative '../budget/verdict'
require_relative '../buying/split'

module Miser
  module Plan
    # What a plan is chosen from, in figures that add up: for every thing to decide its options, for every option what it
    # takes and gives. Nothing here knows lamps; a general solver may be asked the same.
    class Problem
      # A thing to decide. @!attribute key [String] @!attribute label [String] @!attribute options [Array<Option>]
      Group = Struct.new(:key, :label, :options, keyword_init: true)
      # One way to decide it.
      # @!attribute pieces [Hash{Integer=>Integer}] of articles @!attribute once [Array<Integer>] things had once, however many ask
      # @!attribute minutes [Float] @!attribute work_cents [Integer] @!attribute kept [Array<Float>] A more kept, by line
      # @!attribute doubt [Array<Doubt>] by line @!attribute cuts [Integer] @!attribute light [Float] lm on the dipped beam
      # @!attribute glare [Boolean] whether it may blind more @!attribute marked [Boolean, nil] nil: no headlamp
      # @!attribute heat [Integer] filament headlamps it leaves @!attribute left_out [Boolean] an accessory not carried
      # @!attribute take [Hash] what it does to the job @!attribute notes [Array<String>]
      Option = Struct.new(:key, :label, :pieces, :once, :minutes, :work_cents, :kept, :doubt, :cuts, :light, :glare, :marked, :heat,
        :left_out, :take, :notes, keyword_init: true) do
        # @return [Option] with nothing where nothing is said
        def self.of(lines: 1, **said)
          new(pieces: {}, once: [], minutes: 0.0, work_cents: 0, kept: [0.0] * lines, doubt: [Doubt::NONE] * lines, cuts: 0, light: 0.0,
            glare: false, heat: 0, left_out: false, take: {}, notes: [], **said)
        end

        # @return [Boolean] whether anything is done to the machine
        def change? = take.values.any? { |what| !Taking::NOTHING.include?(what) }
      end
      # Parts of what moves the doubt in what is kept. @!attribute variance [Float] A², its own
      # @!attribute gain [Float] A that the meter's gain moves @!attribute clamp [Float] A alike, of the clamp @!attribute moved [Float] A
      #   by the volts
      Doubt = Struct.new(:variance, :gain, :clamp, :moved) do
        def +(other) = Doubt.new(variance + other.variance, gain + other.gain, clamp + other.clamp, moved + other.moved)
        def -(other) = Doubt.new(variance - other.variance, gain - other.gain, clamp - other.clamp, moved - other.moved)
      end
      Doubt::NONE = Doubt.new(0.0, 0.0, 0.0, 0.0).freeze
      # @!attribute offers [Array<Buying::Offer>] @!attribute on_hand [Integer] pieces
      # @!attribute each_cents [Integer] of one from the shelf
      Article = Struct.new(:key, :name, :offers, :on_hand, :each_cents, keyword_init: true)
      # Had once where any option asks: a box, a spare.
      # @!attribute kept [Array<Float>] A, by line @!attribute doubt [Array<Doubt>] alike
      Once = Struct.new(:key, :label, :pieces, :minutes, :work_cents, :cuts, :kept, :doubt, keyword_init: true) do
        def initialize(**said) = super(pieces: {}, minutes: 0.0, work_cents: 0, cuts: 0, kept: [], doubt: [], **said)
      end
      # A scenario on a circuit. @!attribute base [Float] A kept before anything is decided @!attribute doubt [Doubt] alike
      # @!attribute curve [Float] A², of what is earned @!attribute clamp_earned [Float] A
      # @!attribute margin [Float, nil] A of doubt that is taken as fixed; nil: in quadrature
      Line = Struct.new(:key, :label, :scenario, :circuit, :base, :doubt, :curve, :clamp_earned, :margin, keyword_init: true) do
        # @param doubt [Doubt] of the whole plan
        # @return [Float] A, one standard uncertainty of what is kept
        def sigma(doubt)
          Math.sqrt([doubt.variance + (doubt.gain**2) + curve - (2 * clamp_earned * doubt.clamp), 0.0].max + (doubt.moved**2))
        end
      end

      attr_reader :groups, :articles, :onces, :lines, :suppliers, :axis, :tax_percent

      # @param axis [Integer] line that “most kept” and the picture look at
      # @param tax_percent [Numeric] put on top of prices; 0 where they have it in them
      def initialize(groups:, articles:, lines:, onces: [], suppliers: [], axis: 0, tax_percent: 0)
        @groups = groups
        @articles = articles
        @onces = onces
        @lines = lines
        @suppliers = suppliers
        @axis = axis
        @tax_percent = tax_percent
      end

      # @return [Integer] how many ways to decide it all there are
      def size = groups.map { |g| g.options.size }.reduce(1, :*)

      # @return [Problem] with the doubt as it stands before anything is decided as a fixed margin
      def with_fixed_margins
        with_margins(@lines.each_with_index.to_h { |line, i| [i, Budget::Verdict::K * line.sigma(line.doubt)] })
      end

      # @param fixed [Hash{Integer=>Float}] margin in A by line
      # @return [Problem] with the doubt as a fixed margin, as a linear problem needs it
      def with_margins(fixed)
        lines = @lines.each_with_index.map { |l, i| l.dup.tap { |line| line.margin = fixed.fetch(i, 0.0) } }
        Problem.new(groups: groups, articles: articles, lines: lines, onces: onces, suppliers: suppliers, axis: axis,
          tax_percent: tax_percent)
      end
    end

    # What the owner wants of a plan, beside the aim.
    # @!attribute keeps [Array<Integer>] lines that must keep by twice the doubt @!attribute money_cents [Integer, nil] at most, tax with it
    # @!attribute minutes [Numeric, nil] at most @!attribute by_days [Integer, nil] all here in so many
    # @!attribute no_cuts [Boolean] @!attribute marked [Boolean] headlamps with marks @!attribute heat [Boolean] one filament headlamp stays
    # @!attribute carry_all [Boolean] no accessory left out @!attribute least_kept [Float, nil] A on the axis
    # @!attribute no_glare [Boolean] nothing that may blind more
    Conditions = Struct.new(:keeps, :money_cents, :minutes, :by_days, :no_cuts, :marked, :heat, :carry_all, :least_kept, :no_glare,
      keyword_init: true) do
      def initialize(**said) = super(keeps: [], **said)
      def with(**changes) = dup.tap { |c| changes.each { |k, v| c[k] = v } }

      # @param option [Problem::Option]
      def allow?(option)
        !(no_cuts && option.cuts.positive?) && !(marked && option.marked == false) && !(carry_all && option.left_out) &&
          !(no_glare && option.glare)
      end
    end
  end
end
