# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/loops'
require_relative '../support/ngspice'
require_relative '../../formats/netlist'

# The signal solver against ngspice, which reads the netlists Miser exports: the
# cross-feed pair, mixed lamps, every tell-tale wiring, every fault once, random loops.
class SignalsCheck < Miser::Test
  include Miser::Loops
  include Miser::Signals

  def led_four(**rest) = four(**led(**rest))

  def dual(lamps) = lamps.map { |l| l.place == 'front' ? l.with(running: [12.0, 0.42]) : l }

  def named
    leds = signal_loop(lamps: dual(led_four), wiring: 'diodes', flasher: 'free_3')
    loops = { 'cross-feed, LED' => signal_loop(lamps: led_four), 'cross-feed, filament' => signal_loop,
              'mixed sides' => signal_loop(lamps: led_four.map { |l| l.side == 'right' ? signal_lamp(l.side, l.place) : l }),
              'mixed ends' => signal_loop(lamps: led_four.map { |l| l.place == 'rear' ? signal_lamp(l.side, l.place) : l }),
              'drivers' => signal_loop(lamps: led_four(law: 'driver', volts: 12.0, amps: 0.3)),
              'bridged' => signal_loop(lamps: led_four.map { |l| l.with(bridged: true) }) }
    %w[pair shared diodes pilot none].each { |w| loops["tell-tale #{w}"] = signal_loop(lamps: led_four, wiring: w) }
    Fault.all_in(leds).group_by { |f| f.kind.key }.each { |key, list| loops["fault #{key}"] = list.last.apply(leds) }
    whole = signal_loop(lamps: dual(four), wiring: 'shared', others: [rear_lamp])
    loops['tail and brake on the same earth'] = whole
    %w[side_feed@left~4 switch@right~15 common_earth@rear common_earth@rear~4 common_earth@front~open other_earth@rear_lamp~open
      swapped@rear bad_earth@front_left~15 feed~2].each do |id|
      loops["fault #{id}"] = Fault.named(id, whole).apply(whole)
    end
    loops['load resistors'] =
      signal_loop(lamps: led_four,
        resistors: SIDES.map do |s|
          Shunt.new(id: "load_#{s}", side: s, ohms: 3.9, rated_w: 50.0, series: false)
        end)
    loops
  end

  def spice(harness, state)
    netlist = Miser::Formats::Netlist.write(harness, state, name: 'check').sub(".op\n.end",
      ".control\nset numdgt=9\nop\nprint all\nquit\n.endc\n.end")
    Miser::Ngspice.run(netlist)
  end

  # Within 10 mV or 0.5 %, whichever is more.
  def compare(name, harness, state)
    ours = LoopCircuit.new(harness, state).circuit.solve
    theirs = spice(harness, state)
    ours.volts.except('0').each do |node, volts|
      assert theirs.key?(node), "#{name}: ngspice has no node #{node}"
      assert_in_delta theirs[node], volts, [0.01, 0.005 * theirs[node].abs].max, "#{name}, #{state}: node #{node}"
    end
  end

  def test_named_circuits_in_their_states
    count = 0
    named.each do |name, harness|
      [State.new(command: 'left', closed: true, lights: true, volts: 12.8),
        State.new(command: 'hazard', closed: true, lights: false, volts: 14.2, brake: true)].each do |state|
        compare(name, harness, state)
        count += 1
      end
    end
    assert_operator count, :>=, 90
  end

  def test_random_circuits
    random = Random.new(20)
    15.times do |i|
      compare("random #{i}", random_loop(random),
        State.new(command: COMMANDS.sample(random: random), closed: random.rand < 0.8, lights: random.rand < 0.5,
          volts: random.rand(11.5..14.5)))
    end
  end
end
