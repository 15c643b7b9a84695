# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../fixtures/stators/make'

# Drills against what is outside them: every order of everything tried (dynamic programming), five hundred seeds, stators run in
# ngspice, rays thrown back by a mirror.
class DrillCheck < Miser::Test
  include Miser
  include Miser::Drill

  SEEDS = 500
  # Machines that the seeds are shared out over, each with its own draws, lamps, flasher and feeds.
  MACHINES = 6

  def machines
    @machines ||= Array.new(MACHINES) { |i| Maker.new(Drill::Machine.new(MadeUp.new(Random.new(1000 + i)).document)) }
  end

  # Every drill can be solved and is, by the best player; what was said is true of the solved circuit and of no sound one; nothing
  # else gives the same answer to everything; and the figures are the same when it is made anew.
  def test_five_hundred_seeds
    parts = Hash.new(0)
    policies = {}
    spent = expected = 0.0
    SEEDS.times do |seed|
      maker = machines[seed % MACHINES]
      exercise = maker.make(1 + (seed % 5), Random.new(seed))
      exercise.hidden.each { |h| fair!(h, seed) }
      played = Players.play(Session.new(exercise, policies: policies), 'best')
      assert played.well?, "seed #{seed}"
      assert_operator played.entries.size, :<, 60, "seed #{seed}"
      spent += played.scalar(played.spent)
      expected += played.scalar(played.expected)
      same!(exercise, played, seed) if (seed % 50).zero?
      exercise.hidden.each { |h| parts[h.area.key] += 1 }
    end
    assert_operator parts.values.min, :>, 40, parts.inspect
    # What was played is what was foretold, on the average of drills drawn by how common faults are at their level.
    assert_within 0.25, expected, spent
  end

  def fair!(hidden, seed)
    area = hidden.area
    said = hidden.kase.sign
    assert area.signs([hidden.suspect]).any? { |s| s.told_by?(said) }, "seed #{seed}: #{said} is not so"
    refute area.signs([]).any? { |s| s.told_by?(said) }, "seed #{seed}: #{said} of a sound machine"
    assert_operator hidden.kase.mendings.size, :>, 1, "seed #{seed}"
    refute hidden.kase.twins?(hidden.index), "seed #{seed}: #{hidden.suspect.id}"
  end

  def same!(exercise, played, seed)
    kept = JSON.parse(JSON.generate([exercise.to_rows, played.entries.map { |e| e.act.to_row }]))
    fresh = Drill::Machine.new(JSON.parse(JSON.generate(exercise.machine.document.hash_as_given)))
    again = Session.new(Exercise.of(fresh, kept[0]), kept[1].map { |row| Act.from(row) })
    assert_equal played.entries.map { |e| [e.words, e.lines, e.looks, e.value, e.cost.to_a] },
      again.entries.map { |e| [e.words, e.lines, e.looks, e.value, e.cost.to_a] }, "seed #{seed}"
    assert_in_delta played.expected.minutes, again.expected.minutes, 1e-9, "seed #{seed}"
  end

  # Everything that can be tried, in every order, from every set of what may still be wrong and every set of doors opened: what it
  # costs at the least, by dynamic programming over those sets (Bellman, Dynamic Programming, 1957). No rule of thumb, nothing left out.
  class EveryOrder
    include Miser

    def initialize(kase, rate)
      @kase = kase
      @rate = rate / 60
      @known = {}
      tests = kase.area.tests.filter_map { |acts| kase.test(acts) }
      @chains = tests.map { |t| [t.acts.sum { |a| a.cost.scalar(@rate) }, t.places, t.classes] }.uniq
    end

    def least(left, doors = [])
      return 0.0 if left.empty?

      @known[[left, doors]] ||= [*mendings(left, doors), *tests(left, doors)].min
    end

    private

    def price(places, doors) = (places - doors).sum { |p| Drill::Costs.opening(p).scalar(@rate) }
    def weight(list) = list.sum { |i| @kase.suspects[i].prior }

    def mendings(left, doors)
      left.map { |i| @kase.suspects[i] }.uniq(&:place_id).map do |s|
        rest = left.reject { |i| @kase.suspects[i].place_id == s.place_id }
        behind = [s.at].compact
        s.cost.scalar(@rate) + price(behind, doors) + (weight(rest) / weight(left) * least(rest, (doors | behind).sort))
      end
    end

    def tests(left, doors)
      @chains.filter_map do |cost, places, classes|
        groups = left.group_by { |i| classes[i] }.values
        next if groups.size < 2

        opened = (doors | places).sort
        cost + price(places, doors) + groups.sum { |g| weight(g) / weight(left) * least(g, opened) }
      end
    end
  end

  # The best player's cost, played out for everything that it may be and weighed by how common that is, within two in a hundred of
  # the least that there is.
  def test_the_best_player_is_as_good_as_every_order_tried
    small = machines.first(6).flat_map { |m| m.candidates.map(&:kase).uniq.select { |c| c.mendings.size.between?(Policy::EXACT + 1, 8) && c.suspects.size <= 9 } }
    cases = small.group_by { |c| [c.area.key, c.sign.key] }.values.map(&:first).first(12)
    assert_operator cases.size, :>=, 8
    best = least = 0.0
    cases.each do |kase|
      mine = played(kase)
      lower = EveryOrder.new(kase, Policy::RATE_CENTS).least(kase.suspects.each_index.to_a)
      assert_operator mine, :>=, lower - 1e-6, 'nobody does better than the least there is'
      assert_operator mine, :<=, lower * 1.05, "#{kase.area.key} #{kase.sign}"
      best += mine
      least += lower
    end
    assert_within 0.02, least, best
  end

  def played(kase)
    machine = machines.find { |m| m.machine.areas.any? { |a| a.equal?(kase.area) } }.machine
    policies = { kase => Policy.new(kase) }
    kase.suspects.each_index.sum do |i|
      session = Players.play(Session.new(Exercise.new(machine, [Exercise::Hidden.new(kase, i)]), policies: policies), 'best')
      kase.weights[i] * session.scalar(session.spent)
    end
  end

  # What is left of a stator with a leg or a diode open, a leg on the frame, or three turns in ten of a leg shorted and the rest of
  # it coupled to them by nine tenths.
  def test_stators_with_faults_give_what_ngspice_has
    found = Hash.new { |h, k| h[k] = [] }
    stators = JSON.parse(File.read(File.expand_path('../fixtures/stators/stators.json',
      __dir__)))['machines'].select { |m| m['phases'] == 3 }
    stators.first(3).map { |m| m.transform_keys(&:to_sym) }.product([1.6, 2.4, 4.5]).each do |m, times|
      netlist = Miser::Stators.netlist(m, times * m[:idle])
      whole = amps(netlist)
      { leg_open: netlist.lines.grep_v(/^(Ve2|R2|L2|D[ul]p2)\b/).join, diode: netlist.sub(/^Dup0.*\n/, ''),
        leg_earthed: netlist.sub('Rn n 0 1e7', "Rn n 0 1e7\nRg p0 0 0.05"), turns: shorted(netlist, m, times * m[:idle]) }.each { |key, net| found[key] << (amps(net) / whole) }
    end
    { leg_open: Charging::Fault::TWO_LEGS, diode: Charging::Fault::FIVE_DIODES, leg_earthed: Charging::Fault::EARTHED,
      turns: Charging::Fault::SHORTED }.each do |key, share|
      assert_in_delta found[key].sum / found[key].size, share, 0.1, key
    end
  end

  def shorted(netlist, machine, rpm, turns: 0.3)
    hertz = machine[:pole_pairs] * rpm / 60.0
    peak = machine[:volt_per_rpm] * rpm
    coil = ->(share, i, from, to) { "Ve#{i} e#{i} #{from} SIN(0 #{peak * share} #{hertz} 0 0 0)\nR#{i} e#{i} l#{i} #{machine[:ohms] * share}\nL#{i} l#{i} #{to} #{machine[:henry] * share * share} IC=0\n" }
    netlist.sub(/^Ve0 .*\nR0 .*\nL0 .*\n/, "#{coil[1 - turns, '0', 'n', 'p0']}#{coil[turns, 's', '0', '0']}K0 L0 Ls 0.9\n")
  end

  def amps(netlist)
    out = Tempfile.create(['stator', '.cir']) do |file|
      file.write(netlist)
      file.flush
      Open3.capture2e('ngspice', '-b', file.path).first
    end
    Float(out[/^amps\s*=\s*(\S+)/, 1] || flunk(out))
  end

  # Rays from a chip off its place, thrown back by a parabola as any mirror does (angle in, angle out), against the plane geometry.
  def test_a_chip_off_its_place_throws_its_rays_as_a_mirror_has_it
    focus = Headlight::Misfit::FOCUS_MM
    [1.0, 2.0].each do |forward|
      aside = [20.0, 40.0, 60.0, -30.0, -70.0].map { |r| [r, thrown(focus, r, forward, 0.0)] }
      aside.each { |r, slope| assert_within 0.12, Headlight::Misfit.new(Headlight::Misfit::Seat.new(forward_mm: forward)).aside(r.abs), slope.abs, "#{forward} mm at #{r}" }
    end
    # Near the axis a chip over it throws its light down by its height over the focal length.
    up = Headlight::Misfit.new(Headlight::Misfit::Seat.new(up_mm: 1.0)).aim - Headlight::Misfit.new(Headlight::Misfit::SOUND).aim
    near = [-8.0, -4.0, 4.0, 8.0].map { |r| thrown(focus, r, 0.0, 1.0) }
    assert_within 0.05, near.sum / near.size, up
  end

  # @return [Float] slope of the ray that leaves the mirror z = r²/4f at height r, from a point off the focus
  def thrown(focus, r, forward, up)
    at = [r * r / (4 * focus), r]
    way = [at[0] - focus - forward, at[1] - up]
    normal = [-1.0, r / (2 * focus)]
    size = normal.sum { |v| v * v }
    back = way.zip(normal).map { |d, n| d - (2 * way.zip(normal).sum { |a, b| a * b } / size * n) }
    back[1] / back[0].abs
  end

  # The normal's tail as tables have it: 15.87 % past one deviation, 2.28 % past two (any table of the normal distribution).
  def test_light_over_the_line_is_the_tail_of_a_bell
    sigma = Headlight::Misfit::HIGH / (2 * Headlight::Misfit::HALF)
    { 1.0 => 0.1587, 2.0 => 0.0228 }.each do |times, share|
      tilt = -(times * sigma) - Headlight::Misfit::AIM
      assert_in_delta share, Headlight::Misfit.new(Headlight::Misfit::Seat.new(tilt: tilt)).above, 0.0005
    end
  end
end
