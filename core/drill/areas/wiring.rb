# frozen_string_literal: true

require_relative '../../wiring/fault'
require_relative 'area'

module Miser
  module Drill
    # Lamps and accessories with their feeds.
    class WiringArea < Area
      declare 'wiring', 'Lamps and accessories'

      # What a look is called on every machine.
      LOOKS = { 'off' => 'dark', 'ghost' => 'ghost', 'dim' => 'dim', 'on' => 'steady', 'flash' => 'flashes', 'unknown' => 'dark' }.freeze
      # Where a load's plug is reached, by its place; all else at the load itself.
      REACHED = { 'head' => 'front', 'tail' => 'rear' }.freeze

      # @param scheme [Wiring::Scheme] @param but [Array<String>] loads that belong to another area
      def initialize(scheme, but: [])
        super()
        @scheme = scheme
        @but = but
        @solved = {}
      end

      def switches = @switches ||= @scheme.switches.all.to_h { |s| [s.key, s.label] }

      def lights = @lights ||= consumers.map { |c| Light.new(id: c.id, name: c.name, place: place(c), plug: true, lamp: shines?(c)) }

      def shines?(consumer) = consumer.lamp? || Job::Roles.named(consumer.role).group == 'lamp'

      def points
        @points ||= [Point.new(id: 'bat', name: 'Battery +', at: 'seat'), Point.new(id: '0', name: 'Battery −'), *lines,
          *consumers.flat_map { |c| ends(c) }, *boxes]
      end

      # What is pulled or bridged at a load says nothing of the others.
      def tests_among(suspects)
        here = suspects.map { |s| s.fault.target }
        everywhere + consumers.select { |c| here.include?(c.id) }.flat_map { |c| of_load(c) }
      end

      def chains = everywhere + consumers.flat_map { |c| of_load(c) }

      def everywhere
        ends = points.map(&:id) - ['0']
        @everywhere ||= [*riding.map { |on| [look(on)] }, *riding.reject(&:empty?).product(ends).map { |on, p| [volts(on, p, '0')] }]
      end

      # From its source through the load; where it is the coil, through that.
      def way(suspect)
        fault = suspect.fault
        c = consumers.find { |x| x.id == fault.target } || consumers.find { |x| concerns?(x, fault) } || consumers.first
        feed = c.feed
        if %w[coil trigger coil_earth].include?(fault.kind.key)
          return named(['bat', 'k', "l_#{feed.trigger}", c.part('n86_'), c.part('n85_'),
            '0'])
        end

        source = feed ? feed.source : c.line
        start = source == 'battery' || feed&.kind&.relay? ? [] : ['k', "l_#{source}"]
        box = feed&.device ? @scheme.devices.index { |d| d.equal?(feed.device) }.then { |i| ["dfused#{i}", "d#{i}"] } : []
        named(['bat', *start, *box, c.part('fused'), c.part('n30_'), c.part('n87_'), c.part('c'), c.part('e'), '0'])
      end

      # States that somebody rides with.
      def riding
        @riding ||= begin
          rest = @scheme.switches.keys - %w[key lights left right horn]
          usual = @scheme.switches.keys & %w[key lights]
          [[], ['key'], usual, *rest.map { |s| [*usual, s] }].uniq
        end
      end

      def lamp_at(lamp) = consumers.find { |c| c.id == lamp }&.then { |c| reached(c) }

      def bench(suspects, lamp)
        c = consumers.find { |x| x.id == lamp } or return
        !hurt(suspects, State.new).dead.include?(c.id)
      end

      private

      def consumers = @consumers ||= @scheme.known.reject { |c| @but.include?(c.id) }

      def faults = Wiring::Fault.all_in(@scheme, but: @but)

      def concerns?(consumer, fault)
        feed = consumer.feed
        [feed&.source, feed&.trigger, consumer.line, feed&.device&.fetch('id')].include?(fault.target)
      end

      def place(c) = c.feed&.at || @scheme.places.of(c.row)

      def reached(c) = REACHED[place(c)] || "load:#{c.id}"

      def cure_at(fault)
        case fault.kind.at
        when :consumer then fault.kind.key == 'blown' ? 'seat' : reached(consumers.find { |c| c.id == fault.target })
        when :relay, :device then 'seat'
        else 'front'
        end
      end

      def lines
        keys = consumers.flat_map { |c| c.feed ? [c.feed.source, c.feed.trigger] : [c.line] }.compact.uniq
        found = keys.filter_map { |k| Feeds::Lines::BY_KEY[k] }.reject { |l| l.hot? || l.flashes? }
        [['k', 'Key switch: out'], *found.map { |l| ["l_#{l.key}", upper(l.label)] }].map { |id, name| Point.new(id: id, name: name, at: 'front') }
      end

      def upper(text) = text[0].upcase + text[1..]

      # Its contacts, its relay's terminals, its fuse.
      def ends(c)
        at = reached(c)
        feed = c.feed
        list = [Point.new(id: c.part('c'), name: "#{c.name}: feed", at: at)]
        list << Point.new(id: c.part('e'), name: "#{c.name}: earth", at: at) if feed&.wire_named('earth')
        list << Point.new(id: c.part('fused'), name: "#{c.name}: behind its fuse", at: 'seat') if feed&.fuse_a && !feed.kind.device?
        if feed&.kind&.relay?
          list.concat([30, 87, 86, 85].map do |n|
            Point.new(id: c.part("n#{n}_"), name: "#{c.name}: relay #{n}",
              at: 'seat')
          end)
        end
        list
      end

      def boxes
        @scheme.devices.each_with_index.flat_map do |row, i|
          name = row['name'] || 'Box'
          [Point.new(id: "d#{i}", name: "#{name}: supply", at: 'seat'), Point.new(id: "de#{i}", name: "#{name}: earth", at: 'seat'),
            *(row['fuse_a'] ? [Point.new(id: "dfused#{i}", name: "#{name}: behind its fuse", at: 'seat')] : [])]
        end
      end

      def of_load(c) = (@of_load ||= {})[c.id] ||= pulled_and_bridged(c)

      def pulled_and_bridged(c)
        on = riding.find { |s| looks([], State.new(on: s))[c.id] != 'dark' } || riding.last
        leads = [[c.part('e'), '0'], ['bat', c.part('c')]].select { |pair| pair.all? { |p| here?('volts', p) } }
        [[Act.new(kind: 'bench', lamp: c.id)], [Act.new(kind: 'unplug', lamp: c.id), volts(on, c.part('c'), '0')],
          *leads.map { |a, b| [Act.new(kind: 'jumper', red: a, black: b), look(on)] }]
      end

      def hurt(suspects, state)
        all = suspects.map { |s| s.fault.hurt }.reduce(Wiring::Hurt::NONE, :+)
        gone = state.empty & consumers.map(&:id)
        all += Wiring::Hurt.new(dead: gone) if gone.any?
        all += Wiring::Hurt.new(joins: [[*state.jumper, Signals::LoopCircuit::JUMPER_OHM]]) if state.jumper&.all? { |p| here?('volts', p) }
        all
      end

      # Signals are another's: they are off here.
      def view(suspects, state)
        on = @scheme.switches.state(state.on) - %w[left right]
        kept(:view, suspects, on, state.empty, state.jumper, state.running?) do
          still = on.include?('key') && !state.running?
          Wiring::Look.new(@scheme, on, cache: @solved, hurt: hurt(suspects, state), volts: still ? Volts::REST : nil)
        end
      end

      def seen(suspects, state) = view(suspects, state).seen.slice(*consumers.map(&:id)).transform_values { |s| LOOKS.fetch(s.looks) }

      def measured(suspects, state, _what, red, black) = view(suspects, state).on.volts(red, black)

      # In each of the riding states, against how it was.
      def found_signs(suspects)
        signs = riding.flat_map do |on|
          is = looks(suspects, State.new(on: on))
          was = looks([], State.new(on: on))
          changed = is.reject { |id, l| l == was[id] }
          [*changed.filter_map { |id, l| sign(id, was[id], l, on) },
            *(changed.count { |id, l| l == 'dark' && was[id] == 'steady' } >= MANY ? [Sign.new('many', nil)] : [])]
        end
        signs.uniq
      end

      # So many dark at once are “everything”.
      MANY = 3
      private_constant :MANY

      def sign(id, was, is, on)
        return Sign.new('dark', id) if is == 'dark' && %w[steady flashes].include?(was)
        return Sign.new('weak', id) if %w[dim ghost].include?(is) && was == 'steady'

        Sign.new(on.include?('key') ? 'wrongly_on' : 'stays', id) if was == 'dark'
      end
    end
  end
end
