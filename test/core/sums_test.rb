# frozen_string_literal: true

require_relative '../test_helper'

# Readings of several loads at once, on the machine.
class SumsTest < Miser::Test
  Fusion = Miser::Draw::Fusion

  def two(*sums) = Fusion.new({ a: [1.0, 0.3], b: [2.0, 0.6] }, sums)
  def read(amps, sigma, **shares) = Fusion::Sum.new(shares: shares, amps: amps, sigma: sigma)

  # The trade's own worked example: what is believed, and one sum of both.
  def test_two_loads_read_together
    fused = two(read(3.6, 0.05, a: 1.0, b: 1.0))
    assert_in_delta 1.119, fused.amps(:a), 0.001
    assert_in_delta 2.477, fused.amps(:b), 0.001
    assert_in_delta 0.050, fused.sum({ a: 1.0, b: 1.0 }).last, 0.001
    assert_in_delta 0.269, fused.sigma(:a), 0.001
  end

  def test_a_sum_nobody_tells_apart_stays_one_sum
    fused = two(read(3.6, 0.05, a: 1.0, b: 1.0))
    assert_operator fused.covariance(:a, :b), :<, 0
    assert_operator fused.sigma(:a), :>, 5 * fused.sum({ a: 1.0, b: 1.0 }).last
    apart = two(read(3.6, 0.05, a: 1.0, b: 1.0), read(1.3, 0.05, a: 1.0))
    assert_operator apart.sigma(:a), :<, 0.051
    assert_operator apart.sigma(:b), :<, 0.075
  end

  # In whatever order they were taken.
  def test_the_order_does_not_matter
    sums = [read(3.6, 0.05, a: 1.0, b: 1.0), read(1.3, 0.05, a: 1.0), read(4.4, 0.2, a: 1.0, b: 1.4)]
    one, other = [sums, sums.reverse].map { |s| two(*s) }
    %i[a b].each { |k| assert_within 1e-12, one.amps(k), other.amps(k) }
    assert_within 1e-12, one.covariance(:a, :b), other.covariance(:a, :b)
  end

  def machine(**more)
    engine = { 'pump' => ['fuel_pump', 2.0], 'ecu' => ['controller', 1.0] }.map do |id, (role, amps)|
      { 'id' => id, 'name' => id.capitalize, 'group' => 'engine', 'role' => role, 'figures' => stated(amps, origin: 'default') }
    end
    plain_job(loads: [*engine,
      lamp('low', base: 'H4', filament: 'low')], **more)
  end

  def sum(id, on, amps, **more) = { 'id' => id, 'on' => on, 'amps' => amps, 'volts' => 14.0 }.merge(more.transform_keys(&:to_s))

  # Its members stay doubtful, their sum does not: the verdict is of the sum.
  def test_a_sum_read_well_gives_a_good_verdict
    engine = machine['loads'].first(2)
    plain = budget(plain_job(loads: engine))
    read = budget(plain_job(loads: engine, sums: [sum('s', %w[pump ecu], 3.4)]))
    before, after = [plain, read].map { |b| b.line('before', 'idle_night', 'main').spends }
    assert_operator after.sigma, :<, before.sigma / 2
    members = %w[pump ecu].map { |id| read.as_is(read.document.load(id)) }
    assert_operator members.sum { |m|
      m.sigma(14.0)**2
    }, :>, 5 * (read.sums.covariance('pump', 'pump') + (2 * read.sums.covariance('pump', 'ecu')) + read.sums.covariance('ecu', 'ecu'))
    assert_in_delta 3.4, members.sum { |m| m.amps(14.0) }, 0.02
    assert_equal(%w[summed summed], members.map { |m| m.anchor.origin.key })
  end

  # One clamp reads what is earned and what is spent: what it is off by takes from what is kept only what it gives there. So a doubt in
  # its gain adds (gain · (earned − spent))², and (gain · earned)² where the loads were never read with it.
  def test_the_clamps_gain_enters_what_is_kept_once
    engine = machine['loads'].first(2)
    points = [[1500, 6.4], [2000, 12.9], [3000, 17.2], [5000, 19.3]].map do |n, a|
      { 'id' => n.to_s, 'rpm' => n, 'amps' => a, 'volts' => 14.0 }
    end
    line = lambda do |gain, sums|
      job = plain_job(loads: engine, sums: sums, assumptions: { 'clamp_gain' => gain, 'meter_digits' => 0.0, 'running_v_sigma' => 0.0 })
      job['circuits'][0]['alternator'] = { 'points' => points }
      budget(job).line('before', 'cruise_day', 'main')
    end
    read = [sum('s', %w[pump ecu], 9.0)]
    more = ->(sums) { (line[0.05, sums].keeps.sigma**2) - (line[0.0, sums].keeps.sigma**2) }
    earned, spent = line[0.05, read].then { |l| [l.earns.value, l.clamp / 0.05] }
    assert_operator spent, :>, 4.0
    assert_in_delta (0.05 * earned)**2, more[[]], 0.15 * ((0.05 * earned)**2)
    assert_in_delta ((0.05 * earned)**2) - (2 * 0.05 * earned * 0.05 * spent) + ((0.05 * spent)**2), more[read], 0.15 * ((0.05 * earned)**2)
    assert_operator more[read], :<, more[[]] * 0.6
  end

  # One thing switched on after another: each step's own share.
  def test_key_then_lights
    b = budget(machine(sums: [sum('k', %w[pump ecu], 3.4), sum('l', %w[pump ecu low], 8.2)]))
    low = b.as_is(b.document.load('low'))
    assert_in_delta 4.8, low.amps(14.0), 0.12
    assert_operator low.sigma(14.0), :<, 0.2
  end

  # Read at another voltage, each load is carried to it by its own law.
  def test_volts_are_carried_by_each_law
    b = budget(machine(sums: [sum('l', %w[low], (55 / 12.0) * ((12.5 / 12)**0.55), volts: 12.5)]))
    assert_in_delta (55 / 12.0) * ((14.0 / 12)**0.55), b.as_is(b.document.load('low')).amps(14.0), 0.01
  end

  def test_a_load_of_which_nothing_is_known_is_found_alone_but_not_in_company
    two = %w[x y].map { |id| { 'id' => id, 'name' => id, 'group' => 'engine', 'role' => 'controller' } }
    job = plain_job(loads: two)
    alone = budget(job.merge('sums' => [sum('s', %w[x], 2.0)]))
    assert_in_delta 2.0, alone.as_is(alone.document.load('x')).amps(14.0), 0.01
    both = budget(job.merge('sums' => [sum('s', %w[x y], 4.0)]))
    refute_predicate both.as_is(both.document.load('x')), :known?, 'half of it would be a guess'
  end

  def test_what_is_wrong_or_simulated_counts_for_nothing
    plain = budget(machine).line('before', 'idle_night', 'main').spends
    bad = [sum('a', %w[gone], 3.0), sum('b', [], 3.0), sum('c', %w[pump], nil).compact, sum('d', %w[pump], 9.0, simulated: true),
      sum('e', %w[pump], 3.0).except('volts')]
    b = budget(machine(sums: bad))
    assert_within 1e-12, plain.value, b.line('before', 'idle_night', 'main').spends.value
    assert_equal([true, true, true, false, true], b.sums.readings.map { |r| !r.problem.nil? })
    refute_predicate b.sums, :any?
  end

  def test_a_sum_far_off_what_was_believed_is_told
    b = budget(machine(sums: [sum('s', %w[low], 9.0)]))
    assert_operator b.sums.readings.first.surprise, :>, Miser::Budget::Sums::STRANGE
  end

  # The next single reading of a load that was read in a sum takes what they have in common with it.
  def test_the_next_reading_never_promises_more_than_there_is
    random = Random.new(Minitest.seed)
    40.times do
      job = random_job(random)
      known = budget(job).entries('before').select { |e| e.load.known? }
      next if known.size < 2

      on = known.sample(random.rand(2..known.size), random: random)
      job['sums'] = [sum('s', on.map(&:id), on.sum { |e| e.load.amps(12.6) }.round(2), volts: 12.6)]
      line = budget(job).lines('before').find { |l| l.known? && l.scenario.running? } or next
      assert_operator line.load_variance, :>=, -1e-12
      Miser::Budget::NextReading.ranked(line).each { |c| assert_operator c.sigma_after, :<=, line.keeps.sigma + 1e-9 }
    end
  end
end
