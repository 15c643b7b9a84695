# frozen_string_literal: true

require_relative '../test_helper'

# Job files of version 1, with what the Miser that wrote them figured: they come in as lamps and
# parts, and nothing is spent that was not spent before. Made-up machines of every system, with
# pairs of all kinds: one article, two articles, one half only, one half kept, taken off. Scenarios in which a
# lamp is lit whose two-voltage test decides nothing (it was taken for decided once) are not among the figures.
class Version1Test < Miser::Test
  KEPT = JSON.parse(File.read(File.expand_path('../fixtures/version_1.json', __dir__)))
  SHARE = 1e-9

  def test_every_job_spends_what_it_spent_in_every_scenario_on_all_steps
    KEPT.each do |kept|
      # That Miser knew no wire between battery and lamp.
      document = taken(kept).document
      budget = Miser::Budget::Budget.new(document.merge('assumptions' => (document['assumptions'] || {}).merge(Miser::Machines::NO_WIRE)))
      kept['figures'].each do |side, lines|
        lines.each do |line, figures|
          now = budget.line(side, *line.split('/'))
          alike(figures, [now.spends.value, now.known_spends], "#{kept.dig('document', 'id')} #{side} #{line}")
        end
      end
    end
  end

  def test_nothing_is_lost_but_what_follows_from_the_rest
    KEPT.each do |kept|
      old = kept['document']
      new = taken(kept).document
      %w[loads readings].each { |list| assert_equal(old[list].map { |r| r['id'] }, new[list].map { |r| r['id'] }) }
      assert_equal old.except('version', 'loads', 'choices', 'readings', 'headlight', 'order'),
        new.except('version', 'positions', 'loads', 'choices', 'readings', 'headlight', 'order')
      assert_equal amps(old), amps(new), "#{old['id']}: every figure of every part"
      assert_empty taken(kept).unknown
    end
  end

  def test_pairs_are_recognised_and_are_bought_once
    new = taken(KEPT.find { |k| k.dig('document', 'id') == 'dunlin250' }).document
    head, tail = new['positions'].values_at(0, 1)
    assert_equal %w[Headlamp H4 front], [head['name'], head.dig('holder', 'base'), head['end']]
    assert_equal 'Tail and brake', tail['name']
    unit = new['choices'].find { |c| c['position_id'] == head['id'] && c['action'] == 'swap' }
    assert_equal ['Lantern 7 inch LED unit', 8900], unit['part'].values_at('name', 'price_cents')
    assert_equal(%w[head_low head_high], unit['part']['functions'].map { |f| f['does'] })
    assert(new['readings'].select { |r| r['choice_id'] }.all? { |r| new['choices'].any? { |c| c['id'] == r['choice_id'] } })
  end

  def test_a_bulb_bought_for_both_beams_costs_what_one_costs
    wren = KEPT.find { |k| k.dig('document', 'id') == 'wren125' }
    bulb = Miser::Ticket.new(taken(wren).document).needs.find { |n| n.name.include?('bulb') }
    assert_equal [1, 2900], [bulb.pieces, bulb.own_cents], 'the second half of one bulb is no second bulb'
  end

  def test_two_articles_on_one_bulb_stay_two_lamps
    two = KEPT.map { |k| taken(k).document }.select { |d| d['choices'].any? { |c| c.dig('part', 'name') == 'Other LED' } }
    refute_empty two
    two.each { |d| assert_equal(2, d['positions'].count { |p| p['name'].start_with?('Headlamp, ') }) }
  end

  def test_a_half_that_stayed_on_the_old_lamp_is_said_to
    kept = KEPT.flat_map do |k|
      taken(k).document['choices']
    end.flat_map { |c| c.dig('part', 'functions') || [] }.select { |f| f['how'] == 'kept' }
    refute_empty kept
  end

  def test_what_was_measured_of_the_headlight_stands_at_its_lamp
    new = taken(KEPT.find { |k| k.dig('document', 'id') == 'curlew1100' }).document
    head = new['positions'].first
    assert_equal [0.041, 'two_blades', 'left', 'clip'],
      [head.dig('housing', 'hole_m'), *head['holder'].values_at('connector', 'polarity', 'retention')]
    part = new['choices'].find { |c| c['position_id'] == head['id'] }['part']
    assert_equal [0.0402, 1500, 1.6], [part['fin_m'], part['functions'].first['lumens'], part['functions'].first['figures'].first['amps']]
    refute new.key?('headlight')
  end

  def test_a_file_wrong_by_its_own_version_is_refused_in_its_own_words
    bad = KEPT.first['document'].merge('loads' => [{ 'id' => 'l1', 'name' => 'x', 'group' => 'lamp', 'role' => 7 }])
    refused = assert_raises(Miser::Formats::JobFile::Refused) { Miser::Formats::JobFile.read(JSON.generate(bad)) }
    assert_includes refused.message, 'What it does'
  end

  private

  def taken(kept) = Miser::Formats::JobFile.read(JSON.generate(kept['document']))

  # Every figure of what was chosen, whatever holds it.
  def amps(document)
    document['choices'].reject { |c| c['action'] == 'try' }.flat_map do |c|
      [c['part'], *c.dig('part', 'functions')].compact.flat_map do |p|
        p['figures'] || []
      end
    end
                       .map { |f| f.slice('amps', 'watts', 'volts', 'origin') }.sort_by(&:to_s)
  end

  def alike(kept, now, at)
    kept.zip(now).each { |was, is| was.nil? ? assert_nil(is, at) : assert_in_delta(was, is, SHARE, at) }
  end
end
