# frozen_string_literal: true

require_relative 'browser_test_case'

# Plan and Order: a machine planned, its plan taken and taken back, its list by supplier; suppliers and a price list.
class PlanScreenTest < Miser::BrowserTest
  SEARCH_S = 60

  def searched(machine)
    visit "/job/#{machine}/plan"
    click_on 'Search'
  end

  def test_planned_taken_and_on_the_list
    searched 'wren125'
    assert_selector '[data-testid=plan-status]', text: 'proved best of', wait: SEARCH_S
    assert_selector '[data-testid=front] [data-plan]', minimum: 4, wait: SEARCH_S
    assert_selector '[data-testid=compare]', text: 'A, as it stands'
    price = find('[data-testid=shown] b.num').text
    before = document('wren125')
    find('[data-testid=take]').click
    saved!
    wait_until { document('wren125').dig('plan', 'taken') }
    assert_equal('keep', document('wren125')['choices'].find { |c| c['position_id'] == 'l8' && c['action'] != 'try' }['action'])
    assert_selector '[data-testid=compare] th', text: 'B, taken'
    find('[aria-label=undo], [aria-label=Undo]', match: :first).click
    wait_until { document('wren125') == before }
    find('[data-testid=take]').click
    wait_until { document('wren125').dig('plan', 'taken') }
    visit '/job/wren125/order'
    assert_selector '[data-supplier="Northlight Lamps"] [data-line]', minimum: 1
    sum = find('[data-testid=sum] b.num').text.to_f
    assert_operator sum, :<, price.to_f, 'work is beside it'
    find('[data-line="part/p-cinder-tail"] summary').click
    assert_selector '[data-line="part/p-cinder-tail"] a', text: 'Choose'
    find('[data-supplier="Northlight Lamps"]').click_on 'Put down as ordered'
    assert_selector '[data-purchase="Cinder LED, tail and brake"][data-state=ordered]', text: 'due'
    find('[data-purchase="Cinder LED, tail and brake"]').click_on 'wrong part'
    saved!
    visit '/'
    assert_text 'Cinder LED, tail and brake (wrong part)'
    visit '/job/wren125/order'
    find('[data-purchase="Cinder LED, tail and brake"]').click_on 'came'
    assert_selector '[data-purchase="Cinder LED, tail and brake"][data-state=received]', text: 'here'
    visit '/job/wren125/plan'
    assert_selector '[data-testid=plan-status]', text: 'proved best of', wait: SEARCH_S
  end

  def test_a_limit_that_no_plan_meets_says_by_how_much
    visit '/job/wren125/plan'
    enter '/plan/money_cents', '100'
    assert_equal 10_000, document('wren125').dig('plan', 'money_cents')
    click_on 'Search'
    assert_selector '[data-testid=stuck]', text: /Money: the least that does is \d+\.\d\d, \d+\.\d\d more/, wait: SEARCH_S
  end

  def test_a_supplier_and_a_list
    visit '/suppliers'
    click_on 'Add a supplier'
    assert_selector '[data-testid=supplier] input', minimum: 6
    within('[data-testid=supplier]') do
      fill_in 'Shipping', with: '7,40'
      find_field('Shipping').send_keys(:tab)
    end
    wait_until { Miser::Store::Suppliers.new(@database).all.any? { |s| s['shipping_cents'] == 740 } }
    fill_in 'Least order', with: 'some'
    find_field('Least order').send_keys(:tab)
    assert_text 'Accepted: 12.50 or 12,50'
    Tempfile.create(%w[list .csv]) do |file|
      file.write("article,name,price\nQ1,Wedge,3.20\nQ1,Wedge,3.30\n")
      file.flush
      click_on 'Take in a list'
      attach_file 'table-file', file.path
      assert_selector '[data-testid=csv-preview]', text: 'stands in line 2 already'
      within('[role=dialog]') { find('.btn-main').click }
    end
    assert_selector '[data-testid=supplier] td', text: 'Q1'
  end
end
