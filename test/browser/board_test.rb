# frozen_string_literal: true

require_relative 'browser_test_case'

# The first screen: machines in the bays.
class BoardTest < Miser::BrowserTest
  def test_a_machine_is_opened_in_its_bay_with_its_system
    visit '/'
    click_on 'New machine'
    fill_in 'Machine', with: 'Godwit 300'
    fill_in 'Bay', with: 'Bay 12'
    choose_system 'AC-lit'
    click_on 'Open a ticket'
    assert_selector 'h1', text: 'Godwit 300'
    made = jobs.all.map(&:document).find { |d| d['name'] == 'Godwit 300' }
    assert_equal ['Bay 12', 'ac_lit'], made.values_at('bay', 'system')
    click_on '‹ bay board'
    assert_selector '[data-testid=bay]', text: /Bay 12.*Godwit 300|Godwit 300/, count: 1
  end

  def choose_system(label) = find('fieldset label', text: label).find('input', visible: :all).click

  def test_only_what_is_asked_for_is_shown
    visit '/'
    assert_selector '[data-testid=bay]', count: 5
    fill_in 'Show only', with: 'ptar'
    assert_selector '[data-testid=bay]', count: 1, text: 'Ptarmigan'
    fill_in 'Show only', with: 'no such'
    assert_text 'No machine in the bays matches “no such”.'
    fill_in 'Show only', with: ''
    assert_selector '[data-testid=bay]', count: 5
  end

  def test_the_next_step_leads_to_its_stage
    visit '/'
    bay = find('[data-testid=bay]', text: 'Dunlin 250')
    step = bay.find('button', text: 'next')
    words = step.text.sub(/\Anext\s*/, '')
    step.click
    assert_current_path(%r{\A/job/dunlin250/\w})
    assert_text words
  end

  # Removed machines wait below, also after the board was left.
  def test_a_machine_taken_out_long_ago_comes_back
    visit '/'
    click_on 'Remove Curlew 1100'
    assert_selector '[data-testid=bay]', count: 4
    visit '/shop'
    visit '/'
    assert_selector '[data-testid=bay]', count: 4
    find('summary', text: 'Removed machines (1)').click
    within(find('details', text: 'Removed machines')) { click_on 'Bring it back' }
    assert_selector '[data-testid=bay]', count: 5
    assert_equal 'Curlew 1100', document('curlew1100')['name']
  end

  def test_keys_are_told_and_the_theme_turns
    visit '/'
    press('?')
    assert_selector '[role=dialog]', text: 'undo', wait: 4
    find('[role=dialog] button', text: '✕').click
    assert_no_selector '[role=dialog]'
    dark = -> { page.evaluate_script("(e => e.classList.contains('dark') || e.dataset.theme === 'dark')(document.documentElement)") }
    was = dark.call
    press('t')
    refute_equal was, dark.call
    click_on was ? 'Dark theme' : 'Light theme'
    assert_equal was, dark.call
    click_on 'find'
    assert_field 'Find'
  end

  # While the server is away the board says so, and tries again when told.
  def test_the_board_without_a_server
    visit '/'
    assert_selector '[data-testid=bay]', count: 5
    page.driver.browser.network.emulate_network_conditions(offline: true)
    click_link 'Dunlin 250'
    assert_text 'Miser does not answer'
    page.driver.browser.network.emulate_network_conditions(offline: false)
    click_on 'Try again'
    assert_selector 'h1', text: 'Dunlin 250'
  end
end
