# frozen_string_literal: true

require_relative '../test_helper'

# Readings as they are taken and judged: the watch, claims, suspects, health, baseline.
class BenchRulesTest < Miser::Test
  include Miser::Draw

  def settings = @settings ||= Miser::Assumptions.new

  def watch(expected: 1.8, slow: true) = Watch.new(expected: expected, slow: slow, settings: settings)

  def feed(watch, until_s, step: 0.5, from: 0.0)
    (from..until_s).step(step) { |t| watch.take(t, yield(t)) }
    watch
  end

  def test_the_watch_waits_for_the_lamp_and_takes_its_cold_value
    w = feed(watch, 10) { |t| t < 3 ? 0.001 : 1.72 + (0.16 * Math.exp(-(t - 3) / 50)) }
    assert_equal :warming, w.state
    assert_in_delta 1.88, w.cold, 0.005
    assert_match(/Keep it lit/, w.words)
    feed(w, 200, from: 10.5) { |t| 1.72 + (0.16 * Math.exp(-(t - 3) / 50)) }
    assert_equal :warming, w.state, 'a slow tail is not ruled out yet'
    assert_in_delta 1.72, w.warm_up.settled, 2 * w.warm_up.settled_sigma
    assert_match(/may still fall/, w.words)
    feed(w, 700, from: 200.5) { |t| 1.72 + (0.16 * Math.exp(-(t - 3) / 50)) }
    assert_equal :settled, w.state
    assert_in_delta 1.72, w.warm_up.settled, 2 * w.warm_up.settled_sigma
    assert_operator w.warm_up.settled_sigma, :<, 0.01
  end

  def test_a_meter_that_is_still_integrating_gives_no_cold_value
    w = feed(watch(slow: false, expected: 4.5), 0.4, step: 0.2) { |t| [2.1, 4.4, 4.41][(t / 0.2).round] }
    assert_in_delta 4.4, w.cold, 1e-9
  end

  def test_a_filament_is_settled_in_seconds_and_a_drifting_led_is_not
    assert_equal :settled, feed(watch(slow: false), 7) { 1.75 }.state
    assert_equal :warming, feed(watch, 20) { |t| 1.8 - (0.0005 * t) }.state
  end

  def test_a_lamp_gone_dark_keeps_what_was_taken
    w = feed(watch, 30) { |t| t < 20 ? 1.8 : 0.0 }
    assert_equal :lost, w.state
    assert_operator w.series.last[0], :>, 15
    assert_equal(:warming,
      feed(watch,
        30) { |t| (t - 10).abs < 0.1 ? 0.0 : 1.8 }.tap do |x|
        assert_in_delta 30, x.seconds,
          0.6
      end.state.then { |s| s == :settled ? :warming : s })
  end

  def test_a_long_watch_stays_small_and_even
    w = feed(watch, 3000, step: 0.2) { |t| 1.72 + (0.16 * Math.exp(-t / 300)) }
    assert_operator w.series(1000).size, :<=, Watch::MOST
    gaps = w.series(1000).each_cons(2).map { |(a, _), (b, _)| b - a }
    assert_in_delta gaps.min, gaps.max, gaps.max * 0.6
  end

  # A 420 W bar on a harness fused and wired for 30 A: common practice.
  def test_a_claim_against_its_own_harness
    claim = Claim.new('watts' => 420.0, 'fuse_a' => 30.0, 'wire_mm2' => Conductor.area(12), 'lumens' => 40_000.0)
    assert_in_delta 33.6, claim.amps, 1e-9
    assert_equal(2, claim.findings.count { |f| f.level == 'impossible' && f.text.include?('33.6 A') })
    assert_in_delta 375, claim.ceiling_w, 1e-9
    assert_equal [147.0, 375.0], claim.range_w(settings)
    assert_match(/Advertised 420 W, takes 71.5 W: 17 %/, claim.beside(71.5))
    assert(Claim.new('watts' => 60.0, 'lumens' => 13_000.0).findings.any? { |f| f.level == 'doubtful' && f.text.include?('217 lm/W') })
    assert(Claim.new('watts' => 60.0, 'lumens' => 20_000.0).findings.any? { |f| f.level == 'impossible' })
    assert(Claim.new('fuse_a' => 30.0, 'wire_mm2' => 1.0).findings.any? { |f| f.text.include?('does not protect') })
    assert_empty Claim.new('watts' => 60.0, 'fuse_a' => 10.0, 'wire_mm2' => Conductor.area(16)).findings
    assert_empty Claim.new({}).findings
  end

  def test_a_claim_is_carried_as_a_range_until_measured
    job = plain_job(loads: [lamp('a')], choices: [swap('a', claim: { 'watts' => 420.0, 'fuse_a' => 30.0 })])
    load = budget(job).thing('a', 'c-a')
    assert_equal 'advertised', load.anchor.origin.key
    assert_in_delta (147 + 375) / 2.0 / 12, load.anchor.amps, 1e-9
    measured = job.merge('readings' => [{ 'id' => 'r', 'load_id' => 'a', 'choice_id' => 'c-a', 'kind' => 'settled', 'amps' => 5.7,
                                          'volts' => 12.5 }])
    assert_in_delta 5.7, budget(measured).thing('a', 'c-a').anchor.amps, 1e-9
  end

  def suspects(amps, rated: 55.0, **rest) = Plausibility.new(amps: amps, volts: 12.5, rated_w: rated, **rest).suspects.map { |s, _| s.key }

  def test_each_suspect_where_it_belongs
    expected = Filament.new(volts: 12.0, amps: 55 / 12.0).current(12.5)
    other = Filament.new(volts: 12.0, amps: 60 / 12.0).current(12.5)
    assert_equal 'wrong_jack', suspects(0.0).first
    assert_equal 'both_filaments', suspects(expected + other, other_w: [60.0]).first
    assert_equal %w[lead_drop battery_sag], suspects(expected * 0.73, volts_at_lamp: false).first(2)
    refute_equal 'lead_drop', suspects(expected * 0.73, volts_at_lamp: true).first, 'volts read at the lamp clear the leads'
    assert_equal 'other_rating', suspects(35 / 55.0 * expected).first
    assert_equal 'wrong_terminal',
      suspects(5 / 21.0 * Filament.new(volts: 12.0, amps: 1.75).current(12.5), rated: 21.0, other_w: [5.0]).first
    assert_equal 'overclaimed', suspects(0.9, rated: 40.0, filament: false).first
    assert_equal 'milliamps', suspects(expected * 1000).first
    Suspect::TABLE.each { |s| refute_empty s.check }
    words = Plausibility.new(amps: 4676.0, volts: 12.5, rated_w: 55.0).suspects.first.then { |s, _| s }
    assert_equal 'milliamps', words.key
    evidence = Suspect::Evidence.new(amps: 4676.0, volts: 12.5, expected: 4.6, low: 3.7, high: 5.5, others: [], filament: true)
    assert_match(/4676 mA is 4\.68 A/, words.words(evidence))
    assert_in_delta Math.exp(-0.5), evidence.near(4.6 * Math.exp(Suspect::NEAR)), 1e-9
    assert_equal [1.0, 0.0, 0.0], [evidence.near(4.6), evidence.near(-4.6), evidence.near(4.6, 0)]
    # 21 W lit on its 5 W terminal, and near enough the same: 55 W for 60 W is no other terminal.
    refute_includes suspects(other, other_w: [60.0]), 'wrong_terminal'
  end

  # What a stand-in said is kept and told for what it is; nothing rests on it that anything else is known of.
  def test_a_simulated_reading_counts_for_nothing
    practised = { 'id' => 'r', 'load_id' => 'a', 'kind' => 'settled', 'amps' => 9.0, 'volts' => 12.5, 'simulated' => true,
                  'second' => { 'amps' => 8.0, 'volts' => 14.0 } }
    job = plain_job(loads: [lamp('a', base: 'H4', filament: 'low')], readings: [practised])
    load = budget(job).thing('a')
    assert_equal 'nominal', load.anchor.origin.key
    assert_equal 'filament', load.law_key, 'its two voltages say nothing of the lamp'
    refute load.measured?
    wants = Miser::Ticket.new(job).stage('readings').wants.map(&:text)
    assert_includes wants, 'Lamp a: not measured'
    unknown = job.merge('loads' => [lamp('a')])
    assert_equal(['simulated', true], budget(unknown).thing('a').then { |l| [l.anchor.origin.key, l.figure(13.0).assumed] })
    real = job.merge('readings' => [practised.merge('id' => 'first', 'simulated' => false, 'amps' => 4.5).except('second'), practised])
    assert_in_delta 4.5, budget(real).thing('a').anchor.amps
    refute_includes Miser::Ticket.new(real).stage('readings').wants.map(&:text), 'Lamp a: not measured'
  end

  def test_system_volts_healthy_or_not
    health = Miser::Charging::Health
    assert_equal(%w[unhealthy unhealthy watch healthy watch], [11.5, 12.0, 12.3, 12.7, 13.1].map { |v| health.rest(v, 'lead').verdict })
    # Lithium iron phosphate, common practice: 13.1 to 13.3 level, 12.5 nearly empty, full 13.4; no share of its charge is claimed between.
    lithium = [11.9, 12.5, 13.05, 13.2, 13.4, 13.7].map { |v| health.rest(v, 'lithium') }
    assert_equal %w[unhealthy unhealthy watch healthy healthy watch], lithium.map(&:verdict)
    assert_match(/nearly empty for lithium/, lithium[1].text)
    assert_match(/do not tell/, lithium[3].text)
    assert_match(/As a lead battery: one of lithium would be nearly empty/, health.rest(12.7).text)
    assert_equal(%w[watch healthy], [13.3, 13.6].map { |v| health.idle(v, 14.8, nil, 'lithium').verdict })
    assert_equal(%w[watch healthy healthy unhealthy], [12.4, 13.0, 13.8, 15.1].map { |v| health.idle(v, 14.8, 12.6).verdict })
    assert_equal(%w[unhealthy watch healthy unhealthy], [12.9, 13.3, 14.1, 15.0].map { |v| health.cruise(v, 13.2, 14.8).verdict })
    battery = Miser::Charging::Battery.from({ 'capacity_ah' => 10.0, 'rest_v' => 12.8 }, settings)
    # 10 Ah from full to 40 %: 6 Ah, over 25 mA: 10 days.
    assert_match(/25 mA: 10 days/, health.key_off(0.025, battery).text)
    assert_equal 'unhealthy', health.key_off(0.025, battery).verdict
    # Days to flat: under a fortnight, under six weeks or so, beyond.
    lasting = Struct.new(:left) { def days(_) = left }
    verdicts = [0.05, 13.9, 14.1, 44.9, 45.1].map { |days| health.key_off(0.01, lasting.new(days)) }
    assert_equal %w[unhealthy unhealthy watch watch healthy], verdicts.map(&:verdict)
    assert_match(/: 1 hour until/, verdicts.first.text)
    assert_match(/14 days/, verdicts[1].text)
    assert_equal %w[healthy watch], [health.key_off(0.0, battery), health.key_off(0.01, nil)].map(&:verdict)
  end

  def plan(job, **rest)
    b = budget(job)
    Miser::Budget::PointPlan.new(b.ledgers('before').values.first, b.document.machine, **rest)
  end

  def test_points_to_measure_and_what_to_switch_on
    job = plain_job(loads: [lamp('a', figures: stated(4.4)), lamp('b', role: 'head_high', figures: stated(4.8)),
      lamp('l', role: 'signal_left', figures: stated(3.6)), lamp('r', role: 'signal_right', figures: stated(3.4)),
      lamp('g', role: 'grips', figures: stated(3.0))])
    steps = plan(job).steps
    assert_equal steps.map(&:rpm).sort, steps.map(&:rpm)
    assert_operator steps.size, :>=, 3
    assert_equal ['Lamp b', 'Lamp g', 'Lamp l flashing'], steps.last.switch_on, 'biggest first, one beam, one side at half'
    assert_within 1e-9, 4.8 + 3.0 + 1.8, steps.last.demand_a
    steps.select(&:enough).each { |s| assert_operator s.demand_a, :>=, s.expect_a.value }
    assert steps.first.enough
    refute steps.last.enough
    assert_match(/it will shunt/, steps.last.words)
    assert_includes plan(job, hazard: true).steps.last.switch_on, 'Lamp l and Lamp r flashing'
    both = job.merge('loads' => job['loads'].map { |l| l['id'] == 'a' ? l.merge('stays_on' => true) : l })
    assert_includes plan(both).steps.last.switch_on, 'Lamp b and Lamp a'
    bare = plain_job(circuits: [plain_job['circuits'][0].merge('alternator' => { 'points' => [] })])
    assert_empty(plan(bare.merge('machine' => {})).steps)
  end

  def test_the_right_clamp_on_the_right_wire
    assert_match(/DC amps/, plan(plain_job(loads: [lamp('a')])).how.first)
    assert_match(/middle/, plan(plain_job(loads: [lamp('l', role: 'signal_left', figures: stated(3.6))])).how.last)
    coil = plain_job(system: 'ac_lit', loads: [lamp('low', base: 'S2', circuit: 'lighting')])
    assert_match(/for AC, true rms/, plan(coil).how.first)
    coil['circuits'][0]['regulator'] = { 'fitted' => false }
    assert_match(/Nothing shunts/, plan(coil).steps.first.words)
  end

  def test_the_baseline_puts_the_most_worthwhile_first
    job = plain_job(loads: [lamp('a', figures: stated(4.4, origin: 'nominal')), lamp('b', role: 'signal_left', figures: stated(0.2)),
      lamp('c', role: 'tail', figures: stated(0.4))],
      choices: [swap('a', figures: stated(1.7))],
      readings: [{ 'id' => 'r', 'load_id' => 'c', 'kind' => 'settled', 'amps' => 0.4, 'volts' => 12.5 }])
    before = Miser::Verdicts::Baseline.new(budget(job), 'before').items
    assert_equal(before.map(&:done), before.map(&:done).sort_by { |d| d ? 1 : 0 })
    shares = before.reject(&:done).map { |i| i.share || 0 }
    assert_equal shares.sort.reverse, shares
    assert_equal 'points/main', before.first.key, 'a rating is what is known least'
    assert_equal %w[draw/c rest_v], before.select(&:done).map(&:key).sort
    assert(before.any? { |i| i.key == 'flash_per_min' })
    after = Miser::Verdicts::Baseline.new(budget(job), 'after').items.map(&:key)
    assert_includes after, 'draw/a.c-a'
    refute_includes after, 'draw/c', 'only what was changed is read again'
    done = job.merge('checks' => { 'before' => { 'tried' => true, 'idle_v' => 15.2 } })
    items = Miser::Verdicts::Baseline.new(budget(done), 'before').items.to_h { |i| [i.key, i] }
    assert items['tried'].done
    assert_equal 'unhealthy', items['idle_v'].call.verdict
  end
end
