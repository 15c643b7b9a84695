# frozen_string_literal: true

require_relative '../assumptions'
require_relative '../job/document'
require_relative '../job/lamp_light'
require_relative '../figure'
require_relative 'fit_rules'

module Miser
  module Headlight
    # The parts thought of for one headlamp, each school beside the others.
    class Candidates
      # @!attribute verdict [String] fits, work, no, unknown @!attribute findings [Array]
      # @!attribute cents [Integer, nil] with its extra parts; nil where a price is not known
      # @!attribute minutes [Float, nil]
      # @!attribute amps [Float, nil] at running volts @!attribute amps_figure [Figure] the same, with its working @!attribute loose
      #   [String] risk of working loose
      # @!attribute own_minutes, own_cents [Numeric, nil] without what its fitting pulls in
      Judged = Struct.new(:id, :name, :kind, :verdict, :findings, :amps_figure, :lumens, :own_minutes, :minutes, :own_cents, :cents,
        :extra_parts, :marks, :loose, :pattern, :reasons, keyword_init: true) do
        def amps = amps_figure.value

        # @return [Array<FitRule::Finding>] what is not measured and matters
        def unmeasured = findings.select { |f| f.verdict == 'unknown' && f.rule != 'marks' }

        # @return [Array<FitRule::Finding>]
        def stops = findings.select { |f| f.verdict == 'no' }

        # @param name [String] amps, or a rule's key
        # @return [Figure, nil]
        def figure(name) = name == 'amps' ? amps_figure : findings.find { |f| f.rule == name }&.spare
      end

      SCHOOLS = { 'unit' => 0, 'projector' => 1, 'bulb' => 2 }.freeze
      LABELS = { 'bulb' => 'bulb in the old reflector', 'unit' => 'whole unit', 'projector' => 'projector unit' }.freeze
      PATTERNS = { 'bulb' => 'often poor: the reflector was ground for a filament', 'unit' => 'its own optics',
                   'projector' => 'clean cut-off' }.freeze
      ORDER = { 'fits' => 0, 'work' => 1, 'unknown' => 2, 'no' => 3 }.freeze

      # Machines that are ridden, or walked behind, in snow.
      SNOW = %w[snowmobile walk_behind].freeze

      # Findings: what needs a hand or a decision first.
      FIRST = { 'no' => 0, 'work' => 1, 'unknown' => 2, 'fits' => 3 }.freeze

      # A headlamp's holder under the names of the checks.
      HOLDER = { 'cap' => 'base', 'connector' => 'connector', 'polarity' => 'polarity', 'retention' => 'retention' }.freeze

      # @param lamp [Job::Lamp] with its holder, its housing as measured, the parts held against it
      # @param machine [Hash]
      # @param draw [#call] Figure of a choice's draw, dipped, at running volts
      # @param feed [String] what feeds the lamp after the change: dc, ac, bus
      # @param settings [Assumptions] @param units [String] metric or us
      # @param patterns [Hash{String=>String}] what its photometry foretells, by choice
      # @param catalogue [Parts::Catalogue] what the work costs
      def initialize(lamp, machine, draw:, feed: 'dc', settings: Assumptions.new, units: 'metric', patterns: {},
                     catalogue: Parts::Catalogue::NONE)
        @lamp = lamp
        holder = HOLDER.transform_values { |key| lamp.holder[key] }
        @housing = Job::Document.part(lamp.row, 'housing').merge(holder, 'year' => machine['year']).compact
        @winter = SNOW.include?(machine['kind'])
        @draw = draw
        @feed = feed
        @settings = settings
        @units = units
        @patterns = patterns
        @catalogue = catalogue
      end

      # @return [Job::Lamp] they are held against
      attr_reader :lamp

      # @return [Boolean] whether it is ridden in snow, by its kind
      def winter? = @winter

      # @return [Array<Judged>] the recommended first
      def all
        @all ||= @lamp.parts.map { |c| of(c['part'], c['id']) }.sort_by { |j| [ORDER.fetch(j.verdict), SCHOOLS.fetch(j.kind), j.cents || Float::INFINITY] }
      end

      # @return [Judged, nil] the part that is fitted
      def chosen = @lamp.part && all.find { |j| j.id == @lamp.choice['id'] }

      # A part of the shelf, held against this lamp.
      # @param part [Hash] @param id [String, nil] of the choice
      # @return [Judged]
      def of(part, id = nil)
        judge(part.merge('cap' => part['base'], 'id' => id, 'kind' => part['kind'] || (part['size'] ? 'unit' : 'bulb')).compact)
      end

      # @return [Judged, nil] nil where nothing fits
      def recommended = all.find { |j| %w[fits work].include?(j.verdict) }

      private

      def judge(part)
        findings = FitRules.judge(FitRule::Pair.new(housing: @housing, part: part, winter: @winter, feed: @feed, settings: @settings,
          units: @units, catalogue: @catalogue))
        findings = [*findings, colour(part)].compact.sort_by.with_index { |f, i| [FIRST.fetch(f.verdict), i] }
        # Marks are a matter of law and hold nobody back from measuring.
        verdict = findings.reject { |f| f.rule == 'marks' }.map(&:verdict).max_by { |v| ORDER.fetch(v) }
        extra = findings.filter_map(&:part)
        Judged.new(id: part['id'], name: part['name'], kind: part['kind'], verdict: verdict, findings: findings,
          amps_figure: @draw.call(part['id']), lumens: lumens(part),
          own_minutes: own_minutes(part), minutes: Parts::Catalogue.total([own_minutes(part), *findings.map(&:minutes)]),
          own_cents: part['price_cents']&.to_i, cents: Parts::Catalogue.total([part['price_cents']&.to_i, Parts::Catalogue.cents(extra)]),
          extra_parts: extra,
          marks: part['marks'], loose: loose(part['kind']), pattern: @patterns[part['id']] || PATTERNS.fetch(part['kind']),
          reasons: reasons(part['kind'], findings))
      end

      def colour(part)
        light = Job::LampLight.new(@lamp, part).worst or return
        FitRule::Finding.new(rule: 'colour', label: 'Colour of its light', verdict: light.verdict, text: light.text, minutes: 0.0)
      end

      # What is said of the part, else what such a part usually takes.
      def own_minutes(part) = part['minutes'] || @catalogue.minutes("headlight.#{part['kind']}")

      def lumens(part) = Job::Document.rows(part, 'functions').filter_map { |f| f['lumens'] }.first

      def loose(kind)
        return 'low' unless kind == 'bulb'

        { 'clip' => 'some', 'ring' => 'low', 'screws' => 'low' }.fetch(@housing['retention'], 'high')
      end

      def reasons(kind, findings)
        stops = findings.select { |f| f.verdict == 'no' }.map { |f| "#{f.label}: #{f.text}" }
        unmeasured = findings.select { |f| f.verdict == 'unknown' && f.rule != 'marks' }.map(&:text)
        return stops if stops.any?
        return ["Not known yet: #{unmeasured.first(3).join('; ')}"] if unmeasured.any?

        work = findings.select { |f| f.verdict == 'work' }
        means = kind == 'bulb' ? 'cheap and quick; but its pattern is a gamble' : 'and brings its own optics'
        ["#{work.any? ? 'Fits with work' : 'Fits'}, #{means}"] + work.map { |f| "#{f.label}: #{f.text}" }
      end
    end
  end
end
