# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/loops'

class SignalsTest < Miser::Test
  include Miser::Loops
  include Miser::Signals

  # Reference circuit: 12.8 V, left commanded through 0.05 Ω, two LED and resistor lamps
  # a side, one 0.28 A filament tell-tale between; checked with a general circuit simulator.
  def reference(led)
    lamps = SIDES.product([1, 2]).map do |side, i|
      if led
        Miser::Network::Led.new("#{side}#{i}", side, '0', kind: 'resistor', volts: 12.8, amps: 0.12, from_v: 7.0)
      else
        Miser::Network::Filament.new("#{side}#{i}", side, '0', 12.0, 21 / 12.0)
      end
    end
    Miser::Network::Solver.new([Miser::Network::Source.new('battery', 'left', '0', 12.8, 0.05),
      Miser::Network::Filament.new('telltale', 'left', 'right', 12.0, 0.28), *lamps]).solve
  end

  def test_a_shared_tell_tale_lights_the_other_sides_leds
    with = reference(true)
    assert_in_delta 12.78, with.volts['left'], 0.01
    assert_in_delta 10.02, with.volts['right'], 0.01
    assert_operator with.residual, :<, 1e-6
    assert_in_delta 0.13, reference(false).volts['right'], 0.01
  end

  def test_parts_that_hang_on_nothing_or_contradict_are_named
    error = assert_raises(Miser::Unsolvable) do
      Miser::Network::Solver.new([Miser::Network::Source.new('battery', 'a', '0', 12, 0.1),
        Miser::Network::Resistor.new('stray', 'x', 'y', 1.0)])
    end
    assert_match(/stray/, error.message)
    error = assert_raises(Miser::Unsolvable) do
      Miser::Network::Solver.new([Miser::Network::Source.new('one', 'a', '0', 12, 0.0),
        Miser::Network::Source.new('two', 'a', '0', 13, 0.0)]).solve
    end
    assert_match(/one, two/, error.message)
    assert_raises(ArgumentError) { Miser::Network::Resistor.new('r', 'a', '0', 0.0) }
  end

  # Property: whatever is built, Kirchhoff's current law holds at every node.
  def test_currents_balance_in_random_loops
    random = Random.new(5)
    60.times do
      harness = random_loop(random)
      COMMANDS.product([true, false], [true, false], [11.5, 14.5]).each do |command, closed, lights, volts|
        solution = LoopCircuit.new(harness, State.new(command: command, closed: closed, lights: lights, volts: volts)).circuit.solve
        assert_operator solution.residual, :<, 1e-6
      end
    end
  end

  def test_laws_have_the_slope_they_say
    parts = [Miser::Network::Filament.new('f', 'a', '0', 12.0, 1.75), Miser::Network::Diode.new('d', 'a', '0'),
      Miser::Network::Resistor.new('r', 'a', '0', 4.7),
      *%w[resistor driver regulated].map { |k| Miser::Network::Led.new(k, 'a', '0', kind: k, volts: 13.0, amps: 0.2, from_v: 7.0) },
      Miser::Network::Led.new('b', 'a', '0', kind: 'resistor', volts: 13.0, amps: 0.2, from_v: 7.0, bridged: true),
      Miser::Network::Led.new('v', 'a', '0', kind: 'resistor', volts: 13.0, amps: 0.2, from_v: 7.0, reversed: true)]
    parts.each do |part|
      [-9.0, -0.4, 0.001, 0.3, 0.6, 6.98, 7.05, 9.0, 13.5].reject { |v| part.is_a?(Miser::Network::Diode) && v > 1 }.each do |v|
        numeric = (part.law(v + 1e-6)[0] - part.law(v - 1e-6)[0]) / 2e-6
        assert_in_delta numeric, part.law(v)[1], (numeric.abs * 1e-3) + 1e-6, "#{part.id} at #{v}"
      end
    end
  end

  def test_each_flasher_with_too_little_current
    pattern = ->(kind, share, **rest) { Flasher.new(kind: kind, design_a: 3.5, **rest).pattern(3.5 * share) }
    Flasher::TABLE.each { |k| assert_in_delta 85, pattern[k.key, 1.0].rate, 0.5, k.key }
    assert_equal 'steady', pattern['thermal', 0.1].rhythm
    assert_equal 'steady', pattern['capacitor', 0.1].rhythm
    assert_operator pattern['capacitor', 0.5].rate, :>, 120
    assert_in_delta 187, pattern['outage', 0.5].rate, 1
    %w[free_2 free_3].each { |k| assert_in_delta 85, pattern[k, 0.05].rate, 0.1 }
    assert_equal 'none', pattern['free_2', 0.0].rhythm
    assert_equal 'flashes', pattern['free_3', 0.0].rhythm
    assert_in_delta 170, pattern['controller', 0.1].telltale_rate, 1
    assert_in_delta 92, pattern['outage', 1.0, rate: 92].rate, 1e-9, 'a counted rate calibrates it'
    assert_equal 'none', pattern['free_3', 1.0, earthed: false].rhythm
    assert_equal 'none', pattern['free_3', 1.0, crossed: true].rhythm
    assert_equal 'flashes', pattern['thermal', 1.0, crossed: true].rhythm, 'a bimetal does not care'
    assert_raises(Miser::UnknownName) { Flasher.new(kind: 'clockwork', design_a: 1) }
  end

  def looks(view) = view.lamps.transform_values(&:looks)

  def test_filaments_are_fine_in_every_wiring_and_leds_are_not
    %w[pair shared diodes pilot
      none].each { |w| assert_empty Judgement.new(signal_loop(wiring: w), thresholds: SEEN).problems.map(&:text), w }
    led_loop = signal_loop(lamps: four(**led))
    assert_equal %w[flashes], looks(seen(led_loop)).values.uniq, 'all four'
    assert_equal 'fast', seen(led_loop).rate_word
    refute_predicate Judgement.new(led_loop, thresholds: SEEN), :works?
    mixed = signal_loop(lamps: four(**led).map { |l| l.side == 'right' ? signal_lamp(l.side, l.place) : l })
    assert_equal %w[flashes flashes dark dark], looks(seen(mixed)).values, 'a filament on the dark side earths the tell-tale'
  end

  def cures(lamps: four(**led), plug: %w[49 49a 31], school: 'swap', **rest)
    Cures.new(
      Remedy::Case.new(harness: signal_loop(lamps: lamps, **rest), before: signal_loop(**rest), volts: 13.5, plug: plug,
        catalogue: CATALOGUE), judge: ->(h) { Judgement.new(h, thresholds: SEEN) }, school: school
    )
  end

  def test_remedies_are_tried_and_ranked_by_school
    best = cures.ranked.first
    assert best.works
    assert_equal %w[diodes flasher_2], best.keys.sort
    assert_in_delta 0, best.amps, 1e-9
    assert best.loses_warning
    alone = cures.ranked.find { |c| c.keys == ['diodes'] }
    refute alone.works
    assert_match(/187 flashes/, alone.why.join)
    other = cures(school: 'resistors').ranked.first
    assert_equal ['resistors'], other.schools
    assert_includes cures.beside.schools, 'resistors'
  end

  def test_load_resistors_spend_what_was_saved
    remedy = LoadResistors.new(Remedy::Case.new(harness: signal_loop(lamps: four(**led)), before: signal_loop, volts: 13.5,
      plug: %w[49 49a 31], catalogue: CATALOGUE))
    assert_in_delta 13.5 / remedy.ohms, remedy.cost.amps, 1e-9
    assert_operator remedy.cost.amps, :>, 3.2
    assert_in_delta (13.5**2) / remedy.ohms, remedy.watts, 1e-9
    assert_operator remedy.rated_w, :>=, remedy.watts
    assert_operator remedy.cost.surface_c, :>, 100
    assert_includes Miser::Network::ESeries::E12.map { |v| v.round(2) }, remedy.ohms.round(2)
  end

  def test_pin_maps
    two_to_three = PinMap.new(%w[49 49a], %w[49 49a 31])
    assert_match(/Earth has to be added/, two_to_three.problems.first)
    refute_predicate two_to_three, :plugs_in?
    crossed = PinMap.new(%w[49a 49], %w[49 49a])
    assert_match(/49 and 49a would be crossed/, crossed.problems.first)
    left_over = PinMap.new(%w[49 49a 31], %w[49 49a])
    assert_predicate left_over, :plugs_in?
    assert_match(/insulate/, left_over.rows.last.note)
  end

  def test_each_fault_shows_its_sign
    good = signal_loop(lamps: four(**led).map { |l| l.place == 'front' ? l.with(running: [12.0, 0.42]) : l }, wiring: 'diodes',
      flasher: 'free_3')
    assert_predicate Judgement.new(good, thresholds: SEEN), :works?
    view = ->(id, command = 'left') { seen(Fault.named(id, good).apply(good), command) }
    %w[reversed@rear_left open@rear_left earth@rear_left].each { |id| assert_equal 'dark', looks(view[id])['rear_left'], id }
    assert_includes %w[dim ghost], looks(view['corroded@rear_left'])['rear_left']
    assert_equal 'steady', looks(view['single_in_dual@front_left', 'off'])['front_left'], 'lit by the running lights'
    assert_equal %w[flashes], looks(view['touching']).values.uniq
    assert_equal %w[flashes], looks(view['bridge']).values.uniq
    assert_predicate view['pinched@left'], :fuse_blows?
    refute_predicate view['pinched@left', 'right'], :fuse_blows?, 'the other side works'
    %w[crossed unearthed dead_flasher fuse].each { |id| assert_equal %w[dark], looks(view[id]).values.uniq, id }
    assert_equal 'steady', looks(view['stuck'])['front_left']
    assert_equal 'fast', view['wrong_flasher'].rate_word
    assert_equal 'dark', view['telltale'].telltales['telltale'].looks
    filaments = signal_loop(wiring: 'pair')
    assert_includes %w[dim ghost], looks(seen(Fault.named('in_series@left', filaments).apply(filaments)))['front_left']
    thermal = signal_loop(wiring: 'pair', flasher: 'thermal')
    assert_equal 'slow', seen(Fault::BY_KEY.fetch('feed').change.call(thermal, nil, 3.3)).rate_word
    small = signal_loop(lamps: four(law: 'regulated', volts: 12.0, amps: 0.02, from_v: 2.5), wiring: 'none')
    assert_equal 'ghost', seen(Fault.named('leaky', small).apply(small)).lamps['front_left'].open.level
  end

  def diagnose(faults, harness, commands: %w[left right hazard off])
    broken = faults.map { |id| Fault.named(id, harness) }.reduce(harness) { |h, f| f.apply(h) }
    seen_now = commands.to_h do |c|
      v = seen(broken, c)
      [c, { 'lamps' => v.lamps.transform_values(&:looks), 'rate' => v.rate_word }]
    end
    Diagnosis.new(harness, seen_now, thresholds: SEEN)
  end

  def test_every_single_fault_is_among_the_first_when_all_was_looked_at
    good = signal_loop(lamps: four(**led).map { |l| l.place == 'front' ? l.with(running: [12.0, 0.42]) : l }, wiring: 'diodes',
      flasher: 'free_3')
    hidden = %w[telltale feed leaky] + SIDES.map { |s| "in_series@#{s}" }
    one_each = Fault.all_in(good).group_by { |f| f.kind.key }.values.map { |list| list.last.id }
    (one_each - hidden).each do |id|
      diagnosis = diagnose([id], good, commands: id.include?('right') ? %w[right off] : %w[left off])
      best = diagnosis.candidates.first
      mine = diagnosis.candidates.find { |c| c.place_ids == [Fault.named(id, good).place_id] }
      assert mine, id
      assert_equal best.explains, mine.explains, "#{id} explains as much as #{best.id}"
      assert_operator mine.share, :>=, best.share / 12, id
    end
  end

  def test_two_faults_at_once_and_the_next_test
    good = signal_loop(lamps: four(**led), wiring: 'pair', flasher: 'free_3')
    both = diagnose(%w[reversed@rear_left corroded@front_right], good)
    assert_equal 2, both.candidates.first.faults.size
    assert_includes both.candidates.first.id, 'corroded@front_right'
    assert_includes both.candidates.first(3).flat_map { |c| c.faults.map(&:id) }, 'reversed@rear_left'
    one = Diagnosis.new(good, { 'left' => { 'lamps' => { 'rear_left' => 'dark' } } }, thresholds: SEEN)
    assert_operator one.next_test.gain, :>, 0.3
    assert_operator one.next_test.outcomes.size, :>=, 2
    assert_in_delta 1, one.next_test.outcomes.sum { |o| o[:share] }, 1e-6
    assert_equal 'none', Diagnosis.new(good, {}, thresholds: SEEN).candidates.max_by { |c| c.faults.empty? ? 1 : 0 }.id
    fine = diagnose([], good)
    assert_empty fine.candidates.first.faults, 'nothing wrong is an answer'
  end

  # Shares that have to add up to one would mislead where the cause is in no table.
  def test_none_of_these_has_a_share_of_its_own
    good = signal_loop(lamps: four(**led), wiring: 'pair', flasher: 'free_3')
    plain = Diagnosis.new(good, { 'left' => { 'lamps' => { 'rear_left' => 'dark', 'front_left' => 'flashes' } } }, thresholds: SEEN)
    assert_operator plain.candidates.find(&:other).share, :<, 0.05
    odd = { 'left' => { 'lamps' => { 'front_left' => 'ghost', 'rear_left' => 'steady', 'front_right' => 'flashes', 'rear_right' => 'dim' },
                        'rate' => 'slow' },
            'right' => { 'lamps' => { 'front_left' => 'steady', 'rear_left' => 'dark', 'front_right' => 'ghost', 'rear_right' => 'steady' },
                         'rate' => 'fast' } }
    best = Diagnosis.new(good, odd, thresholds: SEEN).candidates.first
    assert best.other
    assert_operator best.share, :>, 0.8
    assert_match(/battery on/, best.checks.first)
  end

  # A flasher knows the amps through it: a low side is fast, and hazard, with both sides through it, is not.
  def test_hazard_hides_a_low_side
    low = signal_loop(lamps: four.map { |l| l.id == 'rear_left' ? l.with(open: true) : l }, wiring: 'pair')
    assert_equal(%w[fast normal normal], %w[left right hazard].map { |c| seen(low, c).rate_word })
    %w[thermal capacitor outage].each { |k| assert_equal 'normal', seen(signal_loop(wiring: 'pair', flasher: k), 'hazard').rate_word, k }
    all_led = signal_loop(lamps: four(**led), wiring: 'pair')
    assert_equal 'fast', seen(all_led, 'hazard').rate_word, 'four LEDs together are still too little'
  end

  # What a check gave counts as what was seen.
  def test_a_check_decides
    good = signal_loop(lamps: four(**led), wiring: 'pair', flasher: 'free_3')
    seen_now = { 'left' => { 'lamps' => { 'rear_left' => 'dark' } } }
    first = ->(checks) { Diagnosis.new(good, seen_now.merge('checks' => checks), thresholds: SEEN).candidates.first.place_ids }
    assert_equal ['earth@rear_left'], first[{ 'earth@rear_left' => true }]
    assert_equal ['open@rear_left'], first[{ 'reversed@rear_left' => false, 'earth@rear_left' => false, 'swapped@rear' => false }]
  end

  # What is dropped early would not have been kept: the same candidates in the same order, with a share that hardly moves, for fewer
  # circuits.
  def test_faults_dropped_early_would_not_have_been_kept
    good = signal_loop(lamps: four(**led), wiring: 'pair', flasher: 'free_3')
    random = Random.new(29)
    solved = Array.new(6) do
      # The left as one fault has it, the right at odds with everything.
      broken = seen(Fault.all_in(good).sample(random: random).apply(good), 'left')
      seen_now = { 'left' => { 'lamps' => broken.lamps.transform_values(&:looks), 'rate' => broken.rate_word },
                   'right' => { 'lamps' => good.lamps.first(2).to_h { |l| [l.id, Diagnosis::LOOKS.sample(random: random)] } } }
      quick, thorough = [false, true].map { |all| Diagnosis.new(good, seen_now, thresholds: SEEN, thorough: all) }
      assert_equal thorough.candidates.map(&:id), quick.candidates.map(&:id)
      thorough.candidates.zip(quick.candidates) { |t, q| assert_in_delta t.share, q.share, 0.01, t.id }
      [quick.solved, thorough.solved]
    end
    assert_operator solved.sum(&:first), :<, 0.95 * solved.sum(&:last)
  end

  # Property: a rate tapped with a human's scatter comes back within its own doubt.
  def test_a_rate_from_taps
    random = Random.new(3)
    far = 40.times.count do
      rate = random.rand(55..190)
      period = 60.0 / rate
      taps = Array.new(14) { |i| (i * period) + ((random.rand - 0.5) * 0.06) }
      taps.delete_at(6) if random.rand < 0.4
      count = FlashCount.new(taps)
      (count.rate - rate).abs > 3 * count.sigma
    end
    assert_operator far, :<=, 2
    held = FlashCount.new([0, 0.7, 1.4, 2.1, 2.8], [0.35, 1.05, 1.75, 2.45, 3.15])
    assert_in_delta 0.5, held.on_share, 0.01
    assert_equal 2, FlashCount.new([0.0, 1.0]).more
    assert_equal 1, FlashCount.new([0, 0.7, 1.4, 2.8, 3.5]).missed
    assert_nil FlashCount.new([]).rate
  end

  # Limits: SAE J590 and FMVSS 108 (from memory); UN rules: 90 ± 30, the same.
  def test_limits
    assert_equal 60.0..120.0, Judgement::RATE
    assert_equal [60.0, 120.0], [90.0 - 30, 90.0 + 30]
    assert_equal 0.30..0.75, Judgement::LIT
  end

  # IEC 60063: E12 and E24 are 10^(i/n) to two figures, save the series' own exceptions.
  def test_preferred_values
    assert_equal 12, Miser::Network::ESeries::E12.size
    assert_equal 24, Miser::Network::ESeries::E24.size
    assert_equal Miser::Network::ESeries::E12, Miser::Network::ESeries::E24.values_at(*0.step(22, 2)), 'every second value of E24'
    Miser::Network::ESeries::E24.each_with_index { |v, i| assert_in_delta 10**(i / 24.0), v, 0.06 * v }
    assert_in_delta 3.9, Miser::Network::ESeries.at_most(4.2)
    assert_in_delta 0.82, Miser::Network::ESeries.at_most(0.99)
    assert_in_delta 47, Miser::Network::ESeries.at_most(55)
  end

  # Terminals by DIN 72552: 49 supply, 49a output, 31 earth.
  def test_terminals
    Flasher::TABLE.each { |k| assert_empty k.terminals - PinMap::WORDS.keys }
    assert_match(/supply/, PinMap::WORDS['49'])
    assert_match(/switch/, PinMap::WORDS['49a'])
    assert_match(/earth/, PinMap::WORDS['31'])
  end
end
