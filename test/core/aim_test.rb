# frozen_string_literal: true

require_relative '../test_helper'

class AimTest < Miser::Test
  FULL = { 'school' => 'inches', 'distance_m' => 7.62, 'lamp_height_m' => 0.9, 'rear_sag_m' => 0.03, 'front_sag_m' => 0.005,
           'wheelbase_m' => 1.4, 'now_drop_m' => 0.0,
           'lever_m' => 0.1, 'thread_pitch_m' => 0.001 }.freeze

  def aim(**changes) = Miser::Beam::Aim.new(FULL.merge(changes.transform_keys(&:to_s)).compact)

  # 2 in at 25 ft, 0.67 %: common practice.
  def test_the_trade_rule
    assert_in_delta 0.0508, aim.drop.value, 1e-9
    assert_in_delta 0.00667, -aim.school.target, 1e-5
    assert_in_delta 0.8492, aim.height.value, 1e-9
  end

  # Dipped beam −0.5 % to −2.5 %: UN Regulation 53 (from memory).
  def test_the_regulations_limits
    assert_equal [-0.025, -0.005], [aim(school: 'regulation').school.low, aim(school: 'regulation').school.high]
    assert_in_delta 0.05, aim(distance_m: 10.0).limits.first, 1e-9
    verdict = ->(drop) { aim(distance_m: 10.0, now_drop_m: drop).verdict }
    assert_equal %w[high within within low], [0.04, 0.051, 0.249, 0.26].map(&verdict)
    assert_equal 'unknown', aim(now_drop_m: nil).verdict
  end

  # 25 mm over 1400 mm is 1.0°, 1.8 %.
  def test_rider_and_luggage
    assert_in_delta 1.0, aim.pitch_degrees, 0.05
    assert_in_delta 0.018, aim.pitch.value, 2e-4
    level = aim(rear_sag_m: 0.02, front_sag_m: 0.02)
    assert_in_delta level.drop.value, level.drop_unladen.value, 1e-9
    assert_in_delta aim.drop.value + (7.62 * aim.pitch.value), aim.drop_unladen.value, 1e-3
    bare = aim(school: 'regulation', distance_m: 10.0, now_drop_m: 0.1, aboard: false)
    assert_equal 'high', bare.verdict, 'right on the stand, too high once somebody sits on it'
  end

  # Property: after the turns it asks for, the beam lies where it should.
  def test_turns_bring_the_beam_home
    random = Random.new(4)
    30.times do
      now = random.rand(-0.2..0.3)
      lever = random.rand(0.05..0.15)
      thread = random.rand(0.0005..0.0015)
      aboard = random.rand < 0.5
      a = aim(now_drop_m: now, lever_m: lever, thread_pitch_m: thread, aboard: aboard)
      goal = aboard ? a.drop.value : a.drop_unladen.value
      angle = Math.atan(now / 7.62) + Math.atan(a.turns.value * thread / lever)
      assert_in_delta goal, 7.62 * Math.tan(angle), 1e-6
    end
  end

  # 3/8 in is 9.5 mm, not 7.
  def test_slips_of_unit_in_the_thread
    assert_empty aim(thread_m: 0.009525, thread_again_m: 0.0095).thread_slips
    assert_match(/9.5 mm \(0.375 in\) and 7.0 mm/, aim(thread_m: 0.009525, thread_again_m: 0.007).thread_slips.first)
    assert_match(/If that was inches, it is 9.5 mm/, aim(thread_m: 0.000375).thread_slips.first)
    assert_match(/Check the unit/, aim(thread_m: 0.15).thread_slips.first)
  end

  # Unscrewed two turns of a millimetre, two turns bring it back.
  def test_the_thread_is_brought_back_as_found
    assert_in_delta(-2.0, aim(thread_m: 0.0115, thread_now_m: 0.0135, thread_pitch_m: 0.001).restore.value, 1e-9)
    assert_match(/measure: exposed thread now/, aim(thread_m: 0.0115, thread_pitch_m: 0.001).restore.reason)
  end

  def test_what_is_not_measured_is_asked_for_and_never_taken_for_nothing
    bare = Miser::Beam::Aim.new({})
    %i[drop height pitch drop_unladen inclination turns].each { |f| assert_match(/measure: /, bare.public_send(f).reason, f) }
    assert_nil bare.pitch_degrees
    assert_nil bare.limits
  end

  def test_every_figure_has_its_working
    %i[drop height pitch drop_unladen turns].each do |f|
      working = aim.public_send(f).working
      refute_empty working.formula
      refute_empty working.inputs
      refute_empty working.source
    end
  end
end
