# frozen_string_literal: true

require_relative '../test_helper'

# Faults hidden in machines, what is told of them, what it costs, how it is judged.
class DrillTest < Miser::Test
  include Miser
  include Miser::Drill

  MACHINES = Cli::DemoData.documents.to_h { |d| [d['id'], Drill::Machine.new(d)] }

  def machine(id = 'dunlin250') = MACHINES.fetch(id)
  def area(key, id = 'dunlin250') = machine(id).area(key)
  def suspect(id, machine: 'dunlin250') = machine(machine).areas.flat_map(&:suspects).find { |s| s.id == id } || flunk("no #{id}")

  # @param id [String] of a suspect @param key [String] of what is said
  def exercise(id, key, subject = nil, machine: 'dunlin250')
    Exercise.of(machine(machine), [{ 'fault' => id, 'sign' => key, 'subject' => subject }.compact])
  end

  def session(...) = Session.new(exercise(...))
  def act(kind, **rest) = Act.new(kind: kind, **rest)
  def look(*on, engine: 'off') = act('look', on: on, engine: engine)
  def volts(red, black, *on, engine: 'off') = act('read', what: 'volts', red: red, black: black, on: on, engine: engine)

  def test_a_sound_machine_gives_no_cause_to_complain_and_every_part_that_is_known_is_there
    expected = { 'bracken420' => %w[wiring charging fit], 'curlew1100' => %w[signals wiring charging fit], 'ptarmigan550' => %w[wiring fit],
                 'dunlin250' => %w[signals wiring charging fit], 'wren125' => %w[signals wiring charging fit] }
    assert_equal expected.sort, MACHINES.transform_values { |m| m.areas.map(&:key) }.sort
    MACHINES.each_value { |m| m.areas.each { |a| assert_empty a.signs([]), "#{m.name} #{a.key}" } }
  end

  def test_a_lead_and_a_reading_tell_what_kirchhoff_has
    s = session('signals/corroded@front_left~4', 'weak', 'front_left')
    feed, shell, switch = %w[front_left_feed front_left_shell left_switch].map { |p| s.do(volts(p, '0', 'key', 'lights', 'left')).value }
    amps = Signals::Seen.new(Signals::Fault.named('corroded@front_left~4', harness).apply(harness), 'left',
      thresholds: thresholds).closed.amps['front_left']
    assert_in_delta switch - feed, amps * (4.0 + wire_ohms), 0.02, 'the joint takes what its amps make of its ohms'
    assert_operator feed - shell, :<, feed
  end

  def sign_of(id) = sign_at(id, 'dunlin250')

  def survey = @survey ||= Signals::Survey.new(Budget::Budget.new(machine.document))
  # With its LEDs nothing was decided that makes it flash: the drill has it as it came in.
  def harness = survey.harness('before')
  def thresholds = survey.thresholds
  def wire_ohms = harness.lamp('front_left').then { |l| l.wire_ohm + (l.shell? ? 0 : l.earth_ohm) }

  def test_a_burnt_lamp_has_full_volts_at_its_holder_and_a_pulled_wire_works_while_its_housing_is_open
    burnt = session('signals/open@rear_left', 'one_dark', 'rear_left')
    assert_operator burnt.do(volts('rear_left_feed', '0', 'key', 'left')).value, :>, 11.5
    assert_equal ['It stays dark.'], burnt.do(act('bench', lamp: 'rear_left')).lines
    pulled = session('signals/pulled@rear_left', 'one_dark', 'rear_left')
    assert_equal 'dark', pulled.do(look('key', 'left')).looks['rear_left']
    assert_operator pulled.do(volts('rear_left_feed', '0', 'key', 'left')).value, :>, 11.5, 'to read it, it was opened'
    pulled.do(act('open', lamp: 'rear_left'))
    assert_equal 'flashes', pulled.do(look('key', 'left')).looks['rear_left']
    pulled.do(act('shut', lamp: 'rear_left'))
    assert_equal 'dark', pulled.do(look('key', 'left')).looks['rear_left']
    assert_equal ['It lights.'], pulled.do(act('bench', lamp: 'rear_left')).lines
  end

  def test_leads_clipped_on_do_what_they_would
    dead = session('signals/dead_flasher', 'dead', 'left')
    assert_equal 'dark', dead.do(look('key', 'left')).looks['front_left']
    dead.do(act('jumper', red: '49', black: '49a'))
    assert_equal 'steady', dead.do(look('key', 'left')).looks['front_left'], 'bridged, the lamps come on steady'
    unearthed = session('signals/unearthed', 'dead', 'left')
    unearthed.do(act('jumper', red: '31', black: '0'))
    assert_equal 'flashes', unearthed.do(look('key', 'left')).looks['front_left']
    unearthed.do(act('lift'))
    assert_equal 'dark', unearthed.do(look('key', 'left')).looks['front_left']
  end

  def test_feeds_are_solved_with_what_is_wrong_in_them
    bar = ->(id) { session("wiring/#{id}@w4", *sign_at("wiring/#{id}@w4", 'bracken420'), machine: 'bracken420') }
    on = %w[key lights high]
    points = machine('bracken420').points.to_h { |p| [p.name, p.id] }
    at = ->(s, name) { s.do(volts(points.fetch("Cargo-rack bar: #{name}"), '0', *on)).value }
    coil = bar['coil_earth']
    assert_operator at[coil, 'relay 85'], :>, 11.0, 'its coil hangs in the air'
    assert_equal 'dark', coil.do(look(*on)).looks['w4']
    blown = bar['blown']
    assert_in_delta 0.0, at[blown, 'behind its fuse'], 0.3
    contact = session('wiring/contact@w4~open', *sign_at('wiring/contact@w4~open', 'bracken420'), machine: 'bracken420')
    assert_operator at[contact, 'relay 86'], :>, 8.0
    assert_in_delta 0.0, at[contact, 'relay 87'], 0.3, 'pulled in, and nothing comes through'
    # A fuse is not made anew by mending its wire; a chafed feed takes it along whenever it is live.
    chafed = bar['chafed']
    assert_in_delta 0.0, at[chafed, 'behind its fuse'], 0.3
  end

  def sign_at(id, machine)
    s = suspect(id, machine: machine)
    area(id.split('/').first, machine).signs([s]).first.then { |sign| [sign.key, sign.subject] }
  end

  # What the alternator gives is what the loads and the battery take, whatever is wrong.
  def test_charging_balances_with_every_fault
    budget = Budget::Budget.new(machine('curlew1100').document)
    ledger = budget.ledgers('after').values.find { |l| l.circuit.dc? }
    scenario = budget.scenario('cruise_night')
    sum = ledger.sum(scenario)
    Charging::Fault.all_in(3).each do |f|
      c = ledger.circuit
      now = Charging::Troubled.new(curve: c.curve, battery: c.battery, held: c.held, trouble: f.does).at(scenario.rpm, sum)
      assert_in_delta sum.amps(now.volts), now.output_a + now.battery_a, 1e-6, f.id
      assert_operator now.regulator_v, :<=, (f.does.held || c.held) + 1e-6, f.id
      most = f.does.share * c.curve.amps(scenario.rpm, now.regulator_v)
      assert_operator now.output_a, :<=, most + 1e-6, f.id unless now.volts >= c.held - 1e-6
    end
    # Slowly turned, it is the coils and not the regulator that say how much: at the volts before the joint.
    c = ledger.circuit
    bad = Charging::Fault.all_in(3).find { |f| f.id == 'output_joint~bad' }
    slow = c.curve.cut_in(c.held) * 1.1
    turned = Charging::Troubled.new(curve: c.curve, battery: c.battery, held: c.held, trouble: bad.does).at(slow, sum)
    assert_operator turned.regulator_v, :<, c.held - 0.2
    assert_in_delta c.curve.amps(slow, turned.regulator_v), turned.output_a, 1e-3
    joint = Charging::Fault.all_in(3).find { |f| f.id == 'output_joint~worse' }
    now = Charging::Troubled.new(curve: ledger.circuit.curve, battery: ledger.circuit.battery, held: ledger.circuit.held,
      trouble: joint.does).at(scenario.rpm, sum)
    assert_in_delta 0.8, now.output_drop / now.output_a, 1e-6
  end

  def test_acts_cost_and_doors_open_once
    s = session('signals/dead_flasher', 'dead', 'left')
    assert_in_delta 1.0 + 3.0, s.do(volts('49', '0', 'key', 'left')).cost.minutes, 1e-9, 'the seat comes off first'
    assert_in_delta 1.0, s.do(volts('49a', '0', 'key', 'left')).cost.minutes, 1e-9
    wrong = s.do(act('cure', fault: 'signals/stuck'))
    assert_equal [false, 1], [wrong.well, s.wrong]
    assert_equal [10.0, 1800], wrong.cost.to_a
    right = s.do(act('cure', fault: 'signals/dead_flasher'))
    assert_equal [true, true, ['Tried: all is well.']], [right.well, s.well?, right.lines]
    assert_raises(DrillOver) { s.do(look) }
  end

  def test_no_engine_runs_with_the_key_out
    s = session('signals/dead_flasher', 'dead', 'left')
    state = s.do(look(engine: 'idle')).state
    assert_equal [%w[key], 'idle'], [state.on, state.engine]
  end

  def test_what_is_not_there_is_refused_by_name_and_costs_nothing
    s = session('signals/dead_flasher', 'dead', 'left')
    { act('dance') => UnknownName, look('key', 'turbo') => UnknownName, look('left', 'right') => SwitchesApart,
      look('key', engine: 'warp') => UnknownName,
      volts('nowhere', '0') => UnknownName, act('read', what: 'smell', red: '0') => UnknownName,
      act('jumper', red: 'bat', black: '0') => LeadBurns,
      act('jumper', red: '49', black: '49') => LeadBurns, act('unplug', lamp: 'telltale') => UnknownName,
      act('cure', fault: 'signals/gremlin') => UnknownName,
      volts('front_left_feed', 'l_low', 'key') => LeadsApart, act('cure') => UnknownName,
      act('read', what: 'volts') => UnknownName }.each do |bad, kind|
      assert_raises(kind, bad.to_row.to_s) { s.do(bad) }
    end
    assert_empty s.entries
    assert_equal 0.0, s.spent.minutes
  end

  def test_played_again_it_is_the_same
    s = session('signals/dead_flasher', 'dead', 'left')
    [look('key', 'left'), volts('49', '0', 'key', 'left'), act('hint'), act('cure', fault: 'signals/stuck'),
      act('give_up')].each { |a| s.do(a) }
    kept = JSON.parse(JSON.generate([s.exercise.to_rows, s.entries.map { |e| e.act.to_row }]))
    again = Session.new(Exercise.of(Drill::Machine.new(machine.document), kept[0]), kept[1].map { |r| Act.from(r) })
    assert_equal s.entries.map(&:to_h), again.entries.map(&:to_h)
    judged, seen = [s, again].map { |x| [Judge.new(x).steps.map { |step| [step.over.round(9), step.remains] }, Playback.new(x).frames] }
                             .transpose
    assert_equal(*judged)
    assert_equal(*seen.map { |frames| frames.map { |f| [f.words, f.looks, f.ways.map { |w| w[:points].map { |_, *volts| volts } }] } })
  end

  def test_the_judge_finds_nothing_against_the_best_and_says_where_others_part
    ex = exercise('signals/corroded@rear_left~4', *sign_of('signals/corroded@rear_left~4'))
    best = Players.play(Session.new(ex), 'best')
    assert_in_delta 0.0, Judge.new(best).steps.sum(&:over), 1e-9
    assert_nil Judge.new(best).parted
    naive = Players.play(Session.new(ex, policies: best.policies), 'naive')
    judge = Judge.new(naive)
    assert_operator judge.parted.over, :>, Judge::PARTED
    told = judge.told(judge.parted)
    assert_in_delta 1.0, told.sum { |t| t[:share] }, 1e-9
    assert_equal(1, told.count { |t| t[:so] })
    assert_match(/mended that/, judge.words.join(' '))
    asked = Session.new(ex, policies: best.policies)
    asked.do(act('hint'))
    asked.do(act('give_up'))
    assert_in_delta Costs::HINT.minutes, Judge.new(asked).steps.first.over, 1e-9, 'a hint costs what it costs'
    refute asked.solved?
  end

  # As if drills were items of one scale: somebody who stands anywhere on it is led to where two in three are solved.
  def test_two_drills_in_three_are_solved
    random = Random.new(5)
    shares = [-0.3, 0.6, 1.6].map do |ability|
      results = []
      300.times do
        aim = Level.aim(Level.abilities(results).last)
        difficulty = aim + (0.5 * (random.rand - 0.5))
        results << [difficulty, random.rand < Level.chance(ability, difficulty)]
      end
      results.drop(60).count(&:last) / 240.0
    end
    shares.each { |share| assert_in_delta Level::GOAL, share, 0.08 }
    assert_equal([1, 1, 2, 3, 4, 5], [-9.0, -1.1, -0.5, 0.0, 1.0, 2.0].map { |d| Level.of(d) })
    assert_equal(Level::NAMES, Level.bands.map { |b| b[:label] })
  end

  def test_a_maker_hides_what_is_asked_for
    maker = Maker.new(machine)
    other = Maker.new(Drill::Machine.new(machine.document))
    (1..5).each do |level|
      made = maker.make(level, Random.new(level))
      assert_equal level, Level.of(made.difficulty), level
      assert_equal 2, made.hidden.size if level == 5
      assert_equal made.to_rows, other.make(level, Random.new(level)).to_rows
    end
    bare = Job::Template.job(id: 'bare', name: 'Bare')
    assert_raises(NothingToHide) { Maker.new(Drill::Machine.new(bare)).make(1, Random.new(1)) }
  end

  def test_codes_are_read_as_they_are_written
    %w[fault.made-up.3.4711 fault.wren125.1.0 slips.5.99].each { |text| assert_equal text, Drill::Code.read(text).to_s }
    ['', 'fault.3.4711', 'slips.wren125.3.1', 'slips.6.1', 'slips.0.1', 'slips.1.99999999999', 'nonsense.1.1', "slips.1.1\n2",
      nil].each do |bad|
      assert_raises(UnknownName, bad.inspect) { Drill::Code.read(bad) }
    end
    assert_equal Drill::Code.read('fault.made-up.3.8').make(Random.new(8)).to_rows, Drill::Code.read('fault.made-up.3.8').make(Random.new(8)).to_rows
  end

  def test_questions_are_answered_by_the_core_and_take_what_they_offer
    Question::REGISTRY.each do |key, kind|
      (1..5).each do |level|
        6.times do |seed|
          question = kind.new(Random.new((100 * level) + seed), level)
          truth = question.judge(question.judge(first_of(question)).truth)
          assert truth.right, "#{key} #{level} #{seed}: #{truth.words}"
          assert_in_delta 1.0, truth.score, 1e-9
          again = kind.new(Random.new((100 * level) + seed), level)
          assert_equal [question.ask, question.rows], [again.ask, again.rows]
        end
      end
      assert_raises(UnknownName) { kind.new(Random.new(1), 1).judge({}) }
      assert_raises(UnknownName) { kind.new(Random.new(1), 1).judge(kind.new(Random.new(1), 1).fields.to_h { |f| [f.id, 'nonsense'] }) }
    end
  end

  def first_of(question) = question.fields.to_h { |f| [f.id, f.options ? f.options.first.first : 1.0] }

  # Each slip is one that the core itself would name, and only that row.
  def test_a_planted_slip_is_the_one_that_shows
    60.times do |seed|
      question = Slips.new(Random.new(seed), 1 + (seed % 5))
      truth = question.judge(first_of(question)).truth
      odd = question.rows.each_index.reject do |i|
        name, watts, volts, amps = question.rows[i]
        Draw::Plausibility.new(amps: Float(amps), volts: volts.to_f, rated_w: watts.to_f,
          other_w: [Slips::TWO_FILAMENTS[name]].compact).verdict == :expected
      end
      assert_equal [truth['row'].to_i], odd, "seed #{seed}"
      name, watts, volts, amps = question.rows[odd.first]
      named = Draw::Plausibility.new(amps: Float(amps), volts: volts.to_f, rated_w: watts.to_f, other_w: [Slips::TWO_FILAMENTS[name]].compact).suspects.first[0].key
      assert_equal truth['slip'], named, "seed #{seed}"
    end
  end

  def test_no_fuse_is_over_its_wire
    40.times do |seed|
      rating, area = WhatOpens.new(Random.new(seed), 1 + (seed % 5)).ask.scan(/[\d.]+/).first(2).map(&:to_f)
      assert_operator Draw::Conductor.carries(area), :>=, rating
    end
  end

  # A band twice as wide as it need be is no better than one that misses by little.
  def test_a_band_is_judged_by_what_it_covers_and_how_wide_it_is
    question = ByHead.new(Random.new(3), 2)
    keeps, band = question.judge(first_of(question)).truth.values_at('keeps', 'band')
    say = ->(k, b) { question.judge({ 'keeps' => k, 'band' => b }).right }
    assert_equal [true, true, false, false], [say[keeps, band], say[keeps + (band / 2), band], say[keeps, (4 * band) + 4],
      say[keeps + band + 2, 0.5]]
  end
end
