# frozen_string_literal: true

require_relative 'suspect'

module Miser
  module Drill
    # What is done at the bench, in words.
    module Words
      WHAT = { 'volts' => 'Volts', 'ac_volts' => 'Volts AC', 'amps' => 'Amps', 'wall' => 'At the wall', 'seat' => 'At the seat' }.freeze

      # What is read between two points; all else at one.
      TWO_LEADS = %w[volts ac_volts].freeze

      module_function

      # @param act [Act] @param state [State] in which it is done @param machine [Machine]
      # @return [String]
      def act(act, state, machine)
        case act.kind
        when 'look' then "Look round: #{standing(state, machine)}"
        when 'read' then "#{reading(act, machine)}; #{standing(state, machine)}"
        when 'jumper' then "Lead from #{point(act.red, machine)} to #{point(act.black, machine)}"
        when 'lift' then 'Lead taken off'
        when 'cure' then machine.suspect(act.fault).then { |s| "Mend “#{s.label}”: #{s.cure}" }
        when 'hint' then 'Asked somebody'
        when 'give_up' then 'Gave up'
        else "#{LAMPS.fetch(act.kind)} #{machine.lights.find { |l| l.id == act.lamp }&.name}"
        end
      end
      LAMPS = { 'open' => 'Open the housing of', 'shut' => 'Shut the housing of', 'unplug' => 'Unplug', 'plug' => 'Plug in again:',
                'bench' => 'Straight on the battery:' }.freeze

      def reading(act, machine)
        ends = [act.red, act.black].uniq.map { |p| point(p, machine) }
        "#{WHAT.fetch(act.what)}, #{ends.join(' to ')}"
      end

      # @param move [Case::Test, Suspect] @return [String] what somebody who knows would do
      def move(move, machine)
        return "Mend “#{move.label}”: #{move.cure}" unless move.is_a?(Case::Test)

        state = State.new
        move.acts.map { |a| act(a, state = Case.step(state, a), machine) }.join('; then ')
      end

      # What an answer would have left.
      # @param suspects [Array<Suspect>] @return [String]
      def left(suspects)
        names = suspects.map(&:label).uniq
        [*names.first(NAMED), *(names.size > NAMED ? ["#{names.size - NAMED} more"] : [])].join(' · ')
      end
      NAMED = 4

      def point(id, machine) = machine.points.find { |p| p.id == id }&.name || id

      def standing(state, machine)
        on = machine.switches.slice(*machine.switches.keys.select { |k| state.on?(k) }).values
        [on.empty? ? 'everything off' : on.join(', '), *(state.running? ? [ENGINES.fetch(state.engine)] : []),
          *(state.empty.any? ? ["unplugged: #{state.empty.filter_map { |id| machine.lights.find { |l| l.id == id }&.name }.join(', ')}"] : []),
          *(state.jumper ? ["lead #{state.jumper.map { |p| point(p, machine) }.join(' to ')}"] : [])].join(', ')
      end
    end
  end
end
