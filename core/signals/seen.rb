# frozen_string_literal: true

require_relative '../draw/filament'
require_relative '../volts'
require_relative 'harness'
require_relative 'rhythm'

module Miser
  module Signals
    # What a person standing by the machine sees with a command given: each lamp and
    # tell-tale with the contact closed and open, the rhythm, the fuse.
    class Seen
      # @!attribute level [String] off, ghost, dim, lit @!attribute volts, amps, watts [Float]
      Glow = Struct.new(:level, :volts, :amps, :watts, :share, keyword_init: true)
      # @!attribute looks [String] flashes, steady, ghost, dim, dark
      Item = Struct.new(:id, :closed, :open, :looks, keyword_init: true)

      OUT = Glow.new(level: 'off', volts: 0.0, amps: 0.0, watts: 0.0, share: 0.0)
      TELLTALES = %w[telltale telltale_left telltale_right].freeze

      attr_reader :harness, :command, :pattern, :closed, :open

      # @param harness [Harness] @param command [String]
      # @param thresholds [Hash] ghost, dim, lit: shares of rated light
      # @param brake [Boolean] whether the brake is held as well
      def initialize(harness, command, thresholds:, lights: true, volts: Volts::REST, brake: command == BRAKE)
        @harness = harness
        @command = command
        @brake = brake
        @thresholds = thresholds
        settle(lights, volts)
        blow_fuse(lights, volts) if fuse_a && @closed.amps['fuse'] > fuse_a
        @pattern = idle? ? Flasher::Pattern.new(rhythm: 'none') : rhythm
      end

      # @return [Boolean] whether the fuse went just now
      def fuse_blows? = @blew || false

      # @return [Boolean] whether it is blown: just now, or long since
      def fuse_blown? = harness.fuse_blown

      # @return [Hash{String=>Item}]
      def lamps = @lamps ||= harness.lamps.to_h { |l| [l.id, item(l.id, l)] }

      # Running lights, tail and brake.
      # @return [Hash{String=>Item}]
      def lights = @lights ||= running.merge(others)

      # @return [Boolean] whether no signal is commanded
      def idle? = LoopCircuit::IDLE.include?(command)

      # @return [Boolean] whether the dash tell-tale alone goes fast, as a controller makes it
      def telltale_fast? = !pattern.telltale_rate.nil? && pattern.telltale_rate > Rhythm::RATE.end

      # @return [Hash{String=>Item}]
      def telltales
        return { 'telltale' => Item.new(id: 'telltale', closed: OUT, open: OUT, looks: 'dark') } if harness.telltale.wiring == 'burnt'

        lit_telltales
      end

      def lit_telltales = @lit_telltales ||= TELLTALES.select { |id| @closed.amps.key?(id) }.to_h { |id| [id, item(id, harness.telltale)] }

      # Volts across and amps through everything that is no lamp.
      # @return [Array<Hash>] id and both phases
      def parts
        circuit = LoopCircuit.new(harness, State.new(command: command, closed: true, lights: true, volts: Volts::NOMINAL)).circuit
        circuit.elements.reject { |e| lamps.key?(e.id) || telltales.key?(e.id) }.map do |e|
          { id: e.id, closed_v: @closed.across(e), closed_a: @closed.amps[e.id], open_v: @open.across(e), open_a: @open.amps[e.id] }
        end
      end

      # @return [Float] A through the flasher, contact closed
      def flasher_a = @closed.amps['flasher']

      # @return [String] none, steady, slow, normal, fast
      def rate_word
        return pattern.rhythm unless pattern.flashes?

        # It may tick, but nothing is seen of it.
        dark? ? 'none' : Rhythm.word(pattern.rate)
      end

      # @return [Boolean] whether some lamp glows faintly between its flashes
      def afterglow? = lamps.values.any? { |i| i.closed.level == 'lit' && %w[ghost dim].include?(i.open.level) }

      def residual = [@closed.residual, @open.residual].max

      # @return [Boolean] nothing to be said against its rhythm
      def well? = !fuse_blows? && (idle? || rate_word == 'normal')

      # @return [String] what the rhythm is
      def words
        return 'The fuse blows.' if fuse_blows?
        return 'Nothing commanded.' if idle?

        said = { 'none' => 'Nothing flashes.',
                 'steady' => 'On, never flashing.' }[pattern.rhythm] || "#{pattern.rate.round} flashes a minute."
        [said, pattern.note].compact.join(' ')
      end

      # @return [String] how far the sums of currents are from nothing
      def balance = "Currents balance within #{[(residual * 1e6).round, 1].max} µA."

      private

      def dark? = [*lamps.values, *telltales.values].all? { |i| i.looks == 'dark' }

      def fuse_a = harness.fuse_a

      def solve(closed, lights, volts)
        state = State.new(command: idle? ? 'off' : command, closed: closed, lights: lights, volts: volts, brake: @brake)
        LoopCircuit.new(harness, state).circuit.solve
      end

      def blow_fuse(lights, volts)
        @blew = true
        @harness = harness.with(fuse_blown: true)
        settle(lights, volts)
      end

      # With nothing commanded the flasher's contact makes no odds.
      def settle(lights, volts)
        @open = solve(false, lights, volts)
        @closed = idle? ? @open : solve(true, lights, volts)
      end

      def rhythm = harness.flasher.pattern(flasher_a)

      def running
        harness.lamps.select(&:running).to_h do |l|
          volts, amps = l.running
          id = "run_#{l.id}"
          lit = l.unplugged ? l : Draws.new(law: 'filament', volts: volts, amps: amps)
          [id, item(id, lit, LoopCircuit::FEEDS['tail'], l.shell? ? "#{l.id}_shell" : '0')]
        end
      end

      def others
        harness.others.flat_map do |o|
          common = harness.earths.key?(o.place) ? "earth_#{o.place}" : '0'
          shell = o.earth_ohm.positive? ? "#{o.id}_shell" : common
          o.filaments.map { |feed, draws| [feed, item(feed, draws, LoopCircuit::FEEDS.fetch(feed), shell)] }
        end.to_h
      end

      # @param nodes [Array<String>] it hangs between
      def item(id, what, *nodes)
        shut, apart = [@closed, @open].map { |s| glow(id, what, s, nodes) }
        Item.new(id: id, closed: shut, open: apart, looks: looks(shut, apart))
      end

      def glow(id, what, solution, nodes)
        amps = solution.amps.fetch(id)
        volts = nodes.empty? ? drop(id, what, solution) : solution.volts.fetch(nodes[0]) - solution.volts.fetch(nodes[1])
        return Glow.new(level: 'off', volts: volts, amps: amps, watts: 0.0, share: 0.0) if what.respond_to?(:out?) && what.out?

        share = what.filament? ? [volts.abs / what.volts, 0].max**Draw::Filament::LIGHT : led_share(what, amps)
        Glow.new(level: level(share), volts: volts, amps: amps, watts: amps * volts, share: share)
      end

      def led_share(what, amps)
        forward = what.respond_to?(:reversed) && what.reversed ? -amps : amps
        forward = amps.abs if what.respond_to?(:bridged) && what.bridged
        [forward, 0].max / what.amps
      end

      def drop(id, what, solution)
        v = solution.volts
        return v[id.delete_prefix('telltale_')] if id.start_with?('telltale_')
        return v["#{id}_feed"] - v[shell(what)] unless id == 'telltale'

        { 'shared' => -> { v['left'] - v['right'] }, 'diodes' => -> { v['tell'] }, 'pilot' => -> { v['out'] } }.fetch(what.wiring).call
      end

      # @return [String] node of a lamp's shell
      def shell(lamp)
        return "#{lamp.id}_shell" if lamp.shell?

        harness.earths.key?(lamp.place) ? "earth_#{lamp.place}" : '0'
      end

      def level(share)
        %w[lit dim ghost].find { |name| share >= @thresholds.fetch(name.to_sym) } || 'off'
      end

      def looks(shut, apart)
        return apart.level == 'off' ? 'dark' : still(apart) if idle? || pattern.rhythm == 'none'
        return still(shut) if pattern.rhythm == 'steady' || shut.level == apart.level

        shut.level == 'lit' || apart.level == 'lit' ? 'flashes' : shut.level
      end

      def still(glow) = { 'off' => 'dark', 'lit' => 'steady' }.fetch(glow.level, glow.level)
    end
  end
end
