# frozen_string_literal: true

require_relative '../../core/miser'

module Miser
  # Takes a machine out of the door as a shop does: every lamp decided, every open point answered for.
  module HandedOver
    module_function

    # @param document [Hash] @param at [String] an instant @param ticket [#call] makes a Ticket
    # @return [Hash]
    def out(document, at: '2026-03-01T12:00:00Z', ticket: Ticket.method(:new))
      ids = (1..).each
      decided = document['choices'].map { |c| c['position_id'] }
      kept = document['positions'].reject { |p| decided.include?(p['id']) }.map do |p|
        { 'id' => "k#{ids.next}", 'position_id' => p['id'],
          'action' => 'keep' }
      end
      whole = document.merge('choices' => document['choices'] + kept)
      open = Verdicts::LeftOpen.new(ticket.call(whole)).unanswered
      answered = whole.merge('left_open' => (document['left_open'] || []) + open.map do |p|
        { 'id' => "o#{ids.next}", 'point' => p.key,
          'reason' => 'agreed' }
      end)
      act(answered, 'hand_over', at: at, ticket: ticket)
    end

    # @return [Hash] document
    def act(document, name, value = '', at: '2026-03-01T12:00:00Z', ticket: Ticket.method(:new))
      @fresh = (@fresh || 0) + 1
      ids = (1..).each
      Stage.any_act(name).call(Stage::Call.new(ticket: ticket.call(document), document: document, value: value, now: at,
        fresh_id: -> { "f#{@fresh}x#{ids.next}" }))
    end
  end
end
