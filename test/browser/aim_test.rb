# frozen_string_literal: true

require_relative 'browser_test_case'

class AimScreenTest < Miser::BrowserTest
  def test_from_the_tape_measure_to_the_wall
    visit '/job/wren125/aim'
    assert_text 'the lines to tape are drawn here'
    assert_text 'the local rule wins'
    enter '/aim/distance_m', '25 ft'
    enter '/aim/lamp_height_m', '900'
    enter '/aim/now_drop_m', '0'
    assert_in_delta 7.62, document('wren125')['aim']['distance_m'], 1e-6
    assert_in_delta 0.9, document('wren125')['aim']['lamp_height_m'], 1e-9
    find("[data-at='/aim/school']").select('2 in down at 25 ft')
    assert_selector '[data-testid=wall] text', text: '51 mm down'
    assert_selector '[data-testid=aim-figures]', text: 'Too high: it blinds'
    enter '/aim/thread_m', '3/8 in'
    enter '/aim/thread_again_m', '7'
    assert_text 'A unit has slipped'
    within('[data-testid=aim-figures]') { find('button', text: '51').click }
    assert_selector '[data-testid=working]', text: 'drop = distance × inclination'
    press(:Escape)
    path = File.join(@folder, 'wall.pdf')
    page.driver.browser.pdf(path: path, prefer_css_page_size: true)
    text = IO.popen(['pdftotext', '-layout', path, '-'], &:read)
    assert_match(/Wren 125/, text)
    assert_match(/cut-off/, text)
    find('[role=switch]', text: 'Set, and looked at').click
    saved!
    visit '/job/wren125/hand-over'
    assert_text 'Beam aimed 0.7 % down, rider aboard'
  end
end
