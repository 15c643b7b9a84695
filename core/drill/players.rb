# frozen_string_literal: true

require_relative 'session'

module Miser
  module Drill
    # Who plays by himself. Each is asked for his next acts and sees what the session tells.
    module Players
      # Does what is expected to cost least.
      class Best
        # @param session [Session]
        def initialize(session)
          @session = session
        end

        # @return [Array<Act>]
        def acts
          move = @session.best_move
          return [Act.new(kind: 'cure', fault: move.place_id)] unless move.is_a?(Case::Test)

          move.acts + tidy(move.acts)
        end

        private

        # Leaves the bench as it was.
        def tidy(acts)
          acts.filter_map do |a|
            back = { 'unplug' => 'plug', 'open' => 'shut', 'jumper' => 'lift' }[a.kind]
            back && Act.new(kind: back, lamp: a.lamp)
          end
        end
      end

      # Changes what fails oftenest, one after the other, until it is well: what is done where nobody measures.
      class Naive
        # @param session [Session]
        def initialize(session)
          @session = session
          @order = session.exercise.cases.flat_map { |c| c.mendings.map { |s| [-c.weight_of(s.place_id), s.place_id] } }.sort.map(&:last)
        end

        def acts = [Act.new(kind: 'cure', fault: @order.shift)]
      end

      BY_KEY = { 'best' => Best, 'naive' => Naive }.freeze

      module_function

      # Plays to the end.
      # @param session [Session] @param key [String] of BY_KEY @return [Session]
      def play(session, key)
        player = BY_KEY.fetch(key).new(session)
        player.acts.each { |a| session.do(a) unless session.ended? } until session.ended?
        session
      end
    end
  end
end
