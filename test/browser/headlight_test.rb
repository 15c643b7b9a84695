# frozen_string_literal: true

require_relative 'browser_test_case'

class HeadlightScreenTest < Miser::BrowserTest
  def test_measure_reject_the_bulb_choose_the_unit
    visit '/job/dunlin250/headlight'
    assert_selector '[data-testid=recommended]', text: 'Lantern 7 inch LED unit'
    find('[data-candidate=hb] button', text: 'Ember').click
    assert_selector '[data-rule=hole]', text: 'open the hole by 0.8 mm'
    find('summary', text: 'Measurements of Ember').click
    enter '/headlight/candidates/hb/fin_m', '39,2'
    assert_in_delta 0.0392, document('dunlin250').dig('headlight', 'candidates', 0, 'fin_m'), 1e-9
    assert_selector '[data-rule=hole]', text: 'more than 1.5 mm is not opened'
    assert_selector '[data-candidate=hb]', text: 'does not fit'
    assert find('[data-candidate=hb] button', text: 'choose').disabled?
    find('[data-candidate=hu]').click_on 'choose'
    assert_selector '[data-candidate=hu] button', text: 'chosen'
    saved = document('dunlin250')
    assert_equal 'hu', saved.dig('headlight', 'chosen')
    assert(saved['order'].any? { |r| r['name'] == 'Lantern 7 inch LED unit' })
    assert_equal 'Lantern 7 inch LED unit', saved['choices'].find { |c| c['load_id'] == 'l1' }['part']['name']
    visit '/job/dunlin250/hand-over'
    assert_text 'for the headlight'
  end

  def test_what_is_not_measured_is_asked_for
    visit '/job/wren125/headlight'
    assert_text 'Add the parts you think of'
    click_on 'Add a bulb'
    assert_selector '[data-testid=findings]', text: 'measure the hole and the largest fin'
    assert_selector '[data-testid=findings]', text: 'check the local code'
    assert_no_selector '[data-testid=recommended]'
  end
end
