# frozen_string_literal: true

require_relative '../signals/cure_choice'
require_relative '../ticket/stage'

module Miser
  module Stages
    # The turn signals, solved before anything is bought.
    class SignalsStage < Stage
      declare 'signals', label: 'Signals', group: 'decide', place: 50
      reads :system, :positions, :loads, :choices, :readings, :sums, :signals, :checks, :bench, :assumptions

      # A cure by its remedies, joined with +; an empty word takes it back.
      act('cure') do |call|
        survey = call.ticket.survey
        keys = call.value.split('+')
        found = survey.ready? && survey.cures.ranked.find { |c| c.keys.sort == keys.sort }
        unless found || keys.empty?
          accepts = survey.ready? ? survey.cures.ranked.map { |c| c.keys.join('+') }.join(', ') : 'the wiring first'
          raise Stage::Unavailable.new(field: 'Cure', given: call.value, accepts: accepts)
        end
        circuit = call.ticket.budget.circuit_of(call.ticket.document.role('signal_left') || {})
        Miser::Signals::CureChoice.take(call.document, found || nil, circuit: circuit, volts: Miser::Signals::Survey::CURE_V)
      end

      # A machine without turn signals wants nothing here.
      def wants
        return [] unless document.signal_lamps?
        return survey.missing.map { |m| want(m[:at], m[:text][0].upcase + m[:text][1..]) } unless survey.ready?

        first = survey.judgement('after').problems.first
        first ? [want('/signals/remedies', first.text, weight: 'wrong')] : []
      rescue Unsolvable => e
        [want('/signals', e.message, weight: 'wrong')]
      end

      # What the cure chosen takes.
      def needs = survey.remedies.flat_map { |remedy| remedy.cost.parts.map { |item| need(item, remedy.label) } }

      def needed? = document.signal_lamps?

      def touched? = document.signal_lamps? && survey.ready?

      private

      def survey = ticket.survey
    end
  end
end
