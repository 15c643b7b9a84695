# frozen_string_literal: true

require_relative 'browser_test_case'

# The Signals stage: a conversion that goes wrong, its cure, and a diagnosis.
class SignalsScreenTest < Miser::BrowserTest
  def look(title, part) = find("[data-testid=loop-#{title}] [data-part=#{part}]")['data-looks']

  def wait_for(title, part, looks) = assert_selector("[data-testid=loop-#{title}] [data-part=#{part}][data-looks=#{looks}]")

  # The Dunlin with its filaments, then LEDs chosen for all four.
  def convert
    jobs.change('dunlin250', 1, what: 'x') { |d| d.merge('choices' => d['choices'].reject { |c| %w[l5 l6].include?(c['position_id']) }) }
    visit '/job/dunlin250/signals'
    assert_selector '[data-testid=cured]'
    %w[l5 l6].each do |id|
      visit "/job/dunlin250/choose/#{id}"
      click_on 'Fit Glint amber LED, P21W base'
      assert_selector 'button', text: 'chosen'
      saved!
    end
    click_link 'Signals'
    wait_for 'after', 'front_left', 'flashes'
  end

  def test_converted_all_four_flash_cured_then_a_reversed_lamp_found
    convert
    %w[rear_left front_right rear_right].each { |id| assert_equal 'flashes', look('after', id), id }
    assert_equal 'dark', look('before', 'front_right')
    assert_selector '[data-testid=problems]', text: '187 flashes a minute'
    find('[data-cure="flasher_2+diodes"]').click_on 'choose'
    assert_selector '[data-testid=cured]', text: 'Every lamp does what it should'
    wait_for 'after', 'front_right', 'dark'
    saved = document('dunlin250')
    assert_equal %w[flasher_2 diodes], saved['signals']['remedies']
    assert_nil saved['order'], 'what a cure takes follows from it'
    click_on 'Hazard'
    wait_for 'after', 'front_right', 'flashes'
    within '[data-testid=diagnosis]' do
      click_on 'left on'
      within(find('[aria-label="Rear left looks"]')) { click_on 'dark' }
      within(find('[aria-label="Front left looks"]')) { click_on 'flashes' }
      assert_selector '[data-testid=candidate]', text: 'Rear left: reversed polarity', match: :first
      assert_selector '[data-testid=next-test]', text: /Next: /
    end
    within('[data-testid=faults]') { click_on 'Rear left: reversed polarity' }
    click_on 'Left', exact: true
    wait_for 'after', 'rear_left', 'dark'
    assert_text 'swap the two wires at the socket'
  end

  def test_load_resistors_move_the_rail_and_go_again
    visit '/job/dunlin250/signals'
    before = kept
    find('[data-cure=resistors]').click_on 'choose'
    assert_no_selector '[data-testid=rail-kept]', text: /\A#{before.abs}\b/
    assert_in_delta before - (3.46 * 13.9 / 13.5 / 2), kept, 0.1, 'half the time while flashing'
    assert_text 'hot enough to burn skin'
    find('[data-cure=resistors]').click_on 'chosen'
    assert_selector '[data-testid=problems]'
    assert_in_delta before, kept, 0.051
    assert_nil document('dunlin250')['order']
  end

  def test_two_terminals_to_three_and_the_controller
    visit '/job/wren125/signals'
    wait_for 'after', 'front_left', 'steady'
    assert_text 'Earth has to be added'
    assert_text '49 and 49a would be crossed'
    find('[data-cure=flasher_3]').click_on 'choose'
    assert_selector '[data-testid=cured]'
    visit '/job/curlew1100/signals'
    assert_selector '[data-testid=problems]', text: 'dash tell-tale flashes 170'
    assert_text 'Data bus: never splice'
    find('[data-cure=controller]').click_on 'choose'
    assert_selector '[data-testid=cured]'
  end

  def test_a_part_touched_and_the_flash_counted_with_the_space_bar
    visit '/job/wren125/signals'
    wait_for 'before', 'front_left', 'flashes'
    click_on 'hold still', match: :first
    find('[data-testid=loop-before] [data-part=front_left]').click
    assert_selector '[data-testid=loop-before] [data-testid=part-reading]',
      text: /Front left flashes\. Contact closed: 1\d\.\d+ V, 0\.\d+ A/
    page.execute_script('document.activeElement.blur()')
    6.times do
      press(:Space)
      sleep 0.5
    end
    within '[data-testid=flash-counter]' do
      assert_text 'a minute ±'
      click_on 'Take it: as it came in'
    end
    saved!
    assert_in_delta 110, document('wren125').dig('checks', 'before', 'flash_per_min'), 15
  end

  def test_what_is_not_known_is_asked_for
    visit '/job/dunlin250/signals'
    find("[data-at='/signals/flasher']").select('not known')
    assert_text 'Still unknown: the flasher’s kind'
    visit '/job/bracken420/signals'
    assert_text 'no turn signals entered'
  end

  # Rows of choices are one stop for the tab key; arrows go from one to the next. Drawn parts are reached by key.
  def test_by_keys_alone
    visit '/job/wren125/signals'
    wait_for 'before', 'front_left', 'flashes'
    find('[role=radiogroup][aria-label=Switch] [aria-checked=true]').click
    press(:Right)
    assert_selector '[role=radiogroup][aria-label=Switch] [aria-checked=true]', text: 'Right'
    wait_for 'before', 'front_right', 'flashes'
    press(:Left)
    assert_selector '[role=radiogroup][aria-label=Switch] [aria-checked=true]', text: 'Left'
    page.execute_script("document.querySelector('[data-testid=loop-before] [data-part=fuse]').focus()")
    press(:Enter)
    assert_selector '[data-testid=loop-before] [data-testid=part-reading]', text: /Fuse\. Contact closed/
  end

  # What is tapped in error is tapped away; what was seen is held against every fault.
  def test_looks_are_tapped_and_taken_back
    visit '/job/dunlin250/signals'
    diagnosis = find('[data-testid=diagnosis]')
    diagnosis.assert_text 'Tap what you see'
    diagnosis.click_on 'the fuse blew'
    diagnosis.assert_selector '[data-testid=candidate]', minimum: 1
    diagnosis.click_on 'the fuse blew'
    diagnosis.assert_text 'Tap what you see'
    rate = diagnosis.find('[role=group][aria-label=Rate], [role=radiogroup][aria-label=Rate]')
    rate.find('button', text: /fast/i).click
    diagnosis.assert_selector '[data-testid=candidate]', minimum: 1
    rate.find('button', text: /fast/i).click
    diagnosis.assert_text 'Tap what you see'
    tell = diagnosis.find('[aria-label="Tell-tale looks"]')
    tell.find('button', text: /dark/i).click
    diagnosis.assert_selector '[data-testid=next-test]', text: 'Next:'
    diagnosis.click_on 'start over'
    diagnosis.assert_text 'Tap what you see'
  end

  # Lights, battery and what is drawn are looked at; nothing of the job is changed by looking.
  def test_the_loop_is_looked_at_under_other_conditions
    visit '/job/dunlin250/signals'
    revision = jobs.find('dunlin250').revision
    assert_selector '[data-testid=loops] svg', count: 2
    select 'after alone', from: 'Drawn'
    assert_selector '[data-testid=loops] svg', count: 1
    click_on 'lights on'
    assert_button 'lights off'
    select '11.5 V', from: 'battery'
    assert_no_text 'solving …'
    select 'before alone', from: 'Drawn'
    assert_selector '[data-testid=loops] svg', count: 1
    first('[data-testid=faults] button').click
    assert_text 'To prove it:'
    first('[data-testid=faults] button[aria-pressed=true]').click
    assert_no_text 'To prove it:'
    assert_equal revision, jobs.find('dunlin250').revision
  end

  def test_the_other_school_comes_first_when_it_is_the_shops
    visit '/job/dunlin250/signals'
    first = -> { all('[data-cure]').first['data-cure'] }
    assert_selector '[data-cure]'
    refute_includes first.call, 'resistors'
    find('[data-testid=cures] select').select('load resistors: keeps the flasher')
    saved!
    assert_equal 'resistors', document('dunlin250').dig('signals', 'school')
    assert_selector '[data-cure]:first-of-type', text: /resistor/i
    assert_includes first.call, 'resistors'
  end
end
