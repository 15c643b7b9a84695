# frozen_string_literal: true

require_relative 'ticket'

module Miser
  # Where a ticket stands, as plain data that can be kept: each stage's state, what it
  # wants, what is odd in it. After a change only stages that read what changed are asked
  # again.
  class Tally
    # Wants of one stage that are kept: a strip shows three.
    SHOWN = 3

    # @return [Hash{String=>Hash}] by stage: state, needed, missing (count), wants, problems
    attr_reader :stages

    # @param ticket [Ticket]
    # @param was [Hash, nil] the stages of an earlier tally
    # @param changed [Array<String>, nil] parts of the document that changed since; nil: all
    def initialize(ticket, was: nil, changed: nil)
      @stages = Stage.all.to_h do |kind|
        old = was && was[kind.key]
        [kind.key, old && !kind.reads?(changed) ? old : Tally.of(ticket.stage(kind.key))]
      end
    end

    # @param stage [Stage]
    # @return [Hash]
    def self.of(stage)
      wants = stage.wants
      { 'state' => stage.state(wants), 'needed' => stage.needed?, 'missing' => wants.size, 'wants' => first(wants).map { |w| w.to_h.compact.transform_keys(&:to_s) },
        'problems' => stage.problems.map { |p| p.to_h.transform_keys(&:to_s) } }
    end

    # The most worthwhile first, so that the next step of all is among those kept.
    def self.first(wants) = wants.each_with_index.sort_by { |w, i| [*w.rank, i] }.map(&:first).first(SHOWN)
    private_class_method :first

    # @return [Hash, nil] the one next step
    def next_step = wants.then { |list| Verdicts::NextStep.among(list) }&.then { |w| w.to_h.compact.transform_keys(&:to_s) }

    # @return [Array<Want>] those kept, in the order of the work
    def wants = Stage.all.flat_map { |kind| stages[kind.key]['wants'] }.map { |w| Want.new(**w.transform_keys(&:to_sym)) }

    # @return [Array<Hash>] at, level, message, accepts
    def problems = Stage.all.flat_map { |kind| stages[kind.key]['problems'] }
  end
end
