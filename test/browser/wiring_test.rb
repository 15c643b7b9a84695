# frozen_string_literal: true

require_relative 'browser_test_case'

# The Wiring stage: a bar wired wrongly, found, cured, tried with the switches, printed.
class WiringScreenTest < Miser::BrowserTest
  def turn(key) = find("[data-switch=#{key}]").click

  def lamp(looks) = assert_selector("[data-testid=tracks] [data-kind=lamp][data-part=w4][data-looks=#{looks}]")

  def cargo_bar = "/wiring/feeds/#{document('bracken420')['wiring']['feeds'].find { |f| f['load_id'] == 'w4' }['id']}"

  def test_the_bar_wired_wrongly_found_cured_and_tried
    visit '/job/bracken420/wiring/w4'
    assert_selector '[data-rule=hot_lamp]', text: 'on with the key off'
    assert_selector '[data-testid=as-wanted]', text: 'As wanted in 2 of 16'
    lamp 'on'
    turn 'key'
    lamp 'on'
    assert_selector '[data-testid=now]', text: 'lit now: Tracker, Cargo-rack bar'
    find('[data-rule=hot_lamp]').click_on 'trigger from the high-beam wire'
    assert_no_selector '[data-rule=hot_lamp]'
    assert_selector '[data-testid=as-wanted]', text: 'As wanted in all 16'
    lamp 'off'
    turn 'key'
    lamp 'off'
    turn 'high'
    lamp 'on'
    assert_selector '[data-kind=pull][data-closed=true]'
    turn 'key'
    lamp 'off'
    assert_equal 'high', document('bracken420').dig('wiring', 'feeds', 0, 'trigger')
    find('[aria-label=undo], [aria-label=Undo]', match: :first).click
    assert_selector '[data-rule=hot_lamp]'
  end

  def test_a_feed_is_taken_changed_and_measured
    visit '/job/bracken420/wiring/w1'
    find('[data-testid=proposal]').click_on 'Take it'
    assert_selector '[data-testid=feed-fields]'
    saved!
    feed = document('bracken420')['wiring']['feeds'].find { |f| f['load_id'] == 'w1' }
    at = "/wiring/feeds/#{feed['id']}"
    enter "#{at}/wires/feed/length_m", '2.5 m'
    enter "#{at}/wires/feed/area_mm2", '20 awg'
    kept = document('bracken420')['wiring']['feeds'].find { |f| f['load_id'] == 'w1' }['wires'].find { |w| w['key'] == 'feed' }
    assert_in_delta 2.5, kept['length_m']
    assert_in_delta 0.518, kept['area_mm2'], 0.001
    field("#{at}/wires/feed/length_m").set('0')
    assert_text 'Accepted: above 0 to 50 m'
    field("#{at}/wires/feed/length_m").set('1.2')
    saved!
    enter "#{at}/fuse_a", '20'
    assert_selector '[data-rule=fuse_over_wire]', text: '20 A fuse'
    find('[data-testid=short]').select 'Radio charger, terminal to load'
    assert_text 'opens at once'
    find('summary', text: 'Other ways').click
    within('[data-kind=battery]') { click_on 'take' }
    assert_selector '[data-kind=battery]', text: 'taken'
    assert_equal('battery', document('bracken420')['wiring']['feeds'].find { |f| f['load_id'] == 'w1' }['kind'])
  end

  def test_wanted_otherwise_colours_and_a_box
    visit '/job/curlew1100/wiring'
    cell = '[data-cell="w1 key"]'
    find(cell).click
    assert_selector '[data-testid=as-wanted]', text: 'As wanted in 23 of 24'
    3.times { find(cell).click && saved! }
    click_on 'Add a colour'
    saved!
    row = document('curlew1100')['wiring']['colours'].first['id']
    field("/wiring/colours/#{row}/function").select 'left signal wire (L)'
    enter "/wiring/colours/#{row}/colour", 'brown'
    find('[data-testid=boxes]').click_on 'Add a hub'
    assert_selector '[data-device]', count: 3
    within('[data-device=box]') { find('select', match: :first) && select('2 A, recommended') }
    assert_no_selector '[data-rule=step]'
    assert_equal 2, document('curlew1100')['wiring']['devices'].find { |d| d['id'] == 'box' }.dig('channel_b', 'fuse_a')
  end

  BOXES = <<~JS
    [...document.querySelectorAll('[data-testid=tracks] text[data-words]')].map((t) => { const b = t.getBBox(); return [b.x, b.y, b.x + b.width, b.y + b.height, t.textContent] })
  JS

  # As the browser's own letters stand, at every width.
  def test_words_do_not_touch_and_the_diagram_prints
    { 'bracken420' => 1280, 'curlew1100' => 820 }.each do |job, width|
      page.driver.resize(width, 900)
      visit "/job/#{job}/wiring"
      assert_selector '[data-testid=tracks] [data-looks=on]'
      boxes = page.evaluate_script(BOXES)
      assert_operator boxes.size, :>, 12
      boxes.combination(2) { |a, b| refute a[0] < b[2] && b[0] < a[2] && a[1] < b[3] && b[1] < a[3], "#{a.last} on #{b.last}" }
    end
    pdf = File.join(@folder, 'page.pdf')
    page.driver.browser.pdf(path: pdf, landscape: true)
    text = IO.popen(['pdftotext', '-layout', pdf, '-'], &:read)
    assert_includes text, 'Wiring'
    assert_includes text, 'Tracker'
    href = find('a', text: 'PDF')['href']
    first = "const done = arguments[0]; fetch('#{href}').then((r) => r.text()).then((t) => done(t.slice(0, 4)))"
    assert_equal '%PDF', page.evaluate_async_script(first)
  end
end
