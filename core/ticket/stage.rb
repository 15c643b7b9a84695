# frozen_string_literal: true

require_relative '../errors'
require_relative '../buying/need'
require_relative 'want'

module Miser
  # A stage of the ticket. It declares what it is and what of the document it reads, and
  # says what it wants, whether it was touched, whether a change upstream overtook it.
  # A new stage is a new file in core/stages; nothing else knows it by name.
  class Stage
    # What an act has to go by.
    # @!attribute document [Hash] as kept @!attribute value [String] as sent
    # @!attribute fresh_id [#call] @!attribute now [String] UTC, ISO 8601
    Call = Struct.new(:ticket, :document, :value, :fresh_id, :now, keyword_init: true)

    # What was asked of an act is not to be had. facts: field, given, accepts (words)
    class Unavailable < DomainError
      def words = "“#{self[:given].to_s[0, 60]}” is not known"
      def field = self[:field]
      def accepts = self[:accepts]
    end

    # An act that waits for something. facts: field, why, accepts (words)
    class NotYet < Unavailable
      def words = self[:why]
    end

    GROUPS = { 'look' => 'Look', 'decide' => 'Decide', 'buy' => 'Buy', 'do' => 'Do', 'over' => 'Hand over' }.freeze
    REGISTRY = {} # rubocop:disable Style/MutableConstant -- filled by the stages as they load

    class << self
      attr_reader :key, :label, :group, :place, :kinds

      # @param key [String] @param label [String]
      # @param group [String] of GROUPS @param place [Integer] in the order of the work
      def declare(key, label:, group:, place:)
        @key = key
        @label = label
        @group = group
        @place = place
        @kinds = []
        @acts = {}
        REGISTRY[key] = self
      end

      # Parts of the document that decide what it wants, touches and finds wrong.
      # @param keys [Array<Symbol>] none: all of it
      def reads(*keys) = @reads = keys.map(&:to_s)

      # @param changed [Array<String>, nil] parts of the document; nil: all
      # @return [Boolean] whether they bear on it
      def reads?(changed) = changed.nil? || @reads.nil? || @reads.any? { |key| changed.include?(key) }

      # First words of the ids of figures that it answers for.
      def figures(*kinds) = @kinds = kinds.map(&:to_s)

      # A larger change than an edit.
      # @yieldparam call [Call] @yieldreturn [Hash] the new document
      def act(name, &block) = @acts[name] = block

      def acts = @acts.keys

      # @return [Proc, nil]
      def act_named(name) = @acts[name]

      # @return [Array<Class>] in the order of the work
      def all = REGISTRY.values.sort_by(&:place)

      # @return [Proc, nil] of whichever stage has it
      def any_act(name) = all.filter_map { |stage| stage.act_named(name) }.first
    end

    attr_reader :ticket

    # @param ticket [Ticket]
    def initialize(ticket)
      @ticket = ticket
    end

    def key = self.class.key
    def label = self.class.label

    # @return [Array<Want>]
    def wants = []

    # @return [Array<Verdicts::Consistency::Problem>] what is odd at its fields
    def problems = []

    # @return [Array<Buying::Need>] what must be had for what was decided here, and why
    def needs = []

    # @return [Boolean] whether this machine has anything for it; nothing is locked where it has not
    def needed? = true

    # @return [Boolean] whether anything was done here
    def touched? = false

    # @return [Boolean] whether something upstream has overtaken it
    def stale? = false

    # A figure by the rest of its id.
    # @return [Figure, nil]
    def figure(_kind, *_rest) = nil

    # @param wants [Array<Want>] its own
    # @return [String] empty, part, done, stale
    def state(wants = self.wants)
      return 'stale' if stale?
      return 'empty' unless touched?

      wants.empty? ? 'done' : 'part'
    end

    private

    def document = ticket.document
    def budget = ticket.budget

    def why(text, pieces, subject: nil) = Buying::Why.new(stage: key, subject: subject, text: text, pieces: pieces)

    def need(item, text, subject: nil) = Buying::Need.item(item, why(text, item.count, subject: subject))

    def want(at, text, weight: 'usual', **rest) = Want.new(stage: key, at: at, text: text, weight: weight, **rest)
  end
end
