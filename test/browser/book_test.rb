# frozen_string_literal: true

require_relative 'browser_test_case'
require_relative '../support/handed_over'

# The book on screen: what went out, what comes in again, what falls due, what was learnt.
class BookBrowserTest < Miser::BrowserTest
  def served = Miser::Served.instance_variable_get(:@app).instance_variable_get(:@instance) || Miser::Served.instance_variable_get(:@app)
  def settings = served.settings

  # Out of the door behind the screens' back, by the shop's own acts.
  def hand_over(id, at: Time.now.utc.iso8601)
    saved = settings.jobs.find(id)
    document = Miser::HandedOver.out(saved.document, at: at, ticket: settings.tickets.method(:of))
    settings.jobs.change(id, saved.revision, what: 'out') { document }
  end

  def test_what_goes_out_stands_in_the_book_and_comes_in_again
    saved = settings.jobs.find('wren125')
    out = Miser::HandedOver.out(saved.document, ticket: settings.tickets.method(:of))
    settings.jobs.change('wren125', saved.revision, what: 'answers') { |d| d.merge(out.slice('choices', 'left_open')) }
    visit '/job/wren125/hand-over'
    # One look moved, one not wanted, one of one's own.
    find('[data-testid=rechecks] summary').click
    within(find('[data-testid=recheck-row]', text: 'adjusters')) { click_on 'not wanted' }
    within('[data-testid=rechecks]') do
      fill_in 'Something else to look at', with: 'The bracket of the rack'
      find('label', text: 'on', exact_text: true).find('input').set('2026-12-24')
      click_on 'Add it'
    end
    assert_selector '[data-testid=recheck-row]', text: 'The bracket of the rack'
    saved!
    click_on 'Mark as handed over'
    assert_text(/handed over \d/)
    rows = document('wren125')['rechecks'].to_h { |r| [r['what'], r] }
    assert_equal '2026-12-24', rows['The bracket of the rack']['due_on']
    assert(document('wren125')['rechecks'].find { |r| r['id'] == 'adjusters' }['dropped'])
    click_link 'bay board'
    assert_selector '[data-testid=bay]', count: 4
    assert_no_link 'Wren 125'
    click_link 'book'
    find('[data-testid=book-row]', text: 'Wren 125').click_link('Wren 125')
    assert_selector '[data-testid=machine-job]', count: 1
    assert_selector 'h2', text: 'Read over the years'
    # A new ticket by its name: as it went out, with its wires and readings.
    visit '/'
    click_on 'New machine'
    fill_in 'Machine', with: 'wren'
    find('[data-testid=book-offer]', text: 'Wren 125').click
    assert_selector '[data-testid=known]', text: 'comes in again'
    click_on 'Open a ticket'
    assert_selector '[data-testid=from-the-book]', text: 'It was here once before'
    id = page.current_path[%r{/job/([^/]+)}, 1]
    assert_equal 'wren125', document(id)['machine_id']
    assert_equal document('wren125')['circuits'].first['alternator']['points'].size,
      document(id)['circuits'].first['alternator']['points'].size
  end

  def test_a_look_again_is_a_short_ticket
    hand_over('wren125', at: (Time.now - (20 * 86_400)).utc.iso8601)
    visit '/'
    find('[data-testid=due-strip]', text: '1 overdue').find('a', text: 'Rechecks').click
    find('[data-testid=due]', text: 'overdue').click
    assert_text 'Look, pull at each'
    click_on 'Done'
    assert_text 'not looked at yet'
    # By keyboard: the lamp that came loose, the rest in one.
    group = find('[role=radiogroup]', match: :first)
    loose = group.find('button', text: 'loose')
    loose.click
    assert_equal 'true', loose['aria-checked']
    click_on 'The rest are as they should be'
    find('[role=switch]', text: 'Pulled at each').click
    find("[data-at$='/volts']").set('14.1 V')
    saved!
    click_on 'Done'
    assert_text(/Done on \d/)
    look = document('wren125')['rechecks'].find { |r| r['id'] == 'first_rides' }
    assert_equal ['loose', 14.1, true], [look['found'].first['saw'], look['volts'], look['pulled']]
    # The part says so where it is chosen again.
    visit '/job/wren125/choose/l1'
    assert_selector "tr[data-part='Ember LED bulb, HS1 base'] [data-testid=learnt-note]", text: '1 of 1 looked at again: found loose.'
    click_link 'its record', match: :first
    assert_selector 'h1', text: 'Ember LED bulb, HS1 base'
    assert_selector '[data-testid=record-draw]', text: 'claimed'
    # A dot of the chart opens the job behind it.
    find("a[role=button][aria-label*='Wren 125']", match: :first).send_keys(:enter)
    assert_selector 'h1', text: 'Wren 125'
  end

  def test_a_machine_in_the_book_is_edited_sold_and_joined
    visit '/book/dunlin250'
    enter_field('/machine/frame', 'WR125 0117')
    assert_selector '[data-testid=twin]', text: 'Wren 125 has this frame number as well'
    enter_field('/machine/year', 'next')
    assert_text '“next” is not a number'
    assert_equal 'next', field('/machine/year').value
    click_on 'Sold, or gone for good'
    fill_in 'To', with: 'the harbour'
    click_on 'It is gone'
    assert_selector '[data-testid=gone]', text: 'to the harbour'
    click_on 'It is here again'
    assert_no_selector '[data-testid=gone]'
    click_on 'Put its jobs into this book'
    assert_selector '[data-testid=machine-job]', count: 2
    assert_no_selector '[data-testid=twin]'
    assert_equal 'dunlin250', document('wren125')['machine_id']
  end

  def enter_field(place, text) = field(place).set(text)

  def test_other_shops_readings_are_looked_over_taken_and_taken_back
    visit '/learnt'
    assert_selector '[data-testid=learnt-part]', text: 'Ember LED bulb'
    theirs = Miser::Formats::LearntFile.write(settings.learnt.shared(Time.now.utc)).gsub(settings.shop.mark, 'c' * 24)
    bad = JSON.parse(theirs).tap do |f|
      f['shops'][0]['rows'] << { 'subject' => 'part', 'label' => 'Bell', 'what' => 'draw',
          'item' => 'tail', 'n' => 1, 'mean' => 1e9, 'squares' => 0 }
    end
    path = File.join(@folder, 'theirs.json')
    File.write(path, JSON.generate(bad))
    find('[data-testid=learnt-file]', visible: :all).attach_file(path)
    assert_selector '[data-testid=learnt-preview]', text: '1 can’t be believed and stay out'
    click_on 'Take these'
    assert_selector 'button', text: 'Take it back'
    assert_equal 1, settings.learnt.elsewhere.shops.size
    click_on 'Take it back'
    assert_selector 'button', text: 'Bring it back'
    assert_empty settings.learnt.elsewhere.shops
    File.write(path, 'no file')
    find('[data-testid=learnt-file]', visible: :all).attach_file(path)
    assert_text 'is not JSON'
  end

  def test_found_with_a_slip_and_enter_goes_there
    hand_over('ptarmigan550')
    visit '/'
    press('/')
    assert_selector '[role=combobox]'
    press('ptramigan')
    assert_selector '[role=option]', text: /book Ptarmigan 550/
    press(:enter)
    assert_selector 'h2', text: 'Jobs on it'
    assert_selector 'h1', text: 'Ptarmigan 550'
  end

  def test_a_fleet_on_a_sheet_and_a_feed_for_a_calendar
    hand_over('wren125')
    visit '/fleet?owner=Northern%20island%20ranger%20station'
    assert_selector '[data-testid=fleet-row]', count: 5
    visit '/rechecks'
    assert_selector '[data-testid=due]', count: 4
    click_on 'Make an address'
    address = find('[data-testid=feed]').text
    text = Net::HTTP.get(URI(address.gsub(/\s/, '')))
    assert_equal 4, text.scan('BEGIN:VEVENT').size
    click_on 'Withdraw it'
    assert_no_selector '[data-testid=feed]'
    assert_equal '410', Net::HTTP.get_response(URI(address)).code
  end

  def test_a_known_model_gives_what_it_knows
    visit '/'
    click_on 'New machine'
    fill_in 'Machine', with: 'Another Wren'
    fill_in 'Model, by which', with: 'wren 125'
    click_on 'Scooter', match: :first
    click_on 'Open a ticket'
    find('[data-testid=from-the-book]', text: 'is known').click_on('Take them all')
    saved!
    id = page.current_path[%r{/job/([^/]+)}, 1]
    assert_equal(%w[same_model], document(id)['circuits'].first['alternator']['points'].map { |p| p['taken_on'] }.uniq)
    assert_text 'points of the same model, measured elsewhere'
    assert_no_selector '[data-testid=from-the-book]', text: 'Take them all'
  end
end
