# frozen_string_literal: true

require_relative 'browser_test_case'

# Drills on screen: begun, played by hand and by keys, judged, handed on.
class DrillsBrowserTest < Miser::BrowserTest
  # @return [String] what is hidden, as a person names it
  def begun(code)
    visit '/drills'
    find('[data-testid=drill-code]').set(code)
    click_on 'Take it'
    assert_selector '[data-testid=complaint]'
    id = current_path.split('/').last
    exercise(id).hidden.map { |h| h.suspect.label }
  end

  def exercise(id)
    row = Miser::Store::Drills.new(@database).find(id)
    Miser::Drill::Exercise.of(Miser::Drill::Machine.new(row.body['document']), row.body['faults'])
  end

  # Nothing hangs over the side of a tablet or a telephone.
  def narrow!
    [820, 400].each do |width|
      page.current_window.resize_to(width, 1000)
      wait_until { page.evaluate_script('document.documentElement.scrollWidth') <= width }
    end
  ensure
    page.current_window.resize_to(1280, 800)
  end

  def spent = find('[data-testid=spent]').text

  def test_found_read_and_mended
    fault, = begun('fault.dunlin250.3.5')
    within('[aria-label=Switches]') { %w[key lights left].each { |s| click_on s, exact: true } }
    find('[data-testid=look]').click
    assert_selector '[data-testid=light-front_left]', text: 'dark'
    assert_text 'Nothing flashes.'
    select 'Flasher’s plug: 49, supply', from: 'Red lead'
    assert_text 'First: Seat and side cover off: 3 min'
    find('[data-testid=read]').click
    assert_selector '[data-testid=display]', text: /12\.\d\d.?V/
    assert_text 'All of that is open.'
    assert_match(/4\.5 min\s0\.00 parts/, spent)
    # Pulled, it is not as it was looked at.
    find('[data-testid=light-rear_left]').click
    click_on 'Unplug it · 1 min'
    assert_text 'something has moved since'
    narrow!
    click_on 'Plug it in again'
    fill_in 'Fault', with: 'stuck'
    find('[data-testid=fault]', match: :first).click
    find('[data-testid=mend]').click
    assert_selector '[data-testid=done]', text: 'it still does what it did'
    page.refresh
    assert_selector '[data-testid=done] li', minimum: 5
    fill_in 'Fault', with: fault
    find('[data-testid=fault]', match: :first).click
    find('[data-testid=mend]').click
    assert_selector '[data-testid=debrief]', text: "It was: #{fault}"
    assert_text 'One thing was mended that was not it.'
    assert_selector 'code', text: 'fault.dunlin250.3.5'
    assert_text 'Where the ways parted'
    click_on 'one step on ›'
    assert_selector 'svg[aria-label*="Flasher’s plug: 49a, to the switch 0.0"]'
    narrow!
    click_on '‹ drills'
    assert_selector '[data-testid=played]', text: 'Dunlin 250', count: 1
  end

  def test_by_keys_and_given_up
    begun('fault.dunlin250.3.5')
    press('l')
    assert_selector '[data-testid=done] li', text: 'Look round: everything off'
    press('r')
    assert_selector '[data-testid=display]', text: /\d.?V/
    press('m')
    assert_selector '[data-testid=fault-word]:focus'
    press('lr')
    assert_selector '[data-testid=done] li', count: 2
    click_on 'Ask somebody who knows'
    assert_selector '[data-testid=done] li', count: 3
    click_on 'Give up'
    click_on 'Give up: show me what it was'
    assert_selector '[data-testid=debrief]', text: 'Not solved.'
  end

  def test_a_question_and_what_is_no_number
    visit '/drills'
    click_on 'Keeps or owes, by head'
    click_on 'Begin'
    find('[data-testid=answer-keeps]').set('much')
    assert_text 'Not a number. Accepted'
    assert_button 'That is my answer', disabled: true
    find('[data-testid=answer-keeps]').set('−0,5')
    find('[data-testid=answer-band]').set('1.5')
    click_on 'That is my answer'
    assert_selector '[data-testid=verdict]', text: 'It spends'
    click_on 'Another'
    assert_selector '[data-testid=played]', count: 1
    find('[data-testid=drill-code]').set('nonsense')
    click_on 'Take it'
    assert_selector '[role=alert]', text: 'Accepted: fault.made-up.3.4711'
  end

  def test_a_case_that_was_solved_becomes_a_drill
    visit '/job/dunlin250/signals'
    within '[data-testid=diagnosis]' do
      within(find('[aria-label="Front left looks"]')) { click_on 'dark' }
      within(find('[aria-label="Rear left looks"]')) { click_on 'flashes' }
      click_on 'It was this: make a drill of it', match: :first
    end
    assert_selector '[data-testid=complaint]'
  end
end
