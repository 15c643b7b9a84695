# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/wirings'
require_relative '../support/ngspice'
require_relative '../../formats/wiring_netlist'

# The wiring's solver against ngspice, which reads the netlists Miser exports; and its tables against published ones.
class WiringCheck < Miser::Test
  include Miser::Wirings

  # Volts of every node within 10 mV or 0.5 %, whichever is more.
  def compare(name, job, states)
    scheme = survey(job).scheme
    states.sum do |on|
      look = Miser::Wiring::Look.new(scheme, scheme.switches.state(on))
      [true, *(look.flashing? ? [false] : [])].count { |flash| same?(name, look, flash) }
    end
  end

  def same?(name, look, flash)
    ours = (flash ? look.on : look.off).solution.volts.except('0')
    text = Miser::Formats::WiringNetlist.write(look, name: 'check', flash: flash)
    theirs = Miser::Ngspice.run(text.sub(".op\n.end", ".control\nset numdgt=9\nop\nprint all\nquit\n.endc\n.end"))
    ours.each do |node, volts|
      assert theirs.key?(node), "#{name}: ngspice has no node #{node}"
      assert_in_delta theirs[node], volts, [0.01, 0.005 * theirs[node].abs].max, "#{name}, #{look.state.join(' ')}: node #{node}"
    end
    true
  end

  def bar(**rest) = extra('bar', 6.0, **rest)

  def named
    { 'relay on high' => wired(added: [bar], wiring: { 'feeds' => [feed('bar', 'relay', trigger: 'high', fuse_a: 10)] }),
      'relay on the battery' => wired(added: [bar], wiring: { 'feeds' => [feed('bar', 'relay', trigger: 'battery', fuse_a: 10)] }),
      'tap on the brake’s live wire' => wired(added: [extra('ring', 0.4)],
        wiring: { 'feeds' => [feed('ring', 'tap', source: 'brake_live')] }),
      'branch on left' => wired(added: [extra('more', 0.3)], wiring: { 'feeds' => [feed('more', 'branch', source: 'left')] }),
      'tracker' => wired(added: [extra('tracker', 0.1, role: 'tracker')], wiring: { 'feeds' => [feed('tracker', 'battery', fuse_a: 2)] }),
      'painted earth' => wired(added: [bar], wiring: { 'feeds' => [feed('bar', 'relay', trigger: 'key', fuse_a: 10, earth: 'bracket')] }),
      'long and thin' => wired(added: [bar], wiring: { 'feeds' => [feed('bar', 'battery', wires: wires({ supply: 0.5, earth: 0.5 }, { supply: 6, earth: 6 }))] }),
      'hub' => wired(added: [bar],
        wiring: { 'devices' => random_devices(Random.new(1)), 'feeds' => [feed('bar', 'hub', device_id: 'hub', output: 'high')] }),
      'outputs of its own' => wired(added: [bar], wiring: {
        'devices' => [{ 'id' => 'h', 'kind' => 'hub', 'name' => 'H', 'fuse_a' => 30,
                        'outputs' => [{ 'id' => 'a-b', 'sense' => 'lights' }] }],
        'feeds' => [feed('bar', 'hub', device_id: 'h', output: 'a-b')]
      }),
      'channel turned down' => wired(added: [bar],
        wiring: { 'devices' => random_devices(Random.new(2)), 'feeds' => [feed('bar', 'controller', device_id: 'box', output: 'a')] }),
      'a wire across two lines' => wired(added: [bar], wiring: { 'feeds' => [feed('bar', 'relay', trigger: 'key', fuse_a: 10)],
                                                                 'wires' => [{ 'id' => 'j', 'from' => 'low', 'to' => 'high',
                                                                               'length_m' => 0.5 }] }) }
  end

  STATES = [%w[key lights], %w[key lights high], %w[key left brake], []].freeze

  def test_named_wirings
    assert_operator(named.sum { |name, job| compare(name, job, STATES) }, :>=, 40)
  end

  def test_random_wirings
    random = Random.new(31)
    count = 30.times.sum do |i|
      compare("random #{i}", random_wiring(random), [STATES.first(3).sample(random: random)])
    end
    assert_operator count, :>=, 30
  end

  # Published areas of AWG, mm² (ASTM B258, from memory), and mΩ/m with annealed copper's 0.017241 Ω·mm²/m (IEC 60028).
  def test_wire_gauges
    { 20 => [0.518, 33.31], 18 => [0.823, 20.95], 16 => [1.31, 13.17], 14 => [2.08, 8.29],
      12 => [3.31, 5.21] }.each do |gauge, (area, per_metre)|
      assert_in_delta area, Miser::Draw::Conductor.area(gauge), 0.006
      assert_in_delta per_metre, Miser::Draw::Conductor.ohms(1, Miser::Draw::Conductor.area(gauge)) * 1000, 0.006
    end
  end

  # Opening times of blade fuses: ISO 8820-3, from memory. Between the points of the table they only fall.
  def test_blade_fuses
    blade = Miser::Feeds::Blade
    assert_equal [1, 2, 3, 4, 5, 7.5, 10, 15, 20, 25, 30, 35, 40], blade::RATINGS
    assert_nil blade.opening(11.0, 10.0).soonest
    { 1.35 => [0.75, 600.0], 2.0 => [0.15, 5.0], 3.5 => [0.04, 0.5] }.each do |times, (soonest, latest)|
      opening = blade.opening(times * 10, 10.0)
      assert_in_delta soonest, opening.soonest, 1e-9
      assert_in_delta latest, opening.latest, 1e-9
    end
    refute_predicate blade.opening(12.0, 10.0), :opens?
    slow = (14..40).map { |t| blade.opening(t.to_f, 10.0).latest }
    assert_equal slow.sort.reverse, slow
  end

  # Numbers that every relay and switch carries: DIN 72552, from memory.
  def test_terminals
    table = Miser::Feeds::Terminals::TABLE
    assert_equal %w[15 30 31 49 49a 54 56a 56b 58 85 86 87], %w[15 30 31 49 49a 54 56a 56b 58 85 86 87] & table.keys
    { 'battery' => '30', 'key' => '15', 'lights' => '58', 'low' => '56b', 'high' => '56a', 'brake' => '54' }.each do |line, number|
      assert_equal number, Miser::Feeds::Lines::BY_KEY.fetch(line).terminal
    end
  end

  # 18 AWG, 2.4 m each way, 3.2 A: 0.322 V, 2.3 % of 14.0 V (worked by hand). 20 W driver on 14.0 V through 0.5 Ω:
  # 1.510 A, 13.245 V (the quadratic). 10 A, 3 m each way, 3 % of 14.0 V: at least 2.46 mm² (worked by hand).
  def test_worked_examples
    drop = 3.2 * Miser::Draw::Conductor.ohms(4.8, Miser::Draw::Conductor.area(18))
    assert_in_delta 0.322, drop, 0.0005
    assert_in_delta 0.023, drop / 14.0, 0.0001
    net = Miser::Network
    circuit = net::Solver.new([net::Source.new('b', 'a', '0', 14.0, 0.0), net::Resistor.new('w', 'a', 'l', 0.5),
      net::Led.new('d', 'l', '0', kind: 'driver', volts: 14.0, amps: 20 / 14.0, from_v: 5.0)])
    solved = circuit.solve
    assert_in_delta 13.245, solved.volts['l'], 0.0005
    assert_in_delta 1.510, solved.amps['d'], 0.0005
    size = Miser::Wiring::Sizing.new(amps: 10.0, metres: 6.0, volts: 14.0, drop: 0.03, units: 'metric')
    assert_in_delta 2.46, size.least_area.value, 0.005
  end
end
