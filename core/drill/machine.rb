# frozen_string_literal: true

require_relative '../signals/survey'
require_relative '../wiring/survey'
require_relative 'areas'

module Miser
  module Drill
    # A machine at the drill's bench: every part of it that is known well enough to be solved, as it should be.
    class Machine
      # What of a job it rests on: all else of a document is nobody's business here.
      RESTS_ON = %w[format version id name system machine circuits bench positions loads readings choices scenarios assumptions
        signals wiring checks].freeze
      # Loads that the signals' circuit has.
      SHARED = %w[tail brake].freeze

      attr_reader :name, :document

      # @param document [Hash, Job::Document] of a job
      # @param side [String, nil] before or after: its signals as they are there, whether they do what they should or not; nil: after
      #   the change where they do, else as it came in
      def initialize(document, side: nil)
        @document = Job::Document.of(document)
        @side = side
        @budget = Budget::Budget.new(@document)
        @name = @document.hash_as_given['name']
      end

      # @return [Array<Area>]
      def areas = @areas ||= [signals, wiring, charging, fit].compact.select { |a| a.settles?([]) }

      def area(key) = areas.find { |s| s.key == key }

      # @return [Hash{String=>String}] every switch, by key
      def switches
        @switches ||= begin
          found = areas.map(&:switches).reduce({ 'key' => 'key', 'lights' => 'lights' }, :merge)
          found.slice(*ORDER).merge(found)
        end
      end

      # @return [Array<Light>]
      def lights = @lights ||= areas.flat_map(&:lights)

      # @return [Hash{String=>Array<String>}] points by what can be read there
      def quantities = @quantities ||= areas.map(&:quantities).reduce { |a, b| a.merge(b) { |_, x, y| x | y } }

      # A point of two areas is one point.
      # @return [Array<Point>]
      def points = @points ||= areas.flat_map(&:points).uniq(&:id)

      # @return [Area, nil] whose suspect that is
      def of(suspect_id) = area(suspect_id.to_s.split('/').first)

      # @param id [String] of a suspect, or of its place @return [Suspect, nil]
      def suspect(id)
        all = of(id)&.suspects || []
        all.find { |s| s.id == id } || all.find { |s| s.place_id == id }
      end

      # Where the engine can be run at the bench.
      def engine? = !area('charging').nil?

      private

      ORDER = %w[key lights high left right hazard brake].freeze
      private_constant :ORDER

      def survey = @survey ||= Signals::Survey.new(@budget)

      def signals
        return @signals if defined?(@signals)
        return @signals = nil unless @document.signal_lamps? && survey.ready?

        side = @side || %w[after before].find { |s| survey.judgement(s).works? }
        @signals = side && SignalArea.new(survey.harness(side), survey.thresholds)
      rescue Unsolvable
        @signals = nil
      end

      def wiring
        scheme = Wiring::Survey.new(@budget).scheme
        return if scheme.known.empty?

        WiringArea.new(scheme, but: signalling(scheme.consumers).map(&:id))
      end

      # What the signals' circuit has: of several tails or brakes the first.
      def signalling(consumers)
        own = consumers.select { |c| c.role.start_with?('signal_') || c.role == 'telltale' }
        signals.nil? ? own : own + consumers.select { |c| SHARED.include?(c.role) }.uniq(&:role)
      end

      def charging
        ledger = @budget.ledgers('after').values.find { |l| l.circuit.dc? }
        ChargingArea.new(ledger, @budget.scenarios) if ChargingArea.fits?(ledger, @budget.scenarios)
      end

      def fit = @document.headlamps.any? ? FitArea.new : nil
    end
  end
end
