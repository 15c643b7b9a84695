# frozen_string_literal: true

require_relative '../verdicts/cautions'
require_relative 'step'

module Miser
  module Card
    # What a card is made of: each kind of block says its steps. A new kind is a new class and nothing else changes.
    class Block
      # What steps wait for and give beside their own keys.
      POWER_OFF = 'power off'
      POWER_ON = 'power on'
      SEEN = 'seen as it came in'
      JOINED = 'joints made'
      TRIED = 'tried while open'
      CLOSED = 'closed'

      REGISTRY = [] # rubocop:disable Style/MutableConstant -- filled by the blocks as they load

      def self.inherited(kind)
        super
        REGISTRY << kind
      end

      # @param plan [Work] what is to be done on this machine
      def initialize(plan)
        @plan = plan
      end

      # @return [Array<Step>]
      def steps = []

      private

      def ticket = @plan.ticket
      def document = ticket.document

      def caution(*keys) = keys.map { |key| Verdicts::Cautions::TABLE.fetch(key) }

      def why(stage, text, subject: nil) = { stage: stage, subject: subject, text: text }

      # Steps one after the other: each waits for the one before, beside what it says itself.
      def chain(steps)
        steps.each_cons(2) { |before, step| step.needs = step.needs + [before.key] }
        steps
      end

      # Shares of some minutes, by weight. @return [Array<Float, nil>]
      def shared(minutes, weights)
        return weights.map { nil } unless minutes

        weights.map { |w| minutes * w / weights.sum.to_f }
      end
    end
  end
end
