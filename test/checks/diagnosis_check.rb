# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/loops'

# Every fault, as bad as it can be, put into machines of several kinds and looked for by what a person would see: the circuits are
# those that a general circuit simulator agrees with (signals_check).
class DiagnosisCheck < Miser::Test
  include Miser::Loops
  include Miser::Signals

  # Machines on which all that is asked for is done as well.
  ASKED = ['filaments, a lamp-out flasher', 'LEDs, a free flasher'].freeze
  # How many tests a person does before giving up.
  PATIENCE = 6

  def dual = ->(l) { l.place == 'front' ? l.with(running: [12.0, 0.42]) : l }

  def machines
    { 'filaments, a lamp-out flasher' => signal_loop(lamps: four.map(&dual), wiring: 'pair', others: [rear_lamp]),
      'filaments, a bimetal flasher, one tell-tale' => signal_loop(wiring: 'shared', flasher: 'thermal', others: [rear_lamp]),
      'LEDs, a free flasher' => signal_loop(lamps: four(**led).map(&dual), wiring: 'pair', flasher: 'free_3', others: [rear_lamp]),
      'LEDs, in line, diodes' => signal_loop(lamps: four(**led), wiring: 'diodes', flasher: 'free_2') }
  end

  # What a person sees who goes through every state, with the machine as it is.
  def walk(harness, fault)
    seen = harness.states.to_h do |c|
      view = @looks.at(fault, c)
      [c, view.slice('lamps', 'lights', 'telltale', 'rate', 'fuse').compact.except(*(LoopCircuit::IDLE.include?(c) ? ['rate'] : []))]
    end
    seen['housing'] = { 'works_open' => true } if fault.any?(&:moves?)
    seen
  end

  def place(diagnosis, fault) = diagnosis.candidates.index { |c| c.place_ids == [fault.place_id] } || 99

  # Answers what is asked until nothing more is, or patience ends.
  def tested(harness, seen, fault)
    PATIENCE.times do
      diagnosis = Diagnosis.new(harness, seen, thresholds: SEEN, looks: @looks)
      test = diagnosis.next_test or return diagnosis
      return diagnosis if place(diagnosis, fault).zero? && diagnosis.candidates.first.share > 0.9

      seen = answered(seen, test.observe, diagnosis.predicted([fault], test.observe))
    end
    Diagnosis.new(harness, seen, thresholds: SEEN, looks: @looks)
  end

  def answered(seen, at, value)
    state = seen.fetch(at.command, {})
    put = case at.kind
          when 'check' then { at.id => value }
          when 'lamps', 'lights', 'volts' then { at.kind => (state[at.kind] || {}).merge(at.id => value) }
          else { at.kind => value }
          end
    seen.merge(at.command => state.merge(put.compact))
  end

  # @return [Array(Array<Integer>, Array<Integer>, Integer)] place among the candidates of those that show, of those of 4 Ω and more after
  #   the tests that are asked for, and how many do not show
  def found(harness, ask:)
    sound = walk(harness, [])
    shown = []
    asked = []
    Fault.all_in(harness).each do |fault|
      seen = walk(harness, [fault])
      shown << place(Diagnosis.new(harness, seen, thresholds: SEEN, looks: @looks), fault) if seen != sound
      # Tests one after another take long: of faults on both sides alike, one side will do.
      next if !ask || fault.target.to_s.include?('right') || (fault.ohms && fault.ohms < 4)

      asked << place(tested(harness, seen, fault), fault)
    end
    [shown, asked, Fault.all_in(harness).size - shown.size]
  end

  def test_every_fault_is_found
    machines.each do |name, harness|
      @looks = Looks.new(harness, thresholds: SEEN)
      shown, asked, hidden = found(harness, ask: ASKED.include?(name))
      puts format('  %-45s %d faults show, %d do not; first %d, second %d, third %d, later %d;', name, shown.size, hidden,
        *[0, 1, 2].map { |i| shown.count(i) }, shown.count { |i| i > 2 })
      puts format('  %45s after the tests asked for first %d, second %d, later %d', '', asked.count(0), asked.count(1),
        asked.count { |i| i > 1 })
      # Four ways in which a flasher passes nothing look alike: one of them has to be the fourth.
      assert_operator shown.count { |i| i > 2 }, :<=, 1, name
      assert_empty shown.select { |i| i > 3 }, name
      assert_empty asked.select { |i| i > 1 }, name
    end
  end

  # What people come with, and what it is: the signs of the trade (common practice), each on a machine that shows it.
  COMPLAINTS = JSON.parse(File.read(File.expand_path('../fixtures/complaints.json', __dir__)))

  def others
    { 'LEDs, one tell-tale between the sides' => signal_loop(lamps: four(**led), wiring: 'shared', flasher: 'free_3'),
      'LEDs, a controller told so' => signal_loop(lamps: four(**led), wiring: 'none', flasher: 'controller')
                                      .then { |h| h.with(flasher: h.flasher.with(outage_off: true)) },
      'small LEDs' => signal_loop(lamps: four(law: 'regulated', volts: 12.0, amps: 0.02, from_v: 2.5), wiring: 'none', flasher: 'free_3') }
  end

  def test_what_people_come_with_ends_at_its_cause
    assert_operator COMPLAINTS.size, :>=, 18
    all = machines.merge(others)
    COMPLAINTS.each do |complaint|
      words, cause = complaint.values_at('words', 'cause')
      diagnosis = Diagnosis.new(all.fetch(complaint['machine']), complaint['seen'], thresholds: SEEN)
      rank = diagnosis.candidates.index { |c| c.place_ids == [cause].compact && !c.other } || 99
      assert_operator rank, :<, 2, "#{words}: #{diagnosis.candidates.first(4).map(&:id).join(', ')}"
    end
  end
end
