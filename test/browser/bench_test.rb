# frozen_string_literal: true

require_relative 'browser_test_case'
require_relative '../support/bench'

# Readings through the simulated instruments, on the screens.
class BenchScreenTest < Miser::BrowserTest
  include Miser::BenchSupport

  def setup
    super
    Miser::Store::Shop.new(@database)['instruments'] = bench.addresses
    jobs.change('dunlin250', 1,
      what: 'x') do |d|
      d.merge('readings' => d['readings'].reject do |r|
        %w[l1
          l2].include?(r['load_id']) && r['choice_id'].nil?
      end)
    end
  end

  def readings(load) = document('dunlin250')['readings'].select { |r| r['load_id'] == load && r['choice_id'].nil? }

  def take
    within('[data-testid=guided]') do
      assert_text '10 A jack'
      select '40 times', from: 'simulated bench, its time runs'
      click_on 'Leads are on: begin'
      assert_selector '[data-testid=simulated]'
      assert_selector '[data-testid=live-amps]', text: /\d\.\d{3}/
      assert_selector '[data-testid=run-words]', text: 'Settled', wait: 15
    end
    press('a')
  end

  def test_a_low_and_a_high_beam_from_lead_to_reading
    visit '/job/dunlin250/readings/l1'
    assert_selector 'h3', text: 'Headlamp, low'
    click_on 'Take it with the meter'
    assert_text 'the low-beam contact'
    take
    assert_selector 'h3', text: 'Headlamp, high'
    assert_text 'the high-beam contact'
    take
    assert_no_selector 'h3', text: 'Headlamp, high'
    saved!
    %w[l1 l2].each do |id|
      reading = readings(id).first
      assert_equal 'series', reading['kind']
      assert_operator reading['samples'].size, :>, 1
      assert_in_delta 12.4, reading['volts'], 0.4
      assert_in_delta 4.4, reading['samples'].last['amps'], 1.0
      assert reading['simulated']
    end
    visit '/job/dunlin250/readings/l1'
    assert_selector '[data-testid=simulated-reading]', text: /no real lamp was measured/
    assert_selector '[data-testid=window]'
  end

  def test_volts_typed_by_hand_go_with_the_reading
    visit '/job/dunlin250/readings/l1'
    click_on 'Take it with the meter'
    uncheck 'its volts leads are on it'
    select '40 times', from: 'simulated bench, its time runs'
    click_on 'Leads are on: begin'
    assert_selector '[data-testid=run-words]', text: 'Settled', wait: 15
    fill_in 'volts at the lamp, read by hand', with: '12,31 V'
    click_on 'Accept'
    assert_no_selector 'h3', text: 'Headlamp, low'
    saved!
    assert_equal 12.31, readings('l1').first['volts']
  end

  def test_a_pulled_cable_is_shown_and_mended
    visit '/job/dunlin250/readings/l1'
    click_on 'Take it with the meter'
    select '10 times', from: 'simulated bench, its time runs'
    click_on 'Leads are on: begin'
    assert_selector '[data-testid=run-words]', text: /Keep it lit|keep going|Settled/i
    select 'cable pulled', from: 'Fault to practise on'
    assert_selector '[data-testid=run-words]', text: 'went away in the middle'
    select 'none', from: 'Fault to practise on'
    click_on 'Go on'
    assert_no_text 'went away in the middle'
    click_on 'Accept'
    assert_no_selector 'h3', text: 'Headlamp, low'
    saved!
    refute_empty readings('l1').first['samples']
  end

  def test_the_two_voltage_test_with_the_meter
    visit '/job/dunlin250/readings/l1'
    click_on 'Take it with the meter'
    take
    visit '/job/dunlin250/readings/l1'
    find('summary', text: 'Two-voltage test').click
    click_on 'Take the second with the meter'
    assert_text 'the engine running'
    take
    assert_selector '[data-testid=law]', text: /At 13\.9 V it will draw \d\.\d\d A, not \d\.\d\d/
    assert_in_delta 13.6, readings('l1').first.dig('second', 'volts'), 0.5
  end

  def test_by_hand_with_big_keys_the_claim_and_the_baseline
    visit '/job/dunlin250/readings/l1'
    click_on 'Enter a settled reading'
    click_on 'Big keys'
    pad = find('[data-testid=key-pad]')
    %w[4 . 5 6].each { |k| pad.click_on k }
    pad.click_on 'Volts V'
    %w[1 2 . 5].each { |k| pad.click_on k }
    saved!
    assert_equal [4.56, 12.5], readings('l1').first.values_at('amps', 'volts')
    find('summary', text: 'Advertised against real').click
    enter '/loads/l1/claim/watts', '120'
    enter '/loads/l1/claim/fuse_a', '5'
    assert_selector '[data-testid=claim]', text: 'Advertised 120 W, takes 57.0 W'
    assert_selector '[data-testid=claim]', text: 'one of the two is wrong'
    click_on 'Baseline sheet'
    assert_selector '[data-testid=baseline]', text: 'still to read'
    enter '/checks/before/idle_v', '15.3'
    assert_text 'the regulator is at fault'
    find('[data-item=tried] [role=switch]').click
    saved!
    assert document('dunlin250').dig('checks', 'before', 'tried')
    click_on 'Charging'
    assert_selector '[data-testid=charging]', text: 'switch on'
  end

  def test_instruments_are_entered_and_tested
    visit '/shop'
    within(all('[data-testid=instrument]')[0]) do
      click_on 'Test'
      assert_text 'SIMULATED BENCH METER'
      fill_in 'Port', with: '1'
      send_keys :tab
    end
    assert_selector '[role=alert]', text: 'is not the one instruments speak on'
    within(all('[data-testid=instrument]')[0]) { check 'This address is meant' }
    assert_no_selector '[role=alert]'
    assert_text 'saved'
    within(all('[data-testid=instrument]')[0]) do
      click_on 'Test'
      assert_text 'does not answer at this address'
    end
  end

  def test_an_instrument_added_refused_and_taken_out
    kept = -> { Miser::Store::Shop.new(@database)['instruments'].map { |i| i['name'] } }
    had = kept.call
    visit '/shop'
    click_on 'Add an instrument'
    within(all('[data-testid=instrument]').last) do
      fill_in 'Name', with: 'Lux meter, back room'
      select 'light meter', from: 'Kind'
      fill_in 'Address', with: 'not an address!'
      send_keys :tab
    end
    assert_selector '[role=alert]', text: 'Accepted'
    assert_equal had, kept.call, 'what is refused is not kept'
    within(all('[data-testid=instrument]').last) do
      fill_in 'Address', with: '127.0.0.1'
      send_keys :tab
    end
    assert_no_selector '[role=alert]'
    assert_text 'saved'
    assert_equal [*had, 'Lux meter, back room'], kept.call
    click_on "Remove #{had.first}"
    assert_text "#{had.first} was removed."
    click_on 'Bring it back'
    assert_no_text 'was removed.'
    assert_equal [*had, 'Lux meter, back room'], kept.call, 'where it stood'
  end

  def test_a_log_is_matched_before_it_comes_in
    visit '/job/dunlin250/readings/l1'
    click_on 'A meter’s log'
    File.write(path = File.join(@folder, 'log.csv'), "clock;mA\n12:00:00;4500\n12:01:00;4420\n12:02:00;4390\n")
    attach_file 'log-file', path
    within('[data-testid=log-preview]') do
      assert_text '3 of 3 rows are samples'
      click_on 'Take in 3 samples'
    end
    assert_selector '[data-testid=advice]'
    assert_equal([4.5, 4.42, 4.39], readings('l1').first['samples'].map { |s| s['amps'] })
  end
end
