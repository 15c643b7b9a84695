# frozen_string_literal: true

require_relative '../assumptions'
require_relative '../job/document'
require_relative '../draw/driver'
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
      Judged = Struct.new(:id, :name, :kind, :verdict, :findings, :amps_figure, :lumens, :minutes, :cents, :extra_parts, :marks, :loose,
        :pattern, :reasons, :document, keyword_init: true) do
        def amps = amps_figure.value

        # @param name [String] amps, or a rule's key
        # @return [Figure, nil]
        def figure(name) = name == 'amps' ? amps_figure : findings.find { |f| f.rule == name }&.spare
      end

      SCHOOLS = { 'unit' => 0, 'projector' => 1, 'bulb' => 2 }.freeze
      LABELS = { 'bulb' => 'bulb in the old reflector', 'unit' => 'whole unit', 'projector' => 'projector unit' }.freeze
      PATTERNS = { 'bulb' => 'often poor: the reflector was ground for a filament', 'unit' => 'its own optics',
                   'projector' => 'clean cut-off' }.freeze
      # Sizes drawn where nobody measured them, as ghosts: nominal, common practice.
      GHOSTS = { 'hole_m' => 0.0375, 'body_m' => 0.036, 'tip_m' => 0.006 }.freeze
      ORDER = { 'fits' => 0, 'work' => 1, 'unknown' => 2, 'no' => 3 }.freeze

      # Findings: what needs a hand or a decision first.
      FIRST = { 'no' => 0, 'work' => 1, 'unknown' => 2, 'fits' => 3 }.freeze

      # @param entered [Hash] the job's headlight: housing, candidates
      # @param machine [Hash] @param volts [Float] running
      # @param feed [String] what feeds the lamp after the change: dc, ac, bus
      # @param settings [Assumptions] @param units [String] metric or us
      # @param patterns [Hash{String=>String}] what its photometry foretells, by part
      # @param catalogue [Parts::Catalogue] what the work costs
      def initialize(entered, machine, volts, feed: 'dc', settings: Assumptions.new, units: 'metric', patterns: {},
                     catalogue: Parts::Catalogue::NONE)
        @housing = Job::Document.part(entered, 'housing').merge('year' => machine['year']).compact
        @parts = Job::Document.rows(entered, 'candidates')
        @winter = machine['kind'] == 'snowmobile'
        @volts = volts
        @feed = feed
        @settings = settings
        @units = units
        @patterns = patterns
        @catalogue = catalogue
      end

      # @return [Boolean] whether it is ridden in snow, by its kind
      def winter? = @winter

      # @return [Array<Judged>] the recommended first
      def all
        @all ||= @parts.map { |p| judge(p) }.sort_by { |j| [ORDER.fetch(j.verdict), SCHOOLS.fetch(j.kind), j.cents || Float::INFINITY] }
      end

      # @return [Judged, nil] nil where nothing fits
      def recommended = all.find { |j| %w[fits work].include?(j.verdict) }

      private

      def judge(part)
        findings = FitRules.judge(FitRule::Pair.new(housing: @housing, part: part, winter: @winter, feed: @feed, settings: @settings,
          units: @units, catalogue: @catalogue)).sort_by.with_index do |f, i|
          [
            FIRST.fetch(f.verdict), i
          ]
        end
        # Marks are a matter of law and hold nobody back from measuring.
        verdict = findings.reject { |f| f.rule == 'marks' }.map(&:verdict).max_by { |v| ORDER.fetch(v) }
        extra = findings.filter_map(&:part)
        Judged.new(id: part['id'], name: part['name'], kind: part['kind'], verdict: verdict, findings: findings,
          amps_figure: running_amps(part), lumens: part['lumens'],
          minutes: Parts::Catalogue.total([@catalogue.minutes("headlight.#{part['kind']}"), *findings.map(&:minutes)]),
          cents: Parts::Catalogue.total([part['price_cents']&.to_i, Parts::Catalogue.cents(extra)]), extra_parts: extra,
          marks: part['marks'], loose: loose(part['kind']), pattern: @patterns[part['id']] || PATTERNS.fetch(part['kind']),
          reasons: reasons(part['kind'], findings),
          document: { 'amps_v' => @settings[:stated_v] }.merge(part))
      end

      # A driver holds its watts: fewer volts, more amps.
      # @return [Figure]
      def running_amps(part)
        return Figure.unknown('A', 'enter what it draws') unless part['amps']

        stated = part['amps_v'] || @settings[:stated_v]
        Figure.new(Draw::Driver.new(volts: stated, amps: part['amps']).current(@volts), 'A', assumed: part['amps_v'].nil?) do
          rows = [['Draw as stated', part['amps'], 'A', 'maker'], *(part['amps_v'] ? [['at', stated, 'V', 'maker']] : []),
            ['Running volts', @volts, 'V', 'the machine’s budget']]
          inputs = rows.map { |n, v, u, o| Input.new(name: n, value: v, unit: u, origin: o) }
          inputs << @settings.input(:stated_v) unless part['amps_v']
          Working.new(title: "#{part['name']} at running volts", formula: 'I = P / V', inputs: inputs,
            source: 'a switching driver holds its watts', notes: [])
        end
      end

      def loose(kind)
        return 'low' unless kind == 'bulb'

        { 'clip' => 'some', 'ring' => 'low', 'screws' => 'low' }.fetch(@housing['retention'], 'high')
      end

      def reasons(kind, findings)
        stops = findings.select { |f| f.verdict == 'no' }.map { |f| "#{f.label}: #{f.text}" }
        unmeasured = findings.select { |f| f.verdict == 'unknown' && f.rule != 'marks' }.map(&:text)
        return stops if stops.any?
        return ["Not known yet: #{unmeasured.first(3).join('; ')}"] if unmeasured.any?

        [kind == 'bulb' ? 'Fits, cheap and quick; but its pattern is a gamble' : 'Fits, and brings its own optics'] +
          findings.select { |f| f.verdict == 'work' }.map { |f| "#{f.label}: #{f.text}" }
      end
    end
  end
end
