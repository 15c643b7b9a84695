# frozen_string_literal: true

require_relative 'browser_test_case'

# Gloves are on: how many touches and keys a machine takes, counted as the browser sees them.
class TouchesTest < Miser::BrowserTest
  MOST_TOUCHES = 25
  MOST_KEYS = 60

  def count!
    page.execute_script(<<~JS)
      window.touches = 0; window.keys = 0
      document.addEventListener('pointerdown', () => (window.touches += 1), true)
      document.addEventListener('keydown', () => (window.keys += 1), true)
    JS
  end

  def type_into(at, text)
    field(at).click
    field(at).send_keys(*text.chars)
    saved!
  end

  # From the board to what a twin keeps at idle, as it came in and with its lamps changed.
  def test_from_the_board_to_kept_at_idle_before_and_after
    visit '/'
    count!
    click_on 'New machine'
    find('#new-name').click
    find('#new-name').send_keys(*'Tern 400'.chars)
    within('[role=dialog]') { click_on 'Twin, carburettors' }
    click_on 'Open a ticket'
    assert_selector '[data-lamp]', count: 8
    type_into '/circuits/main/alternator/rated_w', '280'
    type_into '/circuits/main/alternator/rated_rpm', '5000'
    type_into '/circuits/main/battery/capacity_ah', '9'
    click_link 'Choose'
    find("button[aria-label='Fit Lantern 7 inch LED unit']").click
    find('ol button', text: 'Tail and brake').click
    find("button[aria-label='Fit Cinder LED, tail and brake']").click
    find('ol button', text: 'Front signal, left').click
    find("button[aria-label='Fit Glint amber LED, P21W base']").click
    click_on 'Same on all 4'
    saved!
    job = jobs.all.map(&:document).find { |d| d['name'] == 'Tern 400' }
    steps = all('[data-testid=steps] dd').map(&:text)
    assert_match(/\A(keeps|owes)/, steps.first)
    budget = Miser::Budget::Budget.new(job)
    before, after = %w[before after].map { |side| budget.line(side, 'idle_night', 'main').keeps.value }
    assert_in_delta after, kept, 0.051
    assert_operator after, :>, before + 4
    assert_equal(6, job['choices'].count { |c| c['action'] == 'swap' })
    touches, keys = page.evaluate_script('[window.touches, window.keys]')
    assert_includes 1..MOST_TOUCHES, touches, "#{touches} touches"
    assert_includes 1..MOST_KEYS, keys, "#{keys} keys"
  end

  # What is taken out is offered back for a while, in one touch.
  def test_what_is_taken_out_comes_back
    visit '/job/dunlin250/intake'
    find("button[aria-label='Remove Headlamp']").click
    assert_selector '[data-testid=removed]', text: 'Headlamp was taken out.'
    saved!
    refute(document('dunlin250')['positions'].any? { |p| p['name'] == 'Headlamp' })
    within('[data-testid=removed]') { click_on 'Bring it back' }
    assert_selector "[data-lamp='l1']"
    back = document('dunlin250')
    assert_equal [2, 3], [back['loads'].count { |l| l['position_id'] == 'l1' }, back['choices'].count { |c| c['position_id'] == 'l1' }]
    assert_no_selector '[data-testid=removed]'
  end

  def test_find_takes_words_in_any_order_and_stages_from_the_board
    visit '/'
    page.driver.browser.keyboard.type('/')
    fill_in 'Find', with: 'signals dunlin'
    assert_selector 'li[role=option]', text: /stage.*Signals.*Dunlin 250/
    fill_in 'Find', with: 'unit lantern'
    find('li[role=option]', text: /part Lantern 7 inch LED unit/).click
    assert_selector 'h2', text: 'Lantern 7 inch LED unit'
    assert_current_path '/shelf/p-lantern-7'
    page.driver.browser.keyboard.type('/')
    fill_in 'Find', with: 'nothing like it'
    assert_text 'Nothing has all of these words'
  end
end
