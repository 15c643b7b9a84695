# frozen_string_literal: true

require_relative 'session'

module Miser
  module Drill
    # Whether an act can be done at a machine's bench: what it names must be there.
    class Allowed
      # Where one of these stands, another can't.
      APART = [%w[left right hazard]].freeze

      # @param machine [Machine]
      def initialize(machine)
        @machine = machine
      end

      # @param act [Act] @return [Act] as it is done
      # @raise [UnknownName]
      def check(act)
        known('act', act.kind, Session::KINDS)
        case act.kind
        when 'look' then stand(act)
        when 'read' then stand(leads(act))
        when 'open', 'shut', 'unplug', 'plug', 'bench' then lamp(act)
        when 'jumper' then jumper(act)
        when 'cure' then mending(act)
        else Act.new(kind: act.kind)
        end
      end

      private

      # Of long lists the first are named.
      NAMED = 12
      private_constant :NAMED

      def known(what, given, all)
        all.include?(given) || raise(UnknownName.new(what: what, given: given, known: all.first(NAMED) + (all.size > NAMED ? ['…'] : [])))
      end

      def stand(act)
        on = (act.on || []).uniq
        on.each { |s| known('switch', s, @machine.switches.keys) }
        APART.each { |group| raise SwitchesApart.new(switches: group & on) if (group & on).size > 1 }
        engine = act.engine || 'off'
        known('engine', engine, @machine.engine? ? ENGINES.keys : %w[off])
        # No engine runs with the key out.
        on |= ['key'] unless engine == 'off'
        Act.new(**act.to_h, on: on.sort, engine: engine)
      end

      def leads(act)
        known('quantity', act.what, @machine.quantities.keys)
        points = @machine.quantities.fetch(act.what)
        known('red lead', act.red, points)
        black = act.black || act.red
        known('black lead', black, points)
        raise LeadsApart unless @machine.areas.any? { |s| s.reads?(Act.new(kind: 'read', what: act.what, red: act.red, black: black)) }

        Act.new(kind: 'read', what: act.what, red: act.red, black: black, on: act.on, engine: act.engine)
      end

      def lamp(act)
        known('lamp', act.lamp, @machine.lights.select(&:plug).map(&:id))
        Act.new(kind: act.kind, lamp: act.lamp)
      end

      def jumper(act)
        points = @machine.points.map(&:id)
        [act.red, act.black].each { |p| known('point', p, points) }
        raise LeadBurns if short?(act.red, act.black)

        Act.new(kind: 'jumper', red: act.red, black: act.black)
      end

      # Battery to frame is no test.
      def short?(a, b) = a == b || [a, b].sort == %w[0 bat]

      def mending(act)
        known('fault', act.fault, @machine.areas.flat_map { |s| s.suspects.map(&:place_id) }.uniq)
        Act.new(kind: 'cure', fault: act.fault)
      end
    end
  end
end
