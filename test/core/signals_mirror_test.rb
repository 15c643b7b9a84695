# frozen_string_literal: true

require_relative '../test_helper'
require_relative '../support/loops'

# A machine seen in a mirror: what the left does, the right does, whatever hangs there.
class SignalsMirrorTest < Miser::Test
  include Miser::Loops
  include Miser::Signals

  SWAP = { 'left' => 'right', 'right' => 'left', 'off' => 'off', 'hazard' => 'hazard' }.freeze

  def mirrored(harness)
    harness.with(lamps: harness.lamps.map { |l| l.with(id: other(l.id), side: SWAP[l.side], feed_side: SWAP[l.feed_side]) },
      shorts: harness.shorts.transform_keys { |k| other(k) }, side_ohm: harness.side_ohm.transform_keys(&SWAP),
      switch_ohm: harness.switch_ohm.transform_keys(&SWAP),
      resistors: harness.resistors.map { |r| mirrored_resistor(r) })
  end

  def mirrored_resistor(resistor) = resistor.respond_to?(:with) ? resistor.with(side: SWAP[resistor.side]) : resistor

  def other(id) = id.to_s.gsub(/left|right/, SWAP)

  # A tell-tale across both sides conducts either way; a diode in it does not care which side feeds it.
  def test_left_is_right_in_a_mirror
    random = Random.new(83)
    tried = 0
    40.times do |i|
      harness = random_loop(random)
      next if harness.resistors.any? || harness.shorts.any?

      tried += 1
      glass = mirrored(harness)
      COMMANDS.each do |command|
        a = seen(harness, command)
        b = seen(glass, SWAP[command])
        assert_equal a.lamps.transform_keys { |k| other(k) }.transform_values(&:looks).sort, b.lamps.transform_values(&:looks).sort,
          "loop #{i}, #{command}"
        assert_equal a.rate_word, b.rate_word, "loop #{i}, #{command}"
        assert_in_delta a.flasher_a, b.flasher_a, 1e-6 * a.flasher_a.abs.clamp(1.0, nil), "loop #{i}, #{command}"
      rescue Miser::Unsolvable
        assert_raises(Miser::Unsolvable) { seen(glass, SWAP[command]) }
      end
    end
    assert_operator tried, :>, 15
  end

  # With nothing commanded and the lights off, nothing glows and nothing is drawn.
  def test_nothing_commanded_draws_nothing
    random = Random.new(89)
    25.times do |i|
      harness = signal_loop(lamps: four(**[led, { law: 'filament', volts: 12.0, amps: random.rand(0.4..1.8) }].sample(random: random)),
        wiring: %w[pair shared diodes none].sample(random: random))
      view = seen(harness, 'off', lights: false)
      assert_equal ['dark'], view.lamps.values.map(&:looks).uniq, "loop #{i}"
      assert_in_delta 0.0, view.flasher_a, 1e-3
    end
  end

  # Hazard is left and right at once: through a free flasher each lamp does what its own side makes it do.
  def test_hazard_is_both_sides_at_once
    random = Random.new(97)
    20.times do |i|
      harness = signal_loop(lamps: four(**led(amps: random.rand(0.05..0.4))), wiring: 'pair', flasher: 'free_3')
      both = seen(harness, 'hazard').lamps.transform_values(&:looks)
      sides = SIDES.flat_map do |side|
        seen(harness,
          side).lamps.select { |id, _| id.end_with?(side) }.map { |id, item| [id, item.looks] }
      end.to_h
      assert_equal sides, both, "loop #{i}"
    end
  end

  # Every ohm more in the wire leaves a lamp less; none leaves it more.
  def test_a_worse_wire_never_gives_more_light
    random = Random.new(101)
    20.times do |i|
      draw = [led, { law: 'filament', volts: 12.0, amps: 1.75 }].sample(random: random)
      volts = [0.02, 0.2, 0.8, 3.0].map do |ohms|
        lamps = four(**draw).map { |l| l.id == 'rear_left' ? l.with(wire_ohm: ohms) : l }
        seen(signal_loop(lamps: lamps, wiring: 'pair', flasher: 'free_3')).lamps['rear_left'].closed.volts
      end
      volts.each_cons(2) { |better, worse| assert_operator worse, :<=, better + 1e-9, "loop #{i}" }
    end
  end
end
