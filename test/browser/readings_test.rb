# frozen_string_literal: true

require_relative 'browser_test_case'

# Readings by hand: the charging system, the table, big keys, the baseline sheet, a log.
class ReadingsScreenTest < Miser::BrowserTest
  def readings(job, load) = document(job)['readings'].select { |r| r['load_id'] == load && r['choice_id'].nil? }

  def points(job) = document(job).dig('circuits', 0, 'alternator', 'points') || []

  # The speeds are proposed; a point taken there is entered at once, and moves the curve.
  def test_what_the_charging_system_earns_is_read_at_the_speeds_proposed
    visit '/job/wren125/readings?view=charging'
    had = points('wren125').size
    rpm = first('[data-testid=charging] tr', text: 'read it').all('td')[0].text.delete(' ').to_f
    first('[data-testid=charging] button', text: 'read it').click
    saved!
    point = points('wren125').last
    assert_in_delta rpm, point['rpm'], 0.51
    at = "/circuits/#{document('wren125')['circuits'][0]['id']}/alternator/points/#{point['id']}"
    enter "#{at}/amps", '9,4'
    enter "#{at}/volts", '13.9'
    assert_equal 9.4, points('wren125').last['amps']
    assert_selector '[data-testid=charging] td', text: /\Aread\z/
    all("button[aria-label='Remove this point']").last.click
    saved!
    assert_equal had, points('wren125').size
  end

  def test_the_table_is_typed_into_and_opens_one
    visit '/job/dunlin250/readings?view=table'
    assert_no_selector '[data-testid=charging]'
    click_on 'Table'
    spot = document('dunlin250')['readings'].find { |r| r['kind'] != 'series' && r['volts_at'] != 'battery' }
    enter "/readings/#{spot['id']}/amps", '1.23'
    enter "/readings/#{spot['id']}/volts", '12.6'
    assert_equal([1.23, 12.6], document('dunlin250')['readings'].find { |r| r['id'] == spot['id'] }.values_at('amps', 'volts'))
    all('table.sheet button', text: /\A(open|read)\z/).first.click
    assert_current_path(%r{/job/dunlin250/readings/\w+})
  end

  def test_big_keys_correct_and_clear
    visit '/job/dunlin250/readings/l1'
    click_on 'Big keys'
    pad = find('[data-testid=key-pad]')
    pad.click_on 'clear'
    %w[3 . . 1 9 5].each { |k| pad.click_on k }
    pad.click_on 'Delete one'
    saved!
    assert_equal 3.19, readings('dunlin250', 'l1').first['amps'], 'one point is enough, the last digit is taken back'
    pad.click_on 'clear'
    assert_selector '[data-at$="/amps"]'
    saved!
    assert_nil readings('dunlin250', 'l1').first['amps'], 'cleared is not read, not nothing'
  end

  def test_the_baseline_leads_to_each_reading_and_is_read_again_after
    visit '/job/dunlin250/readings?view=baseline'
    find('[data-testid=baseline] tr', text: 'output at two speeds').find('button').click
    assert_selector '[data-testid=charging]'
    click_on 'Baseline sheet'
    find('[data-testid=baseline]').click_on 'After'
    assert_text 'The same again, after the change'
    enter '/checks/after/rest_v', '12.7'
    assert_equal 12.7, document('dunlin250').dig('checks', 'after', 'rest_v')
    assert_nil document('dunlin250').dig('checks', 'before', 'rest_v')
    first('[data-testid=baseline] tr button', text: /read it|A\z/).click
    assert_current_path(%r{/job/dunlin250/readings/\w+})
  end

  # A log whose columns are not what they seem is matched by hand, seen before it is taken.
  def test_a_log_is_matched_by_hand
    jobs.change('dunlin250', 1,
      what: 'x') { |d| d.merge('readings' => d['readings'].reject { |r| r['load_id'] == 'l1' && r['choice_id'].nil? }) }
    visit '/job/dunlin250/readings/l1'
    click_on 'A meter’s log'
    File.write(path = File.join(@folder, 'log.csv'), "n,seconds,spare,reading\n1,0,7,1.90\n2,30,7,1.82\n3,60,7,oops\n4,90,7,1.78\n")
    attach_file 'log-file', path
    within('[data-testid=log-preview]') do
      find('label', text: 'Times in').find('select').select('seconds')
      find('label', text: 'Amps in').find('select').select('reading')
      find('label', text: 'Amps in').find(:xpath, 'following-sibling::label').find('select').select('A')
      find('label', text: 'Times in').find(:xpath,
        'following-sibling::label[1]').find('select').all('option').find { |o| o.value == 's' }.select_option
      assert_text '3 of 4 rows are samples'
      assert_selector 'li', text: 'oops'
      click_on 'Take in 3 samples'
    end
    assert_selector '[data-testid=advice]'
    assert_equal([[0, 1.9], [30, 1.82], [90, 1.78]], readings('dunlin250', 'l1').first['samples'].map { |s| s.values_at('t_s', 'amps') })
  end

  def test_a_reading_taken_away_comes_back_by_undo
    visit '/job/dunlin250/readings/l1'
    had = readings('dunlin250', 'l1').first
    click_on 'Remove this reading'
    saved!
    assert_empty readings('dunlin250', 'l1')
    click_on 'Undo', match: :first
    assert_selector '[data-testid=window], [data-at]', minimum: 1
    assert_equal had, readings('dunlin250', 'l1').first
  end
end
