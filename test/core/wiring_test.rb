# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/wirings'
require_relative '../../formats/job_schema'

# Feeds, what they do in every state of the switches, what is found wrong with them.
class WiringTest < Miser::Test
  include Miser::Wirings

  def bar(amps = 6.0, **rest) = extra('bar', amps, **rest)

  def on_bar(kind, **rest)
    wiring = rest.slice(:devices, :switches, :lights).transform_keys(&:to_s)
    wired(added: [bar(rest.fetch(:amps, 3.0))], wiring: wiring.merge('feeds' => [feed('bar', kind, **rest.except(:devices, :switches,
      :lights, :amps))]))
  end

  HUB = { 'id' => 'hub', 'kind' => 'hub', 'name' => 'Hub', 'fuse_a' => 30 }.freeze
  BOX = { 'id' => 'box', 'kind' => 'controller', 'name' => 'Box', 'fuse_a' => 20, 'triggers' => { 'ignition' => 'key' },
          'channel_a' => { 'fuse_a' => 8 },
          'channel_b' => { 'fuse_a' => 8 } }.freeze
  SWITCH = [{ 'id' => 's', 'name' => 'Bar switch' }].freeze

  LEAVES = BOX.merge('triggers' => { 'ignition' => 'key', 'left' => 'left' }).freeze

  # Written out by hand from how each is wired: the sets of switches that light it, each with what must be off; the rest does not matter.
  def by_hand
    { 'relay on high' => [on_bar('relay', trigger: 'high', fuse_a: 5), ['key lights high']],
      'relay on low' => [on_bar('relay', trigger: 'low', fuse_a: 5), ['key lights -high']],
      'relay on the battery' => [on_bar('relay', trigger: 'battery', fuse_a: 5), ['']],
      'relay on the key, switched' => [on_bar('relay', trigger: 'key', fuse_a: 5, switch_id: 's', switches: SWITCH), ['key switch:s']],
      'relay held back' => [on_bar('relay', trigger: 'lights', fuse_a: 5, interlock: true), ['key lights -high']],
      'relay held back, jumper' => [on_bar('relay', trigger: 'lights', fuse_a: 5, interlock: true, jumper: true), ['key lights']],
      'lights with the key' => [on_bar('relay', trigger: 'lights', fuse_a: 5, lights: 'with_key'), ['key']],
      'tap, brake’s live wire' => [on_bar('tap', source: 'brake_live', amps: 0.4), ['key']],
      'tap, brake’s switched wire' => [on_bar('tap', source: 'brake', amps: 0.4), ['key brake']],
      'accessory terminal' => [on_bar('accessory', fuse_a: 5), ['key']],
      'battery direct' => [on_bar('battery', fuse_a: 5), ['']],
      'hub, high' => [on_bar('hub', devices: [HUB], device_id: 'hub', output: 'high'), ['key lights high']],
      'hub, always hot' => [on_bar('hub', devices: [HUB], device_id: 'hub', output: 'hot'), ['']],
      'channel' => [on_bar('controller', devices: [BOX], device_id: 'box', output: 'a'), ['key']],
      'channel without ignition' => [on_bar('controller', devices: [BOX.except('triggers')], device_id: 'box', output: 'a'), []],
      'channel that goes out left' => [on_bar('controller', devices: [LEAVES], device_id: 'box', output: 'a', side: 'left'),
        ['key -left']] }
  end

  def meets?(state, pattern)
    off, on = pattern.split.partition { |w| w.start_with?('-') }
    (on - state).empty? && !off.map { |w| w.delete_prefix('-') }.intersect?(state)
  end

  def test_what_is_lit_in_every_state
    by_hand.each do |name, (job, patterns)|
      truth = survey(job).truth
      bar = truth.scheme.consumer_of('bar')
      truth.states.each do |state|
        lit = %w[on dim].include?(truth.seen(bar, state))
        assert_equal patterns.any? { |p| meets?(state, p) }, lit, "#{name}: #{state.join(' ')}"
      end
    end
  end

  def test_what_flashes
    job = wired(added: [extra('more', 0.3, role: 'signal_left')], wiring: { 'feeds' => [feed('more', 'branch')] })
    truth = survey(job).truth
    more = truth.scheme.consumer_of('more')
    assert_equal('flash', truth.seen(more, %w[key left]))
    assert_equal('off', truth.seen(more, %w[key right]))
    assert_equal truth.states.size, truth.right
    strobe = BOX.merge('triggers' => { 'ignition' => 'key', 'horn' => 'horn' })
    truth = survey(on_bar('controller', devices: [strobe], device_id: 'box', output: 'b', strobe: true, wish: 'key')).truth
    assert_equal('flash', truth.seen(truth.scheme.consumer_of('bar'), %w[horn key]))
    assert_equal truth.states.size, truth.right
  end

  # A running light that goes out while its side signals, one that is wanted on, and a wish for one state alone.
  def test_what_is_wanted
    job = on_bar('relay', trigger: 'low', fuse_a: 5, wish: 'high')
    truth = survey(job).truth
    refute_equal truth.states.size, truth.right
    assert_equal 'As wanted in all 48 switch positions.', survey(on_bar('relay', trigger: 'high', fuse_a: 5)).truth.words
    one = job['wiring'].merge('wanted' => [{ 'id' => 'a', 'load_id' => 'bar', 'state' => 'key+lights', 'want' => 'any' }])
    assert_equal truth.right + 1, survey(job.merge('wiring' => one)).truth.right
  end

  # Cut too short for a way that was measured is wrong; for one that is only usual it is a thing to look at.
  def test_a_short_wire_at_the_steering
    short = [{ 'id' => 'out', 'key' => 'out', 'length_m' => 1.1 }]
    job = on_bar('relay', trigger: 'high', fuse_a: 5, at: 'head', wires: short)
    severity = ->(j) { survey(j).findings.find { |f| f.rule == 'steering' }&.severity }
    assert_equal 'note', severity[job]
    measured = job.merge('wiring' => job['wiring'].merge('places' => { 'head' => 0.35, 'tank' => 0.45, 'seat' => 0.45 }))
    assert_equal 'red', severity[measured]
    assert_nil severity[measured.merge('wiring' => measured['wiring'].merge('places' => { 'head' => 0.3, 'tank' => 0.3, 'seat' => 0.3 }))]
  end

  # A hub as its maker has it: its own outputs, what each follows, its limit.
  def test_outputs_of_its_own
    hub = HUB.merge('outputs' => [{ 'id' => 'rear-left', 'group' => 'lamp', 'sense' => 'left', 'limit_a' => 2 }, { 'id' => 'hot' }])
    found = survey(on_bar('hub', devices: [hub], device_id: 'hub', output: 'rear-left', wish: 'left'))
    bar = found.scheme.consumer_of('bar')
    assert_equal %w[flash off], [found.truth.seen(bar, %w[key left]), found.truth.seen(bar, %w[key right])]
    assert_match(/3\.\d A is on together, 2 A is its limit/, found.findings.find { |f| f.rule == 'hub_over' }.text)
    assert_includes rules(on_bar('hub', devices: [hub], device_id: 'hub', output: 'switched')), 'no_output'
  end

  # A ring light on the wrong wire of the brake switch, driving lights with the low beam: the usual ways to get it wrong, by name.
  def test_usual_mistakes_are_named
    ring = on_bar('tap', source: 'brake', amps: 0.3, wish: 'key')
    found = survey(ring).findings.find { |f| f.rule == 'not_as_wanted' }
    assert_match(/dark with key on, brake off; it should be on. It is on the switched wire of the brake switch/, found.text)
    cured = Miser::Job::Edit.apply(settled(ring), found.cures.first.edits)
    assert_equal 'As wanted in all 48 switch positions.', survey(cured).truth.words
    held = survey(on_bar('relay', trigger: 'high', fuse_a: 5, interlock: true)).findings.find { |f| f.rule == 'not_as_wanted' }
    assert_match(/holds it back on high beam/, held.text)
    assert_match(/local code/, held.caution)
    low = survey(on_bar('relay', trigger: 'lights', fuse_a: 5)).findings.find { |f| f.rule == 'not_as_wanted' }
    assert_match(/on with key on, lights on, high beam off; it should be off/, low.text)
  end

  # What nothing feeds just now hangs on nothing: it is dark, and not in the way of the rest.
  def test_what_hangs_on_nothing_is_left_out
    job = on_bar('accessory', fuse_a: 5, switch_id: 's', switches: SWITCH)
    loose = job['wiring'].merge('wires' => [{ 'id' => 'w', 'from' => 'horn', 'to' => 'accessory' }])
    [job, job.merge('wiring' => loose)].each do |wired|
      truth = survey(wired).truth
      assert_equal(%w[off on], [[], %w[key switch:s]].map { |on| truth.seen(truth.scheme.consumer_of('bar'), on) })
      assert_equal ['battery'], truth.look([]).on.circuit.elements.map(&:id)
    end
  end

  # Rule => a wiring that breaks it, and one that is mended.
  def broken
    good = on_bar('relay', trigger: 'high', fuse_a: 5)
    thin = wires({ out: 0.5 })
    { 'fuse_over_wire' => [on_bar('relay', trigger: 'high', fuse_a: 15, wires: thin), good],
      'fuse_under' => [on_bar('relay', trigger: 'high', fuse_a: 3), good], 'no_fuse' => [on_bar('relay', trigger: 'high'), good],
      'fuse_opens' => [on_bar('relay', trigger: 'high', fuse_a: 2), good],
      'hot_lamp' => [on_bar('relay', trigger: 'battery', fuse_a: 5), good], 'not_as_wanted' => [on_bar('relay', trigger: 'low',
        fuse_a: 5), good],
      'bus_trigger' => [on_bar('relay', trigger: 'high', fuse_a: 5).merge('system' => 'data_bus'), good],
      'bus_splice' => [on_bar('tap', source: 'key', amps: 0.4).merge('system' => 'data_bus'), on_bar('tap', source: 'key', amps: 0.4)],
      'tap_side' => [on_bar('tap', source: 'key', amps: 0.4, tap_side: 'lamp'), on_bar('tap', source: 'key', amps: 0.4)],
      'tap_over' => [on_bar('tap', source: 'key', amps: 3.0), on_bar('tap', source: 'key', amps: 1.0)],
      'drop' => [on_bar('relay', trigger: 'high', fuse_a: 5, wires: wires({ out: 0.5 }, { out: 5 })), good],
      'claim' => [wired(added: [bar.merge('claim' => { 'watts' => 360, 'fuse_a' => 15 })], wiring: { 'feeds' => [feed('bar', 'relay',
        trigger: 'high', fuse_a: 10)] }), good],
      'key_off' => [wired(added: [extra('t', 0.1, role: 'tracker', key_off_a: 0.2)], wiring: { 'feeds' => [feed('t', 'battery',
        fuse_a: 1)] }),
        wired(added: [extra('t', 0.1, role: 'tracker', key_off_a: 0.005)], wiring: { 'feeds' => [feed('t', 'battery', fuse_a: 1)] })],
      'contact' => [on_bar('relay', trigger: 'high', fuse_a: 5, relay_a: 2), good],
      'hub_over' => [on_bar('hub', amps: 9.0, devices: [HUB], device_id: 'hub', output: 'high'), on_bar('hub', devices: [HUB],
        device_id: 'hub', output: 'high')],
      'step' => [on_bar('controller', devices: [BOX.merge('channel_a' => { 'fuse_a' => 2, 'level' => 2 })], device_id: 'box',
        output: 'a'),
        on_bar('controller', devices: [BOX], device_id: 'box', output: 'a')],
      'no_output' => [on_bar('hub'), good], 'no_ignition' => [on_bar('controller', devices: [BOX.merge('triggers' => {})],
        device_id: 'box', output: 'a'), good],
      'steering' => [on_bar('relay', trigger: 'high', fuse_a: 5, at: 'head', wires: wires({}, {}) + [{ 'id' => 'out', 'key' => 'out',
                                                                                                       'length_m' => 0.6 }]), good],
      'exhaust' => [on_bar('relay', trigger: 'high', fuse_a: 5, at: 'engine'), good],
      'painted' => [on_bar('relay', trigger: 'high', fuse_a: 5, earth: 'bracket'), good],
      'cut_plug' => [on_bar('relay', trigger: 'high', fuse_a: 5, plug_cut: true), good] }
  end

  def rules(job) = survey(job).findings.map(&:rule)

  def test_each_rule_finds_what_is_wrong_and_nothing_else
    broken.each do |rule, (bad, mended)|
      assert_includes rules(bad), rule, rule
      refute_includes rules(mended), rule, rule
    end
  end

  # A cure that is offered cures, and is valid.
  def test_cures_cure
    count = 0
    broken.each do |rule, (bad, _)|
      bad = settled(bad)
      survey(bad).findings.select { |f| f.rule == rule }.each do |found|
        found.cures.each do |cure|
          cured = Miser::Job::Edit.apply(bad, Miser::Job::Plain.of(cure.edits))
          again = survey(cured).finding(found.key)
          refute again && again.text == found.text, "#{rule}: #{cure.label} changed nothing"
          count += 1
        end
      end
    end
    assert_operator count, :>=, 12
  end

  def test_rows_of_the_wiring_alone
    wiring = { 'feeds' => [feed('bar', 'relay', trigger: 'high', fuse_a: 5)], 'spares' => [{ 'id' => 's', 'name' => 'Plug for a horn',
                                                                                             'live' => true }],
               'wires' => [{ 'id' => 'w', 'from' => 'key' }], 'connectors' => [{ 'id' => 'c', 'name' => 'Behind the lamp',
                                                                                 'wires' => 5 }],
               'colours' => [{ 'id' => 'k', 'function' => 'high', 'colour' => 'blue' }] }
    bad = rules(wired(added: [bar(3.0)], wiring: wiring))
    assert_equal 2, bad.count('bare_lead')
    assert_includes bad, 'ports'
    assert_includes bad, 'unproved'
    assert_includes rules(wired(added: [bar(3.0)], wiring: { 'feeds' => %w[a b].map do |id|
      feed('bar', 'relay', id: id, trigger: 'high')
    end })), 'twice'
    mended = wiring.merge('spares' => [{ 'id' => 's', 'name' => 'Plug', 'live' => true, 'capped' => true }], 'wires' => [],
      'connectors' => [{ 'id' => 'c', 'name' => 'B', 'wires' => 6, 'shared' => 2 }],
      'colours' => [])
    assert_empty rules(wired(added: [bar(3.0)], wiring: mended)) & %w[bare_lead ports unproved]
  end

  def kase(**rest)
    Miser::Feeds::Kind::Case.new(role: 'aux_lamp', group: 'accessory', amps: 3.0, swapped: false, brought: false, plugs_differ: false,
      bus: false, battery: true, extras: 1,
      **rest)
  end

  def test_what_is_proposed
    { kase(swapped: true, role: 'head_low') => 'own_plug', kase(swapped: true, plugs_differ: true, role: 'head_low') => 'adapter',
      kase(amps: 6.0) => 'relay',
      kase(amps: nil) => 'relay', kase(amps: 0.4) => 'tap', kase(bus: true) => 'hub', kase(role: 'tracker', bus: true) => 'battery',
      kase(extras: 2) => 'controller',
      kase(role: 'charger') => 'accessory', kase(role: 'signal_left', brought: true, amps: 0.2) => 'branch', kase(role: 'position',
        brought: true, amps: 0.2) => 'tap',
      kase(battery: false, amps: 6.0) => nil, kase(battery: false, role: 'charger') => 'accessory' }.each do |kase, key|
      kind, why = Miser::Feeds::Kind.propose(kase)
      key.nil? ? assert_nil(kind, kase) : assert_equal(key, kind&.key, kase)
      refute_nil why if key
    end
  end

  # Taken, every kind is filled in: wires that may be fused as they are, nothing lost but what is said.
  def test_every_kind_filled_in
    job = settled(wired(added: [bar(4.0)], wiring: { 'devices' => [HUB, BOX] }))
    scheme = survey(job).scheme
    consumer = scheme.consumer_of('bar')
    scheme.offers(consumer).select { |_, no| no.nil? }.map(&:first).each do |kind|
      row = scheme.filled_as(consumer, kind)
      done = survey(job.merge('wiring' => job['wiring'].merge('feeds' => [row])))
      assert_equal [], Miser::Formats::JobSchema.errors(settled(job.merge('wiring' => job['wiring'].merge('feeds' => [Miser::Job::Plain.of(row)]))))
      assert_empty done.findings.map(&:rule) & %w[fuse_over_wire fuse_under no_fuse drop no_output], kind.key
      assert_operator done.needs.decided.size, :>=, kind == Miser::Feeds::OwnPlug ? 0 : 1
    end
  end

  def test_sizes
    size = lambda { |amps, metres, **rest|
      Miser::Wiring::Sizing.new(amps: amps, metres: metres, volts: 14.0, drop: 0.03, units: 'metric',
          **rest)
    }
    assert_in_delta 10.0, size[8.0, 1].fuse.value
    assert_in_delta 2.5, size[10.0, 6].area.value
    assert_in_delta 0.5, size[4.0, 1].area.value, 1e-9, 'its fuse of 5 A sits on 0.5 mm²'
    assert_in_delta 1.0, size[8.0, 0.5].area.value, 1e-9, 'its fuse of 10 A wants more than the drop does'
    assert_in_delta 7.5, size[5.5, 1, cold_a: 6.0].fuse.value
    refute_predicate size[40.0, 1].fuse, :known?
    assert_nil size[10.0, 6].drop_missed
    us = Miser::Wiring::Sizing.new(amps: 10.0, metres: 6.0, volts: 14.0, drop: 0.03, units: 'us')
    assert_equal '12 AWG', Miser::Draw::Conductor.words(us.area.value, 'us')
  end

  # The ceiling of the fuse comes first; where the drop can't be met, that is said and the thickest sound size is offered.
  def test_no_size_is_thinner_than_its_fuse_allows
    [[13.0, 12.0, 0.0], [15.0, 20.0, 0.0], [15.0, 4.0, 0.05]].each do |amps, metres, fixed|
      sizes = Miser::Wiring::Sizing.new(amps: amps, metres: metres, volts: 14.0, drop: 0.03, units: 'metric', fixed_ohms: fixed)
      assert_in_delta 20.0, sizes.fuse.value
      assert_in_delta 4.0, sizes.area.value
      assert_match(/shorten it, or feed it twice/, sizes.drop_missed)
    end
    far = survey(on_bar('relay', trigger: 'high', amps: 13.0, wires: [{ 'id' => 'out', 'key' => 'out', 'length_m' => 9.0 }])).scheme
    row = far.filled_as(far.consumer_of('bar'), Miser::Feeds::Relay)
    assert_in_delta 20.0, row['fuse_a']
    lamp_wires = row['wires'].reject { |w| %w[trigger coil_earth].include?(w['key']) }
    assert_equal [4.0], lamp_wires.map { |w| w['area_mm2'] }.uniq, 'every wire under the 20 A fuse'
    found = survey(on_bar('relay', trigger: 'high', amps: 13.0, fuse_a: 20)).findings.find { |f| f.rule == 'fuse_over_wire' }
    assert_match(/20 A fuse on 1.5 mm²/, found.text)
    assert_includes rules(on_bar('hub', devices: [HUB.merge('area_mm2' => 1.5)], device_id: 'hub', output: 'high')), 'fuse_over_wire'
  end

  # 420 W claimed are 30 A at 14 V, which a 40 A blade would carry and neither relay nor socket does.
  def test_no_fuse_and_no_draw_over_a_contact
    sold = lambda do |**rest|
      claimed = bar.merge('figures' => [{ 'id' => 'f-bar', 'origin' => 'advertised', 'watts' => 420 }])
      wired(added: [claimed], wiring: { 'feeds' => [feed('bar', 'relay', trigger: 'high', **rest)] })
    end
    scheme = survey(sold.call).scheme
    consumer = scheme.consumer_of('bar')
    assert_match(/more than the relay contact \(30 A\) stands/, scheme.sizing(consumer.entry, consumer.feed).fuse.reason)
    refute scheme.filled_as(consumer, Miser::Feeds::Relay).key?('fuse_a')
    none = survey(sold.call).findings.find { |f| f.rule == 'no_fuse' }
    assert_match(/None will do: 30.0 A wants a 40 A fuse/, none.text)
    assert_empty none.cures
    assert_includes rules(sold.call(fuse_a: 40)), 'fuse_over_contact'
    assert_includes rules(sold.call(fuse_a: 40, relay_a: 40)), 'fuse_over_contact', 'the socket still stands 30 A'
    assert_empty rules(sold.call(fuse_a: 40, relay_a: 40, socket_a: 40)) & %w[fuse_over_contact contact no_fuse]
    assert_includes rules(sold.call(fuse_a: 30, relay_a: 25)), 'contact'
    bullets = [{ 'id' => 'out', 'key' => 'out', 'area_mm2' => 4.0, 'join' => 'bullet' }]
    assert_includes rules(on_bar('relay', trigger: 'high', amps: 11.0, fuse_a: 15, wires: bullets)), 'contact'
    assert_includes rules(on_bar('battery', amps: 9.0, fuse_a: 15, switch_id: 's', switches: SWITCH)), 'fuse_over_contact'
    assert_includes rules(on_bar('accessory', amps: 3.0, fuse_a: 15)), 'fuse_over_contact'
    assert_includes rules(on_bar('hub', devices: [HUB.merge('total_a' => 20, 'area_mm2' => 4.0)], device_id: 'hub', output: 'high')),
      'fuse_over_contact'
  end

  def test_lengths_along_the_machine
    places = Miser::Feeds::Places.new({}, 'motorcycle')
    way = places.way('head', 'battery')
    assert_in_delta 0.35 + 0.45 + 0.45 + Miser::Feeds::Places::SLACK, way.metres
    assert_equal ['head', 'steering neck', 'tank', 'seat'], way.via
    assert_in_delta 1.25, Miser::Feeds::Places.new({}, 'snowmobile').way('head', 'battery').metres
    assert_in_delta 0.5, places.way('tail', 'seat').metres
    assert_in_delta 0.9, Miser::Feeds::Places.new({ 'places' => { 'tail' => 0.9 } }, 'atv').way('seat', 'tail').metres
    assert places.way('engine', 'seat').hot
    assert_equal 'rack', places.of({ 'position' => 'cargo rack', 'role' => 'aux_lamp' })
  end

  # A driver draws more as volts sag: what the wires lose comes back into the budget, and what a coil takes.
  def test_the_budget_hears_of_it
    long = on_bar('relay', trigger: 'high', fuse_a: 5, wires: wires({ out: 0.5 }, { out: 8 }))
    bare, fed = [wired(added: [bar(3.0)]), long].map do |job|
      Miser::Budget::Budget.new(settled(job)).line('after', 'cruise_night',
        'main').spends.value
    end
    coil = Miser::Job::Fed::COIL_A * 14.0 / 12.0
    assert_operator fed, :>, bare + coil + 0.05
    loads = settled(long)['loads']
    assert_equal(['coil-f-bar'], loads.select { |l| l['fed_by'] }.map { |l| l['id'] })
    gone = settled(long.merge('wiring' => { 'feeds' => [] }, 'loads' => loads))
    assert_empty(gone['loads'].select { |l| l['fed_by'] })
    box = Miser::Budget::Budget.new(settled(wired(wiring: { 'devices' => [HUB.merge('quiescent_a' => 0.3, 'key_off_a' => 0.01)] })))
    assert_in_delta 0.01, box.line('after', 'parked', 'main').spends.value
    assert_in_delta 0.3, box.entries('after').find { |e| e.row['fed_by'] }.load.amps(14.0), 1e-6
  end

  def test_what_goes_with_what
    job = settled(on_bar('hub', devices: [HUB], device_id: 'hub', output: 'high'))
    gone = Miser::Job::Edit.apply(job, [{ 'op' => 'remove', 'at' => '/wiring/devices/hub' }])
    assert_nil gone['wiring']['feeds'].first['device_id']
    assert_empty Miser::Job::Edit.apply(job, [{ 'op' => 'remove', 'at' => '/loads/bar' }])['wiring']['feeds']
  end

  # A short at the lamp: 12.6 V over what lies in the way.
  def test_shorts
    job = on_bar('relay', trigger: 'high', fuse_a: 10, wires: wires({ supply: 1.5, out: 1.5 }, { supply: 0.3, out: 2 }))
    out = survey(job).shorts.find { |s| s.wire == 'out' }
    ohms = 0.015 + (2 * 0.01) + 0.01 + 0.005 + (0.017241 * 2.3 / 1.5)
    assert_in_delta 12.6 / ohms, out.amps, 0.5
    assert_match(/opens at once/, out.words)
    assert_match(/the wire burns/, survey(on_bar('relay', trigger: 'high')).shorts.find { |s| s.wire == 'supply' }.words)
  end

  def test_red_findings_stand_at_the_board_and_at_hand_over
    ticket = Miser::Ticket.new(settled(on_bar('relay', trigger: 'battery', fuse_a: 5)))
    assert_includes ticket.flags.map(&:key), 'wiring'
    assert_match(/on with the key off/, Miser::Verdicts::LeftOpen.new(ticket).points.find { |p| p.key == 'flag/wiring' }.text)
    assert_equal 'part', ticket.stage('wiring').state
    refute_includes Miser::Ticket.new(settled(on_bar('relay', trigger: 'high', fuse_a: 5))).flags.map(&:key), 'wiring'
  end

  # No battery: a coil feeds it all, and DC things want a rectifier first.
  def test_a_coil
    job = wired(system: 'ac_lit', lamps: [lamp('low', figures: stated(4.0))],
      added: [extra('grips', 2.0, role: 'grips', law: 'heater'), extra('bar', 3.0, supply: 'dc')])
    found = survey(settled(job))
    assert_includes found.findings.map(&:rule), 'rectifier'
    assert_equal Miser::Feeds::NO_BATTERY, found.scheme.offers(found.scheme.consumer_of('bar')).to_h[Miser::Feeds::Relay]
    assert_equal 'off', found.truth.seen(found.scheme.consumer_of('grips'), [])
    assert_equal 'engine running', found.scheme.switches.all.first.label
  end

  def test_unknown_draws_stay_unknown
    job = settled(wired(added: [bar.merge('figures' => [])], wiring: { 'feeds' => [feed('bar', 'relay', trigger: 'high')] }))
    found = survey(job)
    assert_includes found.findings.map(&:rule), 'unknown_draw'
    assert_equal 'unknown', found.truth.look(%w[key]).seen['bar'].looks
    assert_nil Miser::Ticket.new(job).figure('wiring/bar/fuse')
  end

  # No two parts of a circuit bear one name, whatever is wired.
  def test_names_in_a_circuit_are_its_own
    random = Random.new(5)
    25.times do
      scheme = survey(random_wiring(random)).scheme
      elements = Miser::Wiring::Look.new(scheme, scheme.switches.keys - ['right']).on.circuit.elements.map(&:id)
      assert_equal elements.uniq, elements
    end
  end
end
