# frozen_string_literal: true

require_relative '../signals/survey'
require_relative '../wiring/survey'
require_relative 'systems'

module Miser
  module Drill
    # A machine at the drill's bench: every part of it that is known well enough to be solved, as it should be.
    class Machine
      # Loads that the signals' circuit has.
      SHARED = %w[tail brake].freeze

      attr_reader :name, :document

      # @param document [Hash, Job::Document] of a job
      def initialize(document)
        @document = Job::Document.of(document)
        @budget = Budget::Budget.new(@document)
        @name = @document.hash_as_given['name']
      end

      # @return [Array<System>]
      def systems = @systems ||= [signals, wiring, charging, fit].compact

      def system(key) = systems.find { |s| s.key == key }

      # @return [Hash{String=>String}] every switch, by key
      def switches
        @switches ||= begin
          found = systems.map(&:switches).reduce({ 'key' => 'key', 'lights' => 'lights' }, :merge)
          found.slice(*ORDER).merge(found)
        end
      end

      # @return [Array<Light>]
      def lights = @lights ||= systems.flat_map(&:lights)

      # @return [Hash{String=>Array<String>}] points by what can be read there
      def quantities = @quantities ||= systems.map(&:quantities).reduce { |a, b| a.merge(b) { |_, x, y| x | y } }

      # A point of two systems is one point.
      # @return [Array<Point>]
      def points = @points ||= systems.flat_map(&:points).uniq(&:id)

      # @return [System, nil] whose suspect that is
      def of(suspect_id) = system(suspect_id.to_s.split('/').first)

      # @param id [String] of a suspect, or of its place @return [Suspect, nil]
      def suspect(id) = of(id)&.suspects&.find { |s| s.id == id || s.place_id == id }

      # Where the engine can be run at the bench.
      def engine? = !system('charging').nil?

      private

      ORDER = %w[key lights high left right hazard brake].freeze
      private_constant :ORDER

      def survey = @survey ||= Signals::Survey.new(@budget)

      # As it is after the change where that works, else as it came in.
      def signals
        return unless @document.signal_lamps? && survey.ready?

        side = %w[after before].find { |s| survey.judgement(s).works? } or return
        SignalSystem.new(survey.harness(side), survey.thresholds)
      rescue Unsolvable
        nil
      end

      def wiring
        scheme = Wiring::Survey.new(@budget).scheme
        return if scheme.known.empty?

        WiringSystem.new(scheme, but: scheme.consumers.select { |c| others?(c) }.map(&:id))
      end

      def others?(consumer)
        role = consumer.role
        role.start_with?('signal_') || role == 'telltale' || (@signals_known ||= survey.ready?) && SHARED.include?(role)
      end

      def charging
        ledger = @budget.ledgers('after').values.find { |l| l.circuit.dc? }
        ChargingSystem.new(ledger, @budget.scenarios) if ChargingSystem.fits?(ledger, @budget.scenarios)
      end

      def fit = @document.headlamps.any? ? FitSystem.new : nil
    end
  end
end
