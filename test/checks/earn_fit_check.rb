# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../fixtures/stators/make'

# The earn curve, and the verdicts that rest on it, against stators run in ngspice: 66 with three
# phases and 14 with one, hot and cold, each a machine of its own.
class EarnFitCheck < Miser::Test
  STATORS = JSON.parse(File.read(File.expand_path('../fixtures/stators/stators.json', __dir__)))
  SPEEDS = STATORS['speeds']
  COUNTS = (0..6)
  # Where points are taken: as they come, or idle, knee and cruise as the plan of points has them.
  PLANNED = { 0 => [], 1 => [4], 2 => [1, 7], 3 => [1, 4, 8], 4 => [0, 2, 5, 8], 5 => [0, 2, 4, 6, 8], 6 => [0, 1, 3, 5, 7, 9] }.freeze
  FORMS = { 3 => 'three_phase', 1 => 'one_phase' }.freeze
  SETTINGS = Miser::Assumptions.new
  # Clamp: 2 % from one reading to the next, 1.5 % common to all. Plates and cut-ins are off as plates are.
  NOISE = { clamp: 0.02, gain: 0.015, plate: 0.12, cut_in: 0.06 }.freeze

  # What a technician would enter.
  def circuit(machine, where, state, random)
    gain = 1 + (NOISE[:gain] * gauss(random))
    points = where.map do |i|
      stator = state == :mixed ? %w[cold hot].sample(random: random) : state.to_s
      amps = (machine[stator][i] * gain * (1 + (NOISE[:clamp] * gauss(random)))).round(2)
      { 'rpm' => SPEEDS[i] * machine['idle'], 'amps' => amps, 'volts' => machine['volts'].round(2), 'stator' => stator }
    end
    alternator = { 'points' => points, 'winding' => FORMS.fetch(machine['phases']) }
    alternator.merge!(plate(machine, random)) if where.empty? || random.rand < 0.6
    alternator['cut_in_rpm'] = machine['cut_in'] * (1 + (NOISE[:cut_in] * gauss(random))) if random.rand < 0.3
    Miser::Budget::Circuit.new({ 'id' => 'm', 'kind' => 'dc', 'alternator' => alternator, 'regulator' => { 'volts' => machine['volts'] } },
      { 'idle_rpm' => machine['idle'] }, SETTINGS)
  end

  def plate(machine, random)
    watts = machine['cold'][8] * machine['volts'] * (1 + (NOISE[:plate] * gauss(random)))
    { 'rated_w' => watts.round(-1), 'rated_rpm' => SPEEDS[8] * machine['idle'] }
  end

  Row = Struct.new(:of, :inside, :keeps, :owes, :errors) do
    def share(name) = self[name] / of.to_f
    def median = errors.sort[errors.size / 2]
  end

  # At every speed just so much is spent as the machine truly gives, hot: what it keeps is nothing.
  def meet(row, machine, circuit)
    most = machine['hot'].max
    machine['hot'].each_with_index do |truth, i|
      earned = circuit.earns(SPEEDS[i] * machine['idle'])
      keep = earned.value - truth
      row.of += 1
      row.inside += 1 if keep.abs <= 2 * earned.sigma
      verdict = Miser::Budget::Verdict.of(keep, earned.sigma)
      row.keeps += 1 if verdict == 'keeps'
      row.owes += 1 if verdict == 'owes'
      row.errors << (keep.abs / most)
    end
  end

  def table(phases, state:, planned: false, seed: 5)
    random = Random.new(seed)
    COUNTS.to_h do |count|
      row = Row.new(0, 0, 0, 0, [])
      STATORS['machines'].select { |m| m['phases'] == phases }.each do |machine|
        where = planned ? PLANNED[count] : (0...SPEEDS.size).to_a.sample(count, random: random)
        meet(row, machine, circuit(machine, where, state == :any ? %i[cold hot mixed].sample(random: random) : state, random))
      end
      [count, row]
    end
  end

  def say(title, rows)
    puts "\n#{title}: points, within 2σ, says keeps, says owes, median error of full output"
    rows.each { |count, r| puts format('%6d %11.3f %10.3f %9.3f %11.4f', count, *%i[inside keeps owes].map { |n| r.share(n) }, r.median) }
  end

  def whole(rows, name) = rows.values.sum { |r| r[name] } / rows.values.sum(&:of).to_f

  def assert_honest(rows)
    assert_operator whole(rows, :inside), :>=, 0.93
    assert_operator whole(rows, :keeps), :<=, 0.04
    assert_operator whole(rows, :owes), :<=, 0.04
  end

  def test_three_phases_behind_a_bridge
    any = table(3, state: :any)
    say('three phases, points anywhere, hot, cold or both', any)
    assert_honest(any)
    hot = table(3, state: :hot, planned: true)
    say('three phases, hot points where the plan has them', hot)
    assert_honest(hot)
    assert_operator hot[2].median, :<, 0.02
    assert_operator hot[5].median, :<, 0.01
    any.each_value { |row| assert_operator row.share(:inside), :>=, 0.93 }
  end

  def test_one_phase_behind_a_bridge
    any = table(1, state: :any)
    say('one phase, points anywhere, hot, cold or both', any)
    assert_honest(any)
  end

  # The table is no formality: with the form of a coil without a bridge it fails.
  def test_the_form_of_a_plain_coil_would_not_do
    forms = Miser::Charging::Form::BY_KEY
    right = forms['three_phase']
    forms = forms.merge('three_phase' => Miser::Charging::Form::COIL)
    with_constant(Miser::Charging::Form, :BY_KEY, forms) do
      rows = table(3, state: :hot, planned: true)
      say('the same, were they plain coils', rows)
      assert_operator whole(rows, :inside), :<, 0.93
      assert_operator rows[5].median, :>, 0.01
    end
    assert_same right, Miser::Charging::Form::BY_KEY['three_phase']
  end

  def with_constant(home, name, value)
    was = home.const_get(name)
    home.send(:remove_const, name)
    home.const_set(name, value)
    yield
  ensure
    home.send(:remove_const, name)
    home.const_set(name, was)
  end

  # The fixture is what ngspice gives today as well.
  def test_what_is_kept_is_what_ngspice_gives
    [0, 30, 70].each do |index|
      kept = STATORS['machines'][index]
      machine = kept.transform_keys(&:to_sym)
      [3, 7].each { |i| assert_within 0.003, Miser::Stators.amps(machine, SPEEDS[i] * machine[:idle]), kept['cold'][i] }
      hot = Miser::Stators.hot(machine)
      assert_within 0.003, Miser::Stators.amps(hot, SPEEDS[5] * machine[:idle]), kept['hot'][5]
    end
  end

  # What is kept of the doubt as nodes, against a hundred thousand machines drawn from what is believed beforehand, each
  # weighted by how well it meets the points: no search, no grid.
  def test_the_doubt_is_that_of_weighted_draws
    random = Random.new(4)
    [[[1400, 5.2]], [[1300, 3.1], [2600, 15.4]], [[1250, 2.0], [1700, 9.0], [4000, 18.6]]].each do |points|
      found = fitted(points)
      draws = Array.new(100_000) { drawn(points, random) }
      total = draws.sum { |d| d[:weight] }
      [1200, 1500, 2200, 5000].each do |rpm|
        square = draws.sum { |d| d[:weight] * ((d[:earns].call(rpm) - found.amps(rpm, 14.0))**2) } / total
        clamp = 0.015 * found.amps(rpm, 14.0)
        assert_within 0.1, Math.sqrt(square + (clamp**2)), found.sigma(rpm, 14.0), "#{points.size} points, at #{rpm} rpm"
      end
    end
  end

  PLAIN = Miser::Assumptions.new('hot_stator' => 1.0, 'hot_cut_in' => 1.0, 'hot_knee' => 1.0, 'earn_shape' => 0.0)

  def fitted(points)
    list = points.map { |n, a| Miser::Charging::EarnFit::Point.new(rpm: n.to_f, volts: 14.0, amps: a, cold: false, sigma: 0.05 * a) }
    Miser::Charging::EarnFit.new(form: Miser::Charging::Form::THREE_PHASE, v_ref: 14.0, settings: PLAIN, points: list,
      cut_in: Miser::Charging::EarnFit::Known.new(1000.0, 0.15)).curve(basis: :points)
  end

  # ln n0 and ln c as believed beforehand; the most it gives evenly in its logarithm, about 20 ± 20 A.
  def drawn(points, random)
    n0 = 1000 * Math.exp(0.15 * gauss(random))
    c = 0.35 * Math.exp(0.12 / 0.35 * gauss(random))
    most = 3 * (40**random.rand)
    earns = lambda { |rpm|
      x = [(rpm / n0) - 1, 0].max**1.57
      most * x / (x + c)
    }
    apart = points.sum { |n, a| ((earns.call(n) - a) / (0.05 * a))**2 } + (((most - 20) / 20)**2)
    { earns: earns, weight: Math.exp(-apart / 2) }
  end
end
