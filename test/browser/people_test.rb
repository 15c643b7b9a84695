# frozen_string_literal: true

require_relative 'browser_test_case'

# Several people at several tablets: signing in, what each sees, who is where, what was.
class PeopleBrowserTest < Miser::BrowserTest
  PHRASE = 'a lantern in the fog'

  def setup
    super
    ENV['RACK_ENV'] = 'test'
    path = File.join(@folder, 'demo.db')
    network = Miser::Server::Network.new(hosts: ['127.0.0.1'], secret: 'x' * 64, secure: false)
    @application = Miser::Server::App.on(@database, network: network, copies: Miser::Store::Copies.new(path))
    Miser::Served.app = @application.new
    { 'Runa' => 'owner', 'Osk' => 'technician', 'Vell' => 'looker_on' }.each { |name, role| @application.settings.sign_in.add(name, PHRASE, role) }
  end

  def teardown
    super
    ENV.delete('RACK_ENV')
  end

  def sign_in(name, phrase = PHRASE)
    visit '/' unless page.has_css?('#passphrase', wait: 0)
    fill_in 'Name', with: name
    fill_in 'Passphrase', with: phrase
    click_on 'Sign in'
  end

  def as(name, &) = Capybara.using_session(name, &)

  def test_who_comes_in_and_what_they_may
    visit '/job/dunlin250/intake'
    assert_text 'Who is working here?'
    sign_in 'Runa', 'not it at all'
    assert_text 'don’t go together'
    sign_in 'Runa'
    assert_css 'h1', text: 'Dunlin 250'
    click_on '‹ bay board'
    click_on 'shop'
    select 'Looker-on', from: 'Role of Osk'
    select 'Looker-on: sees everything, changes nothing', from: 'Somebody new, as'
    click_on 'Make a code'
    code = find('[data-testid=code] b').text
    as('ulf') do
      visit '/'
      click_on 'I have a code'
      fill_in 'Code', with: code.downcase
      fill_in 'Your name', with: 'Ulf'
      fill_in 'A passphrase of your own', with: PHRASE
      click_on 'Come in'
      assert_css 'h1', text: 'Bay board'
      visit '/job/dunlin250/intake'
      assert_field 'Name', with: 'Dunlin 250', disabled: true
      within('nav') { click_on 'Budget' }
      assert_text 'Too close to call'
      visit '/shop'
      assert_no_text 'Somebody new'
    end
    within(find('[data-testid=person]', text: 'Osk')) { click_on 'Osk leaves' }
    within(find('[role=alert]')) { click_on 'Osk leaves' }
    assert_no_css '[data-testid=person]', text: 'Osk'
    click_on 'Make one now'
    assert_css '[data-testid=copy-age]', text: 'less than an hour old'
    click_on 'Sign out', match: :first
    assert_text 'Who is working here?'
  end

  def test_a_pin_with_gloves_on
    sign_in 'Runa'
    assert_css 'h1', text: 'Bay board'
    visit '/shop'
    find('summary', text: 'Passphrase and PIN').click
    fill_in 'Your passphrase', with: PHRASE
    fill_in 'PIN for the shop’s tablets', with: '135791'
    click_on 'Set it'
    assert_text 'The PIN counts from now on.'
    fill_in 'This device is', with: 'tablet in bay 2'
    click_on 'Let it take PINs'
    assert_button 'Forget tablet in bay 2'
    click_on 'Sign out', match: :first
    assert_text 'On this tablet (tablet in bay 2)'
    click_on 'Runa'
    '000000'.chars.each { |digit| click_on digit, exact: true }
    find('button', text: /\Ain\z/).click
    assert_text 'That PIN is not the one.'
    '135791'.chars.each { |digit| click_on digit, exact: true }
    find('button', text: /\Ain\z/).click
    assert_css 'h1', text: 'Shop settings'
  end

  def test_who_is_where_and_what_was
    sign_in 'Runa'
    assert_css 'h1', text: 'Bay board'
    as('osk') do
      sign_in 'Osk'
      assert_css 'h1', text: 'Bay board'
      visit '/job/dunlin250/readings'
      assert_css 'h1', text: 'Dunlin 250'
    end
    assert_css '[data-testid=bay]', text: 'open elsewhere: Osk, Readings'
    click_on 'Dunlin 250'
    assert_css '[data-testid=who-is-here]', text: 'Osk, Readings'
    as('osk') do
      assert_css '[data-testid=who-is-here]', text: 'Runa'
      within('nav') { click_on 'Intake' }
      fill_in 'Waiting for', with: 'a horn relay'
      saved!
      visit '/'
      assert_css 'h1', text: 'Bay board'
    end
    assert_no_css '[data-testid=who-is-here]'
    click_on 'history'
    step = find('[data-testid=step]', match: :first)
    assert_match(/Osk.*Waiting for: diode pair and a flasher → a horn relay/m, step.text)
    all('[data-testid=step]').last.click_on 'Look at it'
    assert_css '[data-testid=past]', text: 'As it was on'
    within('nav') { click_on 'Intake' }
    assert_field 'Waiting for', with: 'diode pair and a flasher', disabled: true
    assert_match(/at=1\b/, find('a', text: 'Job file', visible: :all)['href']) if page.has_css?('a', text: 'Job file', wait: 0)
    click_on 'Make it so again'
    assert_no_css '[data-testid=past]'
    assert_field 'Waiting for', with: 'diode pair and a flasher'
    assert_equal 'diode pair and a flasher', document('dunlin250')['waiting']
    click_on 'history'
    assert_text 'Taken back to state 1'
    as('osk') { page.quit }
  end

  # Signed out from elsewhere while typing: what was typed is there again afterwards.
  def test_what_is_typed_survives_a_sign_out
    sign_in 'Osk'
    assert_css 'h1', text: 'Bay board'
    visit '/job/wren125/intake'
    assert_field 'Waiting for'
    @application.settings.people.sign_out(@application.settings.people.named('Osk').id)
    fill_in 'Waiting for', with: 'a fuse holder'
    assert_text 'Who is working here?'
    sign_in 'Osk'
    assert_field 'Waiting for', with: 'a fuse holder'
    saved!
    assert_equal 'a fuse holder', document('wren125')['waiting']
  end
end
