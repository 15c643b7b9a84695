# frozen_string_literal: true

require_relative 'browser_test_case'

# Plan and Order: a machine planned, its plan taken and taken back, its list by supplier; suppliers and a price list.
class PlanScreenTest < Miser::BrowserTest
  SEARCH_S = 60

  def searched(machine)
    visit "/job/#{machine}/plan"
    click_on 'Search'
  end

  # Every machine of the demo: the best plan, or what stands in its way.
  def test_the_others_are_planned
    { 'dunlin250' => '[data-testid=stuck]', 'ptarmigan550' => '[data-testid=stuck]', 'bracken420' => '[data-testid=stuck]',
      'curlew1100' => '[data-testid=shown] b.num' }.each do |machine, answer|
      searched machine
      assert_selector answer, text: /\w/, wait: SEARCH_S
      click_on 'Stop' if has_button?('Stop', wait: 0)
    end
  end

  # The owner is shown two plans, says yes to one, which is taken, ordered, and comes in part.
  def test_quoted_accepted_ordered_and_come_in_part
    searched 'wren125'
    assert_selector '[data-testid=plan-status]', text: 'proved best of', wait: SEARCH_S
    assert_selector '[data-testid=front] [data-plan]', minimum: 4, wait: SEARCH_S
    best = find('[data-testid=shown] b.num').text
    all('[data-testid=front] [data-plan]').last.click
    click_on 'Compare'
    assert_equal (document('wren125')['quotes'] || []).size, 0
    find('[data-testid=make-quote]').click
    assert_selector '[data-testid=quote] [data-total]', count: 2
    assert_includes all('[data-total] b').map(&:text), best, 'what the search said is what is offered'
    enter "/quotes/#{document('wren125')['quotes'].first['id']}/intro", 'Before the dark season.'
    within('[data-testid=quote]') do
      assert_selector '[data-accept="Plan 1"]:disabled'
      fill_in 'accepted by', with: 'Osk Tarn'
      find('[data-accept="Plan 1"]').click
    end
    assert_selector '[data-testid=quote-state]', text: 'Plan 1 accepted by Osk Tarn'
    assert_text 'Plan 1 was accepted and is not taken yet'
    find('[data-testid=take-accepted]').click
    wait_until { document('wren125').dig('plan', 'taken') == document('wren125')['quotes'].first['offers'].first['key'] }
    assert_no_text 'is not taken yet'
    partly_received
  end

  def partly_received
    visit '/job/wren125/order'
    all('[data-supplier] button', text: 'Put down as ordered').first.click
    assert_selector '[data-purchase][data-state=ordered]', minimum: 2
    first, second = all('[data-purchase]').map { |row| row['data-purchase'] }
    find("[data-purchase=\"#{first}\"]").click_on 'came'
    assert_selector "[data-purchase=\"#{first}\"][data-state=received]"
    find("[data-purchase=\"#{second}\"] input").set('0')
    find("[data-purchase=\"#{second}\"]").click_on 'came short'
    assert_selector "[data-purchase=\"#{second}\"][data-state=short]", text: '0 came'
    saved!
    visit '/'
    assert_text(/#{Regexp.escape(second)} \(0 of \d+ came\)/)
    visit '/job/wren125/order'
    find("[data-purchase=\"#{second}\"]").click_on 'the rest came'
    assert_selector "[data-purchase=\"#{second}\"][data-state=received]"
    failed_under_warranty first
  end

  # It failed: what is wrong with it, and when it was sent.
  def failed_under_warranty(name)
    find("[data-warranty=\"#{name}\"] summary").click
    click_on 'It failed'
    row = -> { document('wren125')['purchases'].find { |r| r['name'] == name } }
    wait_until { (row.call['claims'] || []).any? }
    at = "/purchases/#{row.call['id']}/claims/#{row.call['claims'].first['id']}"
    enter "#{at}/defect", 'flickers when warm'
    find("[data-at=\"#{at}/sent_on\"]").set(Date.today)
    wait_until { row.call['claims'].first['sent_on'] == Date.today.iso8601 }
    visit '/'
    assert_text "#{name} (back under warranty)"
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
