# frozen_string_literal: true

require_relative 'browser_test_case'
require_relative '../support/photographs'

# The card at the machine: by keyboard alone, by touch on a tablet, with the server away and back.
class CardScreenTest < Miser::BrowserTest
  include Miser::Photographs

  def card(id) = settings_ticket(id).stage('fit').card

  def settings_ticket(id) = Miser::Server::App.on(@database).settings.tickets.of(document(id))

  def number = find('[data-testid=step-number]').text[/step (\d+)/, 1].to_i

  def log(id) = document(id).dig('card', 'log') || []

  def key(*keys) = page.driver.browser.keyboard.type(*keys)

  # Presses until the screen says so.
  def advance_to(goal, &press)
    until number >= goal
      was = number
      press.call
      assert_selector '[data-testid=step-number]', text: /step (?!#{was} )\d/, wait: 4
    end
  end

  # What the parts hold and the aim hold ask for is there already.
  def bought_and_aimed(id = 'ptarmigan550')
    jobs.change(id, document_revision(id), what: 'bought, and aimed') do |d|
      d.merge('aim' => { 'set' => true }, 'left_open' => [{ 'id' => 'o', 'point' => 'order/unordered', 'reason' => 'from the store' }])
    end
  end

  # Space, page keys and arrows: a foot pedal is a keyboard. What holds is done where it is done, by Tab and Enter alone.
  def test_a_whole_card_with_the_keyboard_alone
    bought_and_aimed
    total = card('ptarmigan550').steps.size
    visit '/job/ptarmigan550/fit'
    with_enter find('[data-testid=at-the-machine]')
    turns = [' ', :PageDown, :Right, :Down].cycle
    advance_to(card('ptarmigan550').steps.index { |s| s.key == 'before/tried' } + 1) { key(turns.next) }
    assert_selector '[data-testid=step-held]', text: 'Nothing was tried yet.'
    try_all('before') { key(:PageDown) }
    advance_to(card('ptarmigan550').steps.index { |s| s.key == 'check/tried' } + 1) { key(turns.next) }
    key(:PageUp)
    assert_selector '[data-testid=advance]', text: /\Anext\z/
    key(:PageDown)
    try_all('open') { key(' ') }
    tray = card('ptarmigan550').steps.index { |s| s.key == 'end/tray' } + 1
    advance_to(tray) { key(turns.next) }
    assert_selector '[data-testid=step-held]', text: 'A1: 4 × quarter turn flat not back'
    with_enter find('[data-testid=machine] [data-place=A1]')
    with_enter find('button', text: 'All back', exact_text: true)
    assert_no_selector '[data-testid=step-held]'
    advance_to(card('ptarmigan550').steps.index { |s| s.key == 'end/again' } + 1) { key(turns.next) }
    try_all('closed') { key(' ') }
    advance_to(total) { key(turns.next) }
    assert_selector '[data-testid=advance]', text: /\Adone, to the card\z/
    with_key find('[data-testid=advance]'), ' '
    assert_no_selector '[data-testid=machine]'
    assert_selector '[data-testid=card-progress]', text: "#{total} of #{total} done"
    saved!
    wait_until { card('ptarmigan550').next_step.nil? }
    assert_equal total, log('ptarmigan550').select { |r| r['did'] == 'done' }.map { |r| r['step'] }.uniq.size
  end

  # In hand as the tabulator puts it there, and pressed.
  def with_key(element, pressed)
    page.execute_script('arguments[0].focus()', element)
    key(pressed)
  end

  def with_enter(element) = with_key(element, :Enter)

  # From a held step to the check and back, by keys.
  def try_all(side)
    yield
    assert_current_path %r{/function/#{side}}
    with_enter find('[data-testid=all-ok]')
    assert_selector '[data-testid=untried]', text: /\Aall \d+ tried/
    saved!
    visit '/job/ptarmigan550/fit'
    with_enter find('[data-testid=at-the-machine]')
    assert_selector '[data-testid=step-number]'
    assert_no_selector '[data-testid=step-held]'
  end

  # A thumb where a thing is seen.
  def touch(element)
    page.execute_script("arguments[0].scrollIntoView({ block: 'center' })", element)
    x, y = page.evaluate_script('((r) => [r.x + r.width / 2, r.y + r.height / 2])(arguments[0].getBoundingClientRect())', element)
    page.driver.browser.page.command('Input.dispatchTouchEvent', type: 'touchStart', touchPoints: [{ x: x, y: y }])
    page.driver.browser.page.command('Input.dispatchTouchEvent', type: 'touchEnd', touchPoints: [])
  end

  def on_a_tablet
    page.driver.browser.page.command('Emulation.setTouchEmulationEnabled', enabled: true)
    page.driver.resize(820, 1100)
    yield
  ensure
    page.driver.resize(1280, 800)
  end

  def thumb(name) = touch(find('button', text: name, exact_text: true))

  def test_notes_and_the_tray_by_touch
    on_a_tablet do
      visit '/job/wren125/fit'
      assert_selector '[data-testid=oddities]', text: 'A2: 1 × M5 × 12, cross no. 2, cover, from below, is missing'
      touch find('[data-testid=at-the-machine]')
      assert_selector '[data-testid=step-text]', text: 'Pull the cover off square'
      2.times { |i| touch(find('[data-testid=advance]')) && assert_selector('[data-testid=step-number]', text: "step #{15 + i} of 51") }
      thumb 'back'
      assert_selector '[data-testid=step-number]', text: 'step 15 of 51'
      thumb 'note'
      thumb 'tab broken'
      assert_text 'tab broken'
      touch find('[data-testid=machine] [data-place=A2]')
      thumb 'Found one'
      assert_no_selector '[data-testid=machine] [data-place=A2]', text: 'missing'
      saved!
      assert_equal 'tab broken', log('wren125').last['text']
      assert_equal 0, document('wren125').dig('card', 'fasteners', 0, 'lost')
    end
  end

  def test_a_whole_card_by_touch_on_a_tablet
    bought_and_aimed
    total = card('ptarmigan550').steps.size
    on_a_tablet do
      visit '/job/ptarmigan550/fit'
      touch find('[data-testid=at-the-machine]')
      %w[before open].each do |side|
        key = side == 'open' ? 'check/tried' : 'before/tried'
        advance_to(card('ptarmigan550').steps.index { |s| s.key == key } + 1) { touch find('[data-testid=advance]') }
        thumb 'do it now'
        assert_current_path %r{/function/#{side}}
        touch find('[data-testid=all-ok]')
        assert_selector '[data-testid=untried]', text: /\Aall \d+ tried/
        saved!
        touch find('nav a', text: 'Fit')
        touch find('[data-testid=at-the-machine]')
      end
      advance_to(card('ptarmigan550').steps.index { |s| s.key == 'end/tray' } + 1) { touch find('[data-testid=advance]') }
      touch find('[data-testid=machine] [data-place=A1]')
      thumb 'All back'
      assert_no_selector '[data-testid=step-held]'
      advance_to(card('ptarmigan550').steps.index { |s| s.key == 'end/again' } + 1) { touch find('[data-testid=advance]') }
      thumb 'do it now'
      touch find('[data-testid=all-ok]')
      assert_selector '[data-testid=untried]', text: /\Aall \d+ tried/
      saved!
      touch find('nav a', text: 'Fit')
      touch find('[data-testid=at-the-machine]')
      advance_to(total) { touch find('[data-testid=advance]') }
      touch find('[data-testid=advance]')
      wait_until { card('ptarmigan550').next_step.nil? }
    end
  end

  AWAY = ->(env) { env['rack.hijack'].call.close && [200, {}, []] }

  # The server gone for as long as it takes: steps are ticked, a picture is taken, the page is opened anew; then all of it
  # arrives, once.
  def test_the_server_away_and_back
    bought_and_aimed('dunlin250')
    visit '/job/dunlin250/fit'
    assert_selector '[data-testid=at-the-machine]'
    wait_until do
      page.evaluate_async_script("caches.open('miser-machines').then((c) => c.keys()).then((k) => arguments[0](k.length))") >= 8
    end
    find('[data-testid=at-the-machine]').click
    there = Miser::Served.instance_variable_get(:@app)
    Miser::Served.app = AWAY
    3.times { key(:PageDown) }
    assert_selector '[data-testid=unsent]', text: 'Kept here: 3 to send'
    assert_selector '[data-testid=step-number]', text: 'step 4 of 54'
    visit '/job/dunlin250/fit?machine'
    assert_selector '[data-testid=step-number]', text: 'step 4 of 54'
    key(:PageDown)
    File.binwrite(path = File.join(@folder, 'p.jpg'), photograph)
    find('[data-testid=picture]', visible: :all).set(path)
    assert_selector '[data-testid=unsent]', text: '5 to send'
    jobs.change('dunlin250', document_revision('dunlin250'), what: 'x') { |d| d.merge('note' => 'meanwhile') }
    Miser::Served.app = there
    wait_until { log('dunlin250').size == 4 && document('dunlin250').dig('card', 'photographs') }
    assert_equal 4, log('dunlin250').map { |r| r['step'] }.uniq.size
    assert_equal 'meanwhile', document('dunlin250')['note']
    assert_no_selector '[data-testid=conflict]'
    assert_no_selector '[data-testid=unsent]'
  ensure
    Miser::Served.app = there if there
  end

  def document_revision(id) = jobs.find(id).revision

  # What lies over the card has the keys and the focus: three arrows in the list of keys tick nothing.
  def test_what_lies_over_the_card_has_its_keys
    visit '/job/dunlin250/fit'
    find('[data-testid=at-the-machine]').click
    assert_selector '[data-testid=step-number]', text: 'step 1 of'
    page.execute_script('document.activeElement.blur()')
    key('?')
    sheet = find('h2', text: 'Keys', exact_text: true)
    box = page.evaluate_script('((e) => { const r = e.getBoundingClientRect(); return document.elementFromPoint(r.x + 5, r.y + 5) === e })(arguments[0])', sheet)
    assert box, 'the sheet lies over the card'
    3.times { key(:Right) }
    key(:Escape)
    assert_no_selector 'h2', text: 'Keys', exact_text: true
    assert_selector '[data-testid=step-number]', text: 'step 1 of'
    assert_empty log('dunlin250')
    key('/')
    find('input[type=search], [role=combobox]', match: :first).send_keys('Wren')
    2.times { key(:Escape) } # the first clears what was typed
    assert_no_selector 'h2', text: 'Find', exact_text: true
    assert_selector '[data-testid=machine]'
    key(:PageDown)
    assert_selector '[data-testid=step-number]', text: 'step 2 of'
    wait_until { log('dunlin250').size == 1 }
  end

  # The six usual notes can be touched on a small screen: nothing lies over them.
  def test_quick_notes_on_a_low_screen
    page.current_window.resize_to(1280, 713)
    visit '/job/dunlin250/fit'
    find('[data-testid=at-the-machine]').click
    click_button 'note', exact: true
    covered = page.evaluate_script(<<~JS)
      [...document.querySelectorAll('[data-testid=note-form] button')].filter((b) => {
        const r = b.getBoundingClientRect()
        const there = document.elementFromPoint(r.x + r.width / 2, r.y + r.height / 2)
        return !(there && b.contains(there))
      }).map((b) => b.innerText)
    JS
    assert_empty covered
    within('[data-testid=note-form]') { first('button').click }
    wait_until { log('dunlin250').any? { |r| r['did'] == 'note' } }
    assert_selector '[data-testid=step-number]', text: 'step 1 of'
  end

  # A bad cell leads to the diagnosis with its sign entered; what stays open wants a reason, which the sheet prints.
  def test_the_function_check
    visit '/job/dunlin250/function/open'
    find('[data-cell="l5.2.left"]').click
    within('[data-testid=saw]') { click_on 'dark' }
    assert_selector '[data-testid=function-findings]', text: 'Signals, left, rear, left: dark while it is open'
    find('[data-testid=all-ok]').click
    assert_selector '[data-testid=untried]', text: 'all 176 tried'
    find("[data-point='function/l5.2.left']").set('lens cracked, on order')
    find("[data-point='function/l5.2.left']").send_keys(:tab)
    saved!
    within('[data-testid=function-findings]') { click_on 'Find the cause' }
    assert_current_path %r{/signals}
    within('[data-testid=diagnosis]') { assert_selector 'button[aria-checked=true]', text: 'dark' }
    visit '/job/dunlin250/hand-over'
    assert_selector '[data-testid=sheet-open]', text: 'lens cracked, on order'
    assert_selector '[data-testid=sheet-tried]', text: 'while it is open 176 of 176 tried, 1 wrong'
  end

  # Steps that wait for each other are refused by name, and stay on the screen as typed.
  def test_ways_of_opening
    visit '/access/bucket'
    assert_selector '[data-testid=access]'
    first, last = all('[data-access-step]').map { |e| e['data-access-step'] }.values_at(0, -1)
    within("[data-access-step='#{first}']") do
      find('summary').click
      find("[data-needs='#{last}']").click
    end
    click_on 'Keep it'
    assert_selector '[role=alert]', text: 'waits for'
    within("[data-access-step='#{first}']") { find("[data-needs='#{last}']").click }
    find('[data-access-field=label]').set('Bucket, our way')
    click_on 'Keep it'
    assert_selector 'nav a', text: 'Bucket, our way'
    visit '/job/dunlin250/fit'
    assert_selector '[data-access=head]', text: 'Bucket, our way'
  end
end
