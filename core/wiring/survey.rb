# frozen_string_literal: true

require_relative 'box_faults'
require_relative 'needs'
require_relative 'rules'
require_relative 'shorts'
require_relative '../length'

module Miser
  module Wiring
    # The wiring of a job as it is looked at: the scheme, its table, what is found wrong.
    class Survey
      attr_reader :scheme, :truth

      # @param budget [Budget::Budget] @param catalogue [Parts::Catalogue] @param units [String]
      def initialize(budget, catalogue: Parts::Catalogue::NONE, units: 'metric')
        @scheme = Scheme.new(budget, catalogue: catalogue, units: units)
        @truth = Truth.new(@scheme)
      end

      # @return [Needs]
      def needs = @needs ||= Needs.new(scheme)

      # @return [Array<Shorts::Short>]
      def shorts = @shorts ||= Shorts.new(scheme).all

      # @return [Array<Finding>] the red first
      def findings
        @findings ||= Rule::REGISTRY.values.flat_map { |rule| rule.new(truth).findings }
                                    .each_with_index.sort_by { |f, i| [Rule::SEVERITIES.keys.index(f.severity), i] }.map(&:first)
      end

      # @return [Array<Finding>] red ones about what somebody decided on
      def red = findings.select { |f| f.red? && decided?(f) }

      # @return [Array<Consumer>] that nobody decided on a feed for
      def undecided = scheme.altered.reject(&:decided?)

      # @return [Boolean] whether anything was decided
      def begun? = Job::Document.rows(scheme.wiring, 'feeds').any?

      # @param key [String] @return [Finding, nil]
      def finding(key) = findings.find { |f| f.key == key }

      private

      def decided?(finding)
        consumer = finding.subject && scheme.consumer_of(finding.subject)
        consumer.nil? || consumer.decided?
      end
    end
  end
end
