# frozen_string_literal: true

require_relative '../test_helper'

# What stands on a figure nobody measured, at the very place where the figure bites.
class TakenForGrantedTest < Miser::Test
  def flags(job) = budget(job).flags.map(&:key)

  def held_at(volts)
    plain_job(loads: [lamp('l', figures: stated(1.0))]).tap do |job|
      job['circuits'][0]['regulator'] = { 'fitted' => true, 'volts' => volts }
    end
  end

  # Common practice: a healthy regulator holds up to 14.8 V; under 13.2 V the charging is at fault.
  def test_volts_that_blame_the_regulator
    assert_includes flags(held_at(14.85)), 'overcharge'
    refute_includes flags(held_at(14.75)), 'overcharge'
    assert_includes flags(held_at(13.15)), 'charging_fault'
    refute_includes flags(held_at(13.25)), 'charging_fault'
  end

  # Leads nobody measured take 0.05 Ω: 5 A through them, a quarter of a volt (common practice: 0.03 to 0.1 Ω).
  def test_leads_nobody_measured
    job = plain_job(loads: [lamp('l')], readings: [{ 'id' => 'r', 'load_id' => 'l', 'kind' => 'settled', 'amps' => 5.0, 'volts' => 12.6,
                                                     'volts_at' => 'battery', 'taken_on' => 'this_machine' }])
    reading = budget(job).readings.first
    assert_in_delta 12.6 - (5.0 * 0.05), reading.volts_figure.value, 1e-9
    assert reading.volts_figure.assumed
  end

  # A machine that idles all day earns a little at idle: it cuts in at seven tenths of it, later when hot (assumption).
  def test_a_cut_in_nobody_knows
    job = plain_job
    job['circuits'][0]['alternator'].delete('cut_in_rpm')
    curve = budget(job).ledgers('before')['main'].circuit.curve
    assert_in_delta 0.7 * 1200 * 1.07, curve.cut_in(Miser::Volts::CHARGING), 1e-3
  end

  # A sentence for the whole: to keep, all must be known and keep.
  def test_nothing_keeps_everywhere_that_is_not_known_everywhere
    known = plain_job(loads: [lamp('l', figures: stated(1.0))])
    overall = ->(job) { Miser::Verdicts::Overall.new(budget(job)) }
    known['scenarios'].each { |s| s['rpm'] = 5000 unless s['engine'] == 'off' }
    assert_equal 'keeps', overall[known].kind
    assert_equal 'Keeps in every scenario.', overall[known].headline
    running = known['scenarios'].reject { |s| s['engine'] == 'off' }
    partly = known.merge('loads' => known['loads'] + [lamp('x', role: 'grips')])
    lit = running.select { |s| (s['duties']['grips'] || 0).positive? }.map { |s| s['name'] }
    said = overall[partly]
    assert_equal 'unknown', said.kind
    refute_includes said.headline, 'Keeps in every'
    lit.each { |name| assert_includes said.headline, name }
    assert_match(/\AKeeps: /, said.notes.join(' ')) if lit.size < running.size
    hungry = known.merge('loads' => known['loads'] + [lamp('y', role: 'tail', figures: stated(60.0)), lamp('x', role: 'grips')])
    assert_equal 'owes', overall[hungry].kind
    assert_match(/Not known/, overall[hungry].notes.join(' ')) unless lit.size == running.size
  end
end
