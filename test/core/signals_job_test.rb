# frozen_string_literal: true

require 'nokogiri'
require_relative '../test_helper'
require_relative '../support/loops'
require_relative '../../formats/circuit_svg'
require_relative '../../formats/job_schema'

# From the job's rows to a circuit, its drawing, and a cure back into the job.
class SignalsJobTest < Miser::Test
  include Miser::Loops
  include Miser::Signals

  def signal_job(count: 2, choices: true, **wiring)
    loads = SIDES.map { |s| lamp(s, role: "signal_#{s}", base: 'P21W', count: count) } + [lamp('tell', role: 'telltale', base: 'T2W')]
    led_part = { law: 'resistor', forward_v: 7.0, figures: stated(0.14, volts: 13.5) }
    swaps = choices ? SIDES.map { |s| swap(s, **led_part) } : []
    plain_job(loads: loads, choices: swaps, signals: { 'flasher' => 'outage', 'telltale' => 'shared' }.merge(wiring.transform_keys(&:to_s)))
  end

  def survey(job) = Survey.new(budget(job), catalogue: CATALOGUE)

  def test_a_row_of_several_hangs_front_rear_and_as_extra_pairs
    assert_equal %w[rear_left rear_right], survey(signal_job(count: 1)).harness('after').lamps.map(&:id)
    places = survey(signal_job(count: 4)).harness('before').side('left').map(&:place)
    assert_equal ['front', 'rear', 'extra 1', 'extra 2'], places
    assert_empty survey(signal_job(count: 4)).judgement('before').problems.map(&:text)
  end

  def test_each_side_of_the_conversion_has_its_own_lamps
    s = survey(signal_job)
    assert(s.harness('before').lamps.all?(&:filament?))
    assert(s.harness('after').lamps.none?(&:filament?))
    assert_empty s.judgement('before').problems
    refute_empty s.judgement('after').problems
  end

  # Nothing is entered of the plug: it has the usual contacts of its kind.
  def test_the_plug_of_a_kind
    { 'thermal' => %w[49 49a], 'free_2' => %w[49 49a], 'outage' => %w[49 49a 31], 'controller' => %w[49 49a] }.each do |kind, contacts|
      assert_equal contacts, survey(signal_job(flasher: kind)).plug, kind
    end
    assert_equal %w[49a 49], survey(signal_job(plug: '49a/49')).plug
  end

  def test_what_is_missing_is_named_and_nothing_is_solved
    missing = survey(plain_job(loads: [lamp('a', role: 'signal_left', base: 'P21W')])).missing.map { |m| m[:text] }
    assert_equal ['signal lamps, left and right', 'the flasher’s kind'], missing
    unknown = signal_job(flasher: nil, telltale: nil)
    unknown['signals'] = {}
    assert_equal(['the flasher’s kind', 'how the tell-tale is wired'], survey(unknown).missing.map { |m| m[:text] })
    drawless = signal_job(choices: false)
    drawless['loads'] << lamp('x', role: 'signal_left', base: 'other')
    assert_includes survey(drawless).missing.map { |m| m[:text] }, 'draw of Lamp x'
  end

  def test_a_data_bus_machine_has_its_controller
    job = signal_job.merge('system' => 'data_bus')
    job['signals'] = { 'telltale' => 'none' }
    assert_equal 'controller', survey(job).harness('after').flasher.kind.key
  end

  # Property: whatever rate was counted as it came in, the model gives it back there.
  def test_a_counted_rate_comes_back
    random = Random.new(12)
    %w[thermal capacitor outage free_2].each do |kind|
      rate = random.rand(62..118)
      job = signal_job(flasher: kind, telltale: 'pair').merge('checks' => { 'before' => { 'flash_per_min' => rate } })
      s = survey(job)
      assert_within 0.01, rate, Seen.new(s.harness('before'), 'left', thresholds: s.thresholds).pattern.rate, kind
    end
  end

  def cure_of(job, keys)
    found = survey(job).cures.ranked.find { |c| c.keys.sort == keys.sort }
    Miser::Signals::CureChoice.take(job, found, circuit: 'main', volts: 13.5)
  end

  def test_a_cure_brings_parts_and_amps_and_leaves_no_trace_when_taken_back
    job = signal_job.merge('order' => [{ 'id' => 'mine', 'name' => 'Fuse holder', 'count' => 1 }])
    taken = cure_of(job, %w[resistors])
    assert_empty Miser::Formats::JobSchema.errors(taken).map(&:to_s)
    resistor = taken['loads'].find { |l| l['role'] == 'load_resistor' }
    assert resistor['added']
    line = ->(side, j) { budget(j).line(side, 'idle_night', 'main').spends.value }
    assert_within 1e-9, line['before', job], line['before', taken]
    assert_operator line['after', taken], :>, line['after', job] + 1.0
    other = cure_of(taken, %w[flasher_3 diodes])
    assert_equal(%w[Fuse], other['order'].map { |r| r['name'].split.first }.first(1))
    refute(other['order'].any? { |r| r['name'].include?('resistor') })
    assert other['signals']['loses_warning']
    back = Miser::Signals::CureChoice.take(other, nil, circuit: 'main', volts: 13.5)
    assert_equal job['loads'], back['loads']
    assert_equal job['order'], back['order']
    assert_empty back['signals']['remedies']
  end

  def test_chosen_remedies_are_in_the_circuit_and_an_unknown_one_changes_nothing
    cured = survey(signal_job(remedies: %w[flasher_2 diodes]))
    assert_predicate cured.judgement('after'), :works?
    refute_predicate cured.judgement('after', cured: false), :works?
    assert_equal 'shared', survey(signal_job(remedies: ['magic'])).harness('after').telltale.wiring
  end

  # Property: whatever the loop, the drawing shows every lamp once, inside its frame,
  # and names parts that the circuit has.
  def test_drawings_of_random_loops
    random = Random.new(8)
    40.times do
      harness = random_loop(random)
      drawing = Miser::Formats::LoopDrawing.new(harness)
      circuit = LoopCircuit.new(harness, State.new(command: 'left', closed: true, lights: true, volts: 12.6)).circuit
      ids = circuit.elements.map(&:id) + ['switch']
      assert_equal harness.lamps.map(&:id).sort, drawing.parts.select { |p| p.kind == 'lamp' }.map(&:id).sort
      assert_empty drawing.parts.filter_map(&:id) - ids
      places = drawing.parts.map { |p| [p.x, p.y] } + drawing.wires.flat_map(&:points)
      assert(places.all? { |x, y| x.between?(0, drawing.width) && y.between?(0, drawing.height) })
      assert_equal drawing.parts.map { |p| [p.x, p.y] }.uniq.size, drawing.parts.size, 'no part on another'
    end
  end

  def test_the_drawing_file_is_well_formed_and_names_are_text
    drawing = Miser::Formats::LoopDrawing.new(survey(signal_job).harness('after'), 'left' => '<script>alert(1)</script>',
      'supply' => 'brown & white')
    svg = Nokogiri::XML(Miser::Formats::CircuitSvg.new(drawing, 'A & <b>').to_s, &:strict)
    assert_equal 'svg', svg.root.name
    assert_empty svg.xpath('//*[local-name()="script"]')
    assert_includes svg.text, 'brown & white'
    assert_equal drawing.parts.size, svg.xpath('//*[local-name()="g"]').size
  end

  def test_a_ticket_wants_what_the_signals_still_do_wrong
    wants = ->(job) { Miser::Ticket.new(job).wants.select { |m| m.stage == 'signals' }.map(&:text) }
    assert_match(/(flashes|glows) when/, wants[signal_job].first)
    assert_empty wants[signal_job(remedies: %w[flasher_2 diodes])]
    assert_empty wants[plain_job(loads: [lamp('a')])], 'a machine without turn signals wants nothing'
    assert_equal ['The flasher’s kind'], wants[signal_job.merge('signals' => { 'telltale' => 'pair' })]
  end
end
