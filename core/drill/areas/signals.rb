# frozen_string_literal: true

require_relative '../../signals/diagnosis'
require_relative 'area'

module Miser
  module Drill
    # Turn signals, tell-tale, and what shares an earth with them.
    class SignalArea < Area
      declare 'signals', 'Turn signals'

      SWITCHES = { 'left' => 'left', 'right' => 'right', 'hazard' => 'hazard', 'brake' => 'brake' }.freeze
      # Lamps that are lit by none of these lie with the switch they hang on.
      RIDING = %w[key lights].freeze
      FLASHER_AT = { 'dead_flasher' => 'seat', 'stuck' => 'seat', 'wrong_flasher' => 'seat', 'crossed' => 'seat', 'unearthed' => 'seat',
                     'leaky' => 'seat', 'fuse' => 'seat', 'feed' => 'seat', 'lamp_test' => nil, 'switch' => 'front', 'side_feed' => 'front',
                     'telltale' => 'front', 'bridge' => 'front' }.freeze

      # @param harness [Signals::Harness] as it should be @param thresholds [Hash]
      def initialize(harness, thresholds)
        super()
        @harness = harness
        @thresholds = thresholds
      end

      def switches = @harness.states.include?('brake') ? SWITCHES : SWITCHES.except('brake')

      def lights
        @lights ||= [*@harness.lamps.map { |l| signal(l) }, *dash,
          *@harness.light_names.map { |id, name| Light.new(id: id, name: name, place: place_of(id), plug: false) }]
      end

      def points
        @points ||= [Point.new(id: 'bat', name: 'Battery +', at: 'seat'), Point.new(id: '0', name: 'Battery −'),
          Point.new(id: 'fused', name: 'Signal fuse: behind it', at: 'seat'), *plug,
          *%w[left right].map { |s| Point.new(id: "#{s}_switch", name: "Signal switch: #{s} out", at: 'front') },
          *@harness.lamps.flat_map { |l| contacts(l) }]
      end

      def remarks(suspects, state)
        view = view(suspects, state) or return []
        said = []
        said << 'The fuse blows as soon as it is commanded; a new one goes in.' if view.fuse_blows?
        said << rate(view) unless view.idle? || view.fuse_blows?
        said << 'The tell-tale alone goes fast.' if view.telltale_fast?
        said.compact
      end

      def bench(suspects, lamp)
        spot = @harness.lamp(lamp) or return
        !faulted(suspects, State.new).lamp(spot.id).dead
      end

      def lamp_at(lamp) = @harness.lamp(lamp) && "lamp:#{lamp}"

      # From the battery through the lamp concerned, or the first of its side.
      def way(suspect)
        target = suspect.fault.target
        lamp = @harness.lamp(target) || @harness.lamps.find { |l| [l.side, l.place].include?(target) } || @harness.lamps.first
        named(['bat', 'fused', '49', '49a', "#{lamp.side}_switch", "#{lamp.id}_feed", "#{lamp.id}_shell", '0'])
      end

      def chains
        commands = @harness.states - ['off']
        sides = %w[left right hazard]
        [*[[], *commands.map { |c| [c] }].map { |c| [look([*RIDING, *c])] },
          *sides.product(points.map(&:id) - ['0']).map { |c, p| [volts([*RIDING, c], p, '0')] },
          *@harness.lamps.flat_map { |l| of_lamp(l) }, *leads.flat_map { |a, b| jumped(a, b, %w[left right]) }]
      end

      private

      def faults = Signals::Fault.all_in(@harness)

      # A bad earth and one that is lost are one place.
      def place_of_fault(fault) = fault.place_id.sub(/\Abad_earth@/, 'earth@')

      # Contacts of the flasher's plug, by their DIN 72552 names.
      def plug = terminals.map { |t| Point.new(id: t, name: "Flasher’s plug: #{TERMINALS.fetch(t)}", at: 'seat') }
      def terminals = @harness.flasher.kind.terminals
      TERMINALS = { '49' => '49, supply', '49a' => '49a, to the switch', '31' => '31, earth' }.freeze
      private_constant :TERMINALS

      # Where somebody who knows clips a lead.
      def leads = [%w[49 49a], %w[bat 49], %w[bat fused], %w[31 0]].select { |pair| (pair - points.map(&:id)).empty? }

      def signal(lamp) = Light.new(id: lamp.id, name: lamp.name, place: lamp.place, plug: true, spoken: "#{lamp.name.downcase} blinker")

      def dash = @harness.telltale.wiring == 'none' ? [] : [Light.new(id: 'telltale', name: 'Tell-tale', place: 'dash', plug: false)]

      def contacts(lamp)
        [['feed', 'feed contact'], %w[shell shell]].map do |what, name|
          Point.new(id: "#{lamp.id}_#{what}", name: "#{lamp.name}: #{name}", at: "lamp:#{lamp.id}")
        end
      end

      def of_lamp(lamp)
        pull = Act.new(kind: 'unplug', lamp: lamp.id)
        [[Act.new(kind: 'bench', lamp: lamp.id)], [Act.new(kind: 'open', lamp: lamp.id), look([*RIDING, lamp.side])],
          [pull, look([*RIDING, 'left'])], [pull, look([*RIDING, 'right'])], [pull, volts([*RIDING, lamp.side], "#{lamp.id}_feed", '0')],
          *jumped("#{lamp.id}_shell", '0', [lamp.side])]
      end

      def jumped(a, b, commands) = commands.map { |c| [Act.new(kind: 'jumper', red: a, black: b), look([*RIDING, c])] }

      def place_of(id) = @harness.lamp(id.delete_prefix('run_'))&.place || 'rear'

      def cure_at(fault)
        return "lamp:#{fault.target}" if @harness.lamp(fault.target)
        return 'rear' if %w[common_earth other_earth].include?(fault.kind.key) && fault.target != 'front'
        return "lamp:#{nipped(fault.target)}" if fault.kind.key == 'pinched'

        FLASHER_AT.fetch(fault.kind.key, 'front')
      end

      # The housing a side's wire is nipped by: the rear one, where there is one.
      def nipped(side) = @harness.side(side).then { |list| list.find { |l| l.place == 'rear' } || list.first }.id

      # A wire that is pulled or pinched as a housing shuts is well while it is open.
      def still_there?(suspect, bare)
        fault = suspect.fault
        !fault.moves? || bare.none?(fault.kind.key == 'pinched' ? nipped(fault.target) : fault.target)
      end

      # Housings that are open: to reach what is clipped on, pulled or read there as well.
      def bare(state, *points)
        reached = [*state.jumper, *points].filter_map { |p| housings.find { |id| p.start_with?("#{id}_") } }
        ((state.bare | state.empty | reached) & housings).sort
      end

      def faulted(suspects, state)
        hurt = suspects.select { |s| still_there?(s, state.bare) }.reduce(@harness) { |h, s| s.fault.apply(h) }
        hurt = state.empty.reduce(hurt) { |h, id| h.lamp(id) ? h.with_lamp(id) { |l| l.with(unplugged: true) } : h }
        mine?(state.jumper) ? clipped(hurt, state.jumper.sort) : hurt
      end

      # A lead from its earth terminal earths it.
      def clipped(hurt, ends)
        return hurt.with(flasher: hurt.flasher.with(earthed: true)) if ends == %w[0 31]

        ends.include?('31') ? hurt : hurt.with(jumpers: [ends])
      end

      def mine?(jumper) = jumper&.all? { |p| quantities['volts'].include?(p) }

      def command(state) = %w[hazard left right].find { |c| state.on?(c) } || (state.on?('brake') ? 'brake' : 'off')

      # @return [Signals::Seen, nil] nil with the key off
      def view(suspects, state, *points)
        return unless state.on?('key')

        state = state.with(bare: bare(state, *points))
        kept(:view, suspects, state) do
          Signals::Seen.new(faulted(suspects, state), command(state), thresholds: @thresholds, lights: state.on?('lights'),
            volts: state.running? ? Volts::RUNNING : Volts::REST, brake: state.on?('brake'))
        end
      end

      def housings = @housings ||= @harness.lamps.map(&:id)

      def seen(suspects, state)
        view = view(suspects, state) or return lights.to_h { |l| [l.id, 'dark'] }
        of = view.lamps.merge(view.lights).transform_values(&:looks)
        telltale = view.telltales.values.map(&:looks).max_by { |l| Signals::Observation::LOOKS.index(l) }
        lights.to_h { |l| [l.id, (l.id == 'telltale' ? telltale : of[l.id]) || 'dark'] }
      end

      def rate(view)
        { 'none' => 'Nothing flashes.', 'steady' => 'What is lit stays on.', 'slow' => 'It flashes slowly.',
          'fast' => 'It flashes fast.' }[view.rate_word]
      end

      def measured(suspects, state, _what, red, black)
        view = view(suspects, state, red, black)
        return [red, black].map { |p| p == 'bat' ? Volts::REST : 0.0 }.reduce(:-) unless view

        volts_at(view, red) - volts_at(view, black)
      end

      # V while lit. Its earth terminal is earth while it has one, and hangs on nothing else.
      def volts_at(view, point)
        return view.harness.flasher.earthed ? 0.0 : FLOATS_V if point == '31'

        node_volts(view, point)
      end

      # V that a meter shows at the earth terminal of electronics that have none: what leaks through them. Assumption.
      FLOATS_V = 9.0
      private_constant :FLOATS_V

      def node_volts(view, point) = view.closed.volts.fetch(view.harness.node(point), 0.0)

      def found_signs(suspects)
        views = @harness.states.to_h { |c| [c, view(suspects, State.new(on: c == 'off' ? RIDING : [*RIDING, c]))] }
        SignalSigns.new(@harness, views, sound).all
      end

      # As it is where nothing is wrong.
      def sound = @sound ||= @harness.states.to_h { |c| [c, view([], State.new(on: c == 'off' ? RIDING : [*RIDING, c]))] }
    end
  end
end

require_relative 'signal_signs'
