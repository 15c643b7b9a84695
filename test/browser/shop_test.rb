# frozen_string_literal: true

require_relative 'browser_test_case'

# What belongs to the shop and not to one machine: settings, job files, finding things.
class ShopTest < Miser::BrowserTest
  def test_settings_seed_new_jobs_are_bounded_and_kept_when_refused
    visit '/shop'
    opened = find_field('Most that a hole is opened')
    assert_equal '1.5', opened[:placeholder]
    opened.set("1\n")
    assert_text 'saved'
    assert_in_delta 0.001, Miser::Store::Shop.new(@database)['assumptions']['fit_open_m'], 1e-12
    find_field('Most that tabs are thinned').set("40 mm\n")
    assert_selector '[role=alert]', text: /Accepted: .*0\.002/
    assert_field 'Most that tabs are thinned', with: '40 mm'
    refute Miser::Store::Shop.new(@database)['assumptions'].key?('fit_thin_m')
    find_field('Most that tabs are thinned').set("0.2\n")
    assert_no_selector '[role=alert]'
    visit '/'
    click_on 'New machine'
    fill_in 'Machine', with: 'Godwit 300'
    click_on 'Open a ticket'
    assert_selector 'h1', text: 'Godwit 300'
    new = jobs.all.map(&:document).find { |d| d['name'] == 'Godwit 300' }
    assert_equal({ 'fit_open_m' => 0.001, 'fit_thin_m' => 0.0002 }, new['assumptions'].transform_values { |v| v.round(6) })
    visit '/shop'
    find_field('Most that a hole is opened').set("\n")
    assert_text 'saved'
    visit '/shop'
    assert_field 'Most that a hole is opened', with: ''
    assert_field 'Most that tabs are thinned', with: '0.2'
  end

  # With its photographs, out of one shop and into another; over a job that is here only when told so.
  def test_a_job_file_out_and_in_again
    visit '/job/dunlin250/hand-over'
    text = page.evaluate_async_script("fetch('/api/jobs/dunlin250/file?kind=job').then((r) => r.text()).then(arguments[0])")
    path = File.join(@folder, 'dunlin.miser.json')
    File.write(path, text.sub('"Bay 2"', '"Bay 8"'))
    visit '/'
    click_on 'Open a file'
    attach_file 'job-file', path
    click_on 'Take in as another job'
    assert_no_current_path '/'
    refute_match(/dunlin250/, current_path)
    click_link 'Beam'
    assert_selector '[data-testid=slider] img', count: 2
    assert_equal 800, page.evaluate_script("document.querySelector('[data-testid=slider] img').naturalWidth")
    File.write(path, text.sub('"Bay 2"', '"Bay 9"'))
    visit '/'
    click_on 'Open a file'
    attach_file 'job-file', path
    assert_text 'This job is here already. The file differs in 1 places'
    assert_selector 'td', text: 'Bay 2'
    click_on 'Lay it over the job here'
    assert_current_path %r{/job/dunlin250/budget}
    assert_equal 'Bay 9', document('dunlin250')['bay']
    File.write(path, text.sub('"iso": 100', '"iso": "much"'))
    visit '/'
    click_on 'Open a file'
    attach_file 'job-file', path
    assert_selector '[role=alert]', text: 'ISO'
    assert_no_button 'Take it in'
    assert_equal 'Bay 9', document('dunlin250')['bay']
  end

  def test_anything_is_found_from_anywhere
    visit '/'
    { 'ptarm' => %r{/job/ptarmigan550/}, 'shop set' => %r{/shop\z} }.each do |word, where|
      look_for word
      assert_current_path where
      visit '/'
    end
    visit '/job/bracken420/budget'
    look_for 'headlamp', 'load'
    assert_current_path(/bracken420/, ignore_query: true)
    look_for 'aim', 'stage'
    assert_current_path '/job/bracken420/aim'
    look_for 'telephone as', 'setting'
    assert_selector "[data-at='/assumptions/lux_phone_sigma']:focus"
    press(:Escape)
    page.driver.browser.mouse.click(x: 640, y: 5)
    press('/')
    fill_in 'Find', with: 'no such thing at all'
    assert_text 'Nothing has all of these words'
  end

  # @param kind [String] of what comes first
  def look_for(word, kind = '(machine|go)')
    # A key for whoever listens; sent to the page's body, it would click in its midst first, on whatever lies there.
    assert_selector '#main'
    press('/')
    fill_in 'Find', with: word
    # What the shop has comes a moment after what the screen knows.
    assert_selector '[role=option]:first-child', text: /\A#{kind}.*#{word.split.first}/i
    line_idle
    find('[role=option]', match: :first).click
    assert_no_selector '[role=option]'
  end
end
