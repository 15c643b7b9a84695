# frozen_string_literal: true

require_relative 'browser_test_case'

# What users of good software expect: nothing lost, keys, both themes, narrow windows.
class CareTest < Miser::BrowserTest
  AXE = File.expand_path('../../web/node_modules/axe-core/axe.min.js', __dir__)
  RATED = '/circuits/main/alternator/rated_w'
  PAGES = %w[/ /shop /job/ptarmigan550/intake /job/dunlin250/readings/l1.c1
    /job/dunlin250/readings?view=baseline /job/wren125/readings?view=charging
    /job/ptarmigan550/budget /job/dunlin250/signals /job/dunlin250/headlight /job/dunlin250/beam /job/dunlin250/aim
    /job/bracken420/choose/l1 /job/curlew1100/hand-over
    /job/wren125/fit /job/wren125/fit?machine /job/dunlin250/function/open /access /job/wren125/plan
    /job/dunlin250/order /job/bracken420/wiring /shelf /suppliers /job/wren125/history /book /book/wren125 /rechecks /learnt /drills
    /learnt/part?name=Ember%20LED%20bulb,%20HS1%20base /learnt/model?name=Wren%20125
    /fleet?owner=Northern%20island%20ranger%20station].freeze

  # Something of it is there.
  SHOWN = '[data-testid=bay], main input, main table, main article, main section, main li'

  def offline(away) = page.driver.browser.network.emulate_network_conditions(offline: away)

  # Typed while the line was down, and meanwhile changed elsewhere: whoever typed decides.
  def type_without_a_line(text)
    offline true
    field(RATED).set(text)
    assert_selector '[data-testid=save-mark]', text: 'not saved: kept here, tried again'
  end

  def test_two_browsers_on_one_job
    visit '/job/wren125/intake'
    type_without_a_line '250'
    Capybara.using_session(:other) do
      visit '/job/wren125/intake'
      enter RATED, '300'
    end
    offline false
    within '[data-testid=conflict]' do
      assert_text '250'
      assert_text '300'
    end
    assert_equal 300, document('wren125')['circuits'][0]['alternator']['rated_w'], 'the other’s stands until decided'
    click_on 'Put mine on top of theirs'
    saved!
    assert_equal 250, document('wren125')['circuits'][0]['alternator']['rated_w']
    Capybara.using_session(:other) do
      assert_field 'Rated output', with: '250'
      type_without_a_line '310'
    end
    enter RATED, '260'
    Capybara.using_session(:other) do
      offline false
      click_on 'Keep theirs, put mine aside'
      assert_field 'Rated output', with: '260'
      assert_text 'Put aside, not in the job'
      assert_text '"310"'
    end
  end

  # What one changes the others see at once, on the job and on the board, and nothing of theirs is lost by it.
  def test_what_others_change_shows_at_once
    visit '/job/wren125/intake'
    field('/note').set('half a word') # refused by nobody, saved as typed
    saved!
    Capybara.using_session(:board) { visit('/').then { assert_selector('[data-testid=bay]', count: 5) } }
    Capybara.using_session(:other) do
      visit '/job/wren125/intake'
      enter RATED, '300'
    end
    assert_field 'Rated output', with: '300'
    assert_selector '[data-testid=save-mark]', text: 'changed elsewhere just now'
    Capybara.using_session(:other) { enter '/name', 'Siskin 90' }
    Capybara.using_session(:board) { assert_selector '[data-testid=bay]', text: 'Siskin 90' }
    assert_selector 'h1', text: 'Siskin 90'
    enter '/bay', 'Bay 9'
    Capybara.using_session(:board) { assert_selector '[data-testid=bay]', text: 'Bay 9' }
    # Taken off the board elsewhere, it is said here, and can be put back here.
    Capybara.using_session(:board) { click_on 'Remove Siskin 90' }
    assert_selector '[role=alert]', text: 'This job was removed meanwhile'
    click_on 'Bring it back'
    assert_no_selector '[role=alert]'
    Capybara.using_session(:board) { assert_selector '[data-testid=bay]', text: 'Siskin 90' }
    assert_equal ['Siskin 90', 'Bay 9', 'half a word'], document('wren125').values_at('name', 'bay', 'note')
  end

  def test_a_bad_value_is_kept_and_explained_even_over_a_reload
    visit '/job/wren125/intake'
    field(RATED).set('900 A')
    field('/name').click
    assert_text '“900 A” is in another unit than this field'
    assert_text 'Accepted: above 0 to 5000 W'
    assert_equal '900 A', field(RATED).value
    assert_selector "[data-at='#{RATED}'][aria-invalid=true]"
    visit '/job/wren125/intake'
    assert_equal '900 A', field(RATED).value
    enter RATED, '240'
    assert_no_text 'another unit'
  end

  def test_without_a_connection_edits_wait_and_then_go
    visit '/job/wren125/intake'
    field(RATED)
    page.driver.browser.network.offline_mode
    field(RATED).set('260')
    assert_selector '[data-testid=save-mark]', text: 'not saved: kept here, tried again'
    field('/bay').set('Bay 8')
    page.driver.browser.network.emulate_network_conditions(offline: false)
    assert_selector '[data-testid=save-mark]', text: /\Asaved\z/, wait: 10
    assert_equal [260, 'Bay 8'], [document('wren125')['circuits'][0]['alternator']['rated_w'], document('wren125')['bay']]
  end

  def test_fast_typing_loses_no_letter
    visit '/job/wren125/intake'
    name = 'Wren 125 of the north quay, second key on the board'
    box = field('/name')
    box.set('')
    box.send_keys(name)
    saved!
    assert_equal name, document('wren125')['name']
    assert_equal name, box.value
  end

  # A digit a group of stages, on within it when pressed again; arrows to the one before and after.
  def test_stages_by_keys
    visit '/job/curlew1100/intake'
    assert_selector 'h1', text: 'Curlew 1100'
    { '2' => 'budget', :Right => 'choose', '5' => 'hand-over', '1' => 'intake' }.each do |key, stage|
      press(key)
      assert_current_path "/job/curlew1100/#{stage}"
    end
    press('2')
    assert_selector '[data-testid=verdict]'
    press('2')
    assert_selector 'h2', text: 'Choose'
    press(:Left)
    assert_selector '[data-testid=verdict]'
  end

  def test_keyboard_only
    visit '/'
    press('/')
    assert_selector '[role=dialog]', text: 'Find'
    press('curlew')
    assert_selector '[role=option]', text: 'Curlew 1100'
    press(:Enter)
    assert_selector 'h1', text: 'Curlew 1100'
    press('1')
    press('2')
    assert_selector '[data-testid=verdict]'
    press('b')
    assert_selector '[data-testid=steps] [aria-current=true]', text: 'as it came in'
    press('r')
    assert_selector '[data-testid=reading-pane]'
    press(:Escape)
    press('?')
    assert_selector '[role=dialog]', text: 'Keys'
    press(:Escape)
    assert_no_selector '[role=dialog]'
    dark = page.evaluate_script('getComputedStyle(document.body).color')
    page.execute_script('document.activeElement.blur()')
    press('t')
    refute_equal dark, page.evaluate_script('getComputedStyle(document.body).color')
    page.execute_script('document.activeElement.blur()')
    press('n')
    assert_selector 'main :focus'
  end

  def test_tabbing_reaches_the_rail_and_focus_is_seen
    visit '/job/dunlin250/budget'
    assert_selector '[data-testid=verdict]'
    seen = Array.new(48) do
      press(:Tab)
      page.evaluate_script("(() => { const e = document.activeElement; const s = getComputedStyle(e.classList.contains('rail-block') ? e.querySelector('rect') : e); return [e.getAttribute('aria-label') || e.textContent.trim().slice(0, 40), s.outlineStyle !== 'none' || Number.parseFloat(s.strokeWidth) >= 3] })()")
    end
    assert(seen.any? { |label, _| label.start_with?('Heated grips: ') }, seen.map(&:first).join(' | '))
    assert(seen.any? { |label, _| label == 'Engine speed' })
    assert_empty(seen.reject(&:last).map(&:first))
  end

  # Names and roles are the same in both themes; contrast is looked at in each; nothing scrolls sideways on a tablet or a telephone.
  # Two halves, for two browsers at work.
  def test_every_screen_in_both_themes_and_in_narrow_windows_1 = every_screen(PAGES.first(PAGES.size / 2))
  def test_every_screen_in_both_themes_and_in_narrow_windows_2 = every_screen(PAGES.drop(PAGES.size / 2))

  def every_screen(pages)
    visit '/'
    page.execute_script("localStorage.setItem('miser.theme', 'light')")
    source = File.read(AXE)
    pages.each do |path|
      page.current_window.resize_to(1280, 800)
      visit path
      assert_selector SHOWN, match: :first
      page.execute_script(source)
      assert_empty axe("values: ['wcag2a', 'wcag2aa'], type: 'tag'"), "light #{path}"
      page.execute_script("document.documentElement.dataset.theme = 'dark'")
      assert_empty axe("values: ['color-contrast'], type: 'rule'"), "dark #{path}"
      narrow!(path)
    end
  ensure
    page.current_window.resize_to(1280, 800)
  end

  def wide = page.evaluate_script('document.documentElement.scrollWidth')

  def narrow!(path)
    [[820, 1100], [400, 900]].each do |size|
      page.current_window.resize_to(*size)
      assert_operator wide, :<=, size.first, path
    end
  end

  def axe(only)
    page.evaluate_async_script("axe.run(document, { runOnly: { #{only} }, resultTypes: ['violations'] }).then((r) => arguments[0](r.violations.map((v) => `${v.id}: ${v.nodes.slice(0, 3).map((n) => n.html.slice(0, 120)).join(' ~ ')}`)))")
  end

  def test_targets_are_large_enough_for_gloves
    PAGES.first(2).push('/job/dunlin250/budget', '/job/bracken420/choose/l1').each do |path|
      visit path
      assert_selector '.btn', match: :first
      small = page.evaluate_script("[...document.querySelectorAll('.btn, .field, input[type=range]')].filter((e) => e.offsetParent).map((e) => [e.textContent.trim().slice(0, 20), e.getBoundingClientRect()]).filter(([, r]) => r.height < 40 || r.width < 40).map(([t, r]) => `${t} ${r.width}x${r.height}`)")
      assert_empty small, path
    end
  end

  def test_a_walls_readings_in_a_narrow_window
    page.current_window.resize_to(400, 900)
    visit '/job/dunlin250/beam'
    click_on 'enter its readings', match: :first
    assert_selector '[data-testid=cells] input', minimum: 45
    assert_operator wide, :<=, 400, 'with a wall’s readings open'
  ensure
    page.current_window.resize_to(1280, 800)
  end

  def test_back_and_wrong_addresses
    visit '/job/wren125/budget'
    assert_selector '[data-testid=verdict]'
    click_link 'Choose'
    assert_selector 'h2', text: 'Choose'
    page.go_back
    assert_selector '[data-testid=verdict]'
    visit '/job/nobody/budget'
    assert_text 'This job is not here'
    visit '/no/such/place'
    assert_text 'There is nothing at this address'
  end

  def test_removing_a_machine_can_be_undone
    visit '/'
    click_on 'Remove Wren 125'
    assert_text 'Wren 125 was removed'
    within('[role=status]', text: 'Wren 125 was removed') { click_on 'Bring it back' }
    assert_selector '[data-testid=bay]', text: 'Wren 125'
  end

  def test_an_empty_shop
    @database[:jobs].delete
    visit '/'
    assert_text 'No machine in the bays'
    assert_text 'bin/miser demo'
  end

  # The first screen says what it is for and what its marks mean, until that was closed once.
  def test_how_to_read_the_board
    visit '/'
    within '[data-testid=how-to-read]' do
      ['earns and what its lamps', 'not begun', 'part done', 'One standard uncertainty', 'Rests on an assumption'].each do |words|
        assert_text words
      end
      find('summary').click
      assert_no_text 'not begun'
    end
    visit '/'
    assert_selector '[data-testid=how-to-read] summary'
    assert_no_text 'Rests on an assumption'
  end

  # A name is text, and no script may run that is not the app's own file.
  def test_script_in_a_name_stays_text
    jobs.change('wren125', 1, what: 'x') { |d| d.merge('name' => '<img src=x onerror="document.title=\'owned\'">') }
    visit '/job/wren125/hand-over'
    assert_text '<img src=x'
    refute_equal 'owned', page.title
  end
end
