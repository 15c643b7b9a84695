# frozen_string_literal: true

require_relative '../plan/work'
require_relative '../ticket/stage'

module Miser
  module Stages
    # Everything weighed against everything, before anything is bought.
    class PlanStage < Stage
      declare 'plan', label: 'Plan', group: 'decide', place: 67
      reads :plan

      # A plan taken: every choice at once. See Miser::Plan::Taking for how it is written.
      act('plan_take') do |call|
        words = Miser::Plan::Taking.read(call.value)
        taken = Miser::Plan::Taking.new(call.ticket, call.ticket.market.parts, call.fresh_id).apply(words)
        taken.merge('plan' => (taken['plan'] || {}).merge('taken' => call.value))
      rescue Miser::Plan::Taking::Unknown => e
        raise Stage::Unavailable.new(field: e.field, given: e.given, accepts: e.accepts)
      end

      def touched? = document.own('plan').any?
    end
  end
end
