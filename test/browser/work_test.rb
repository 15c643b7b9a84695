# frozen_string_literal: true

require_relative 'browser_test_case'

# The main job, on the screens.
class WorkTest < Miser::BrowserTest
  def test_from_intake_to_verdict
    visit '/'
    click_on 'New machine'
    fill_in 'Machine', with: 'Godwit 300'
    click_on 'Open a ticket'
    assert_selector 'h1', text: 'Godwit 300'
    assert_selector '[data-testid=missing]', text: 'To finish Intake'
    select 'Carburettor, one cylinder', from: 'Engine'
    assert_field 'Idle', with: '1400'
    enter '/circuits/main/alternator/rated_w', '0,2 kW'
    enter '/circuits/main/alternator/rated_rpm', '5 000'
    enter '/circuits/main/battery/capacity_ah', '8 Ah'
    select 'Headlamp', from: 'Add a lamp'
    assert_selector '[data-lamp]'
    saved!
    id = document_by_name('Godwit 300')['positions'].first['id']
    select 'HS1, 35/35 W', from: find("[data-at='/positions/#{id}/holder/base']")[:id]
    saved!
    click_link 'Budget'
    assert_selector '[data-testid=verdict]', text: /Keeps|Too close|Owes/
    assert_selector '[data-testid=next-reading]', text: 'Charging output'
    assert_selector '[data-testid=steps]', text: /as it came in.*no lamp changed yet.*no accessory wanted/m
    saved = document_by_name('Godwit 300')
    assert_equal [200, 5000, 8],
      [saved['circuits'][0]['alternator']['rated_w'], saved['circuits'][0]['alternator']['rated_rpm'],
        saved['circuits'][0]['battery']['capacity_ah']]
    assert_in_delta Miser::Budget::Budget.new(saved).line('after', 'idle_night', 'main').keeps.value, kept, 0.051
  end

  def document_by_name(name) = jobs.all.map(&:document).find { |d| d['name'] == name }

  def test_a_swap_moves_the_rail_at_once_and_undo_takes_it_back
    visit '/job/bracken420/choose/l2'
    assert_selector 'h3', text: 'Centre lamp'
    before = kept
    find('#rail-scenario').select('Cruise by night, high beam')
    assert_no_selector '[data-testid=rail-kept]', text: /\A#{before.abs}\b/
    night = kept
    click_on 'Type one in'
    part = find('[data-testid=own-part]')
    part.fill_in 'Draws', with: '1.1'
    part.fill_in 'at', with: '13.5'
    assert_selector '[data-testid=own-part] [data-at$="/amps"]'
    saved!
    after = Miser::Budget::Budget.new(document('bracken420')).line('after', 'cruise_night', 'main').keeps.value
    assert_in_delta after, kept, 0.051
    assert_operator kept, :>, night + 3
    assert_equal 'swap', document('bracken420')['choices'].find { |c| c['position_id'] == 'l2' }['action']
    while jobs.find('bracken420').back
      was = jobs.find('bracken420').revision
      find('button[aria-label=Undo]', match: :first).click
      wait_until { jobs.find('bracken420').revision > was }
    end
    assert_in_delta night, kept, 0.051
    assert_nil(document('bracken420')['choices'].find { |c| c['position_id'] == 'l2' })
  end

  def test_a_reading_one_handed_and_what_it_says
    visit '/job/dunlin250/readings/l7'
    click_on 'Enter a settled reading'
    at = "/readings/#{wait_for_reading('l7')}"
    enter "#{at}/volts", '12,4'
    enter "#{at}/amps", '330 mA'
    assert_selector '[data-testid=window]', text: 'As its rating leads one to expect'
    enter "#{at}/amps", '4'
    assert_selector '[data-testid=window]', text: 'looks like watts'
    enter "#{at}/amps", '0.33'
    find('summary', text: 'Two-voltage test').click
    enter "#{at}/second/volts", '13.9'
    enter "#{at}/second/amps", '0.352'
    assert_selector '[data-testid=law]', text: /Filament/
    click_on 'Next lamp'
    assert_selector 'h3', text: 'Dash lights'
  end

  def wait_for_reading(load)
    assert_selector '[data-testid=reading-pane] [data-at$="/volts"]'
    document('dunlin250')['readings'].find { |r| r['load_id'] == load }['id']
  end

  def test_a_series_settles
    visit '/job/bracken420/readings/l4'
    click_on 'Take a series'
    assert_selector '[data-at*="/samples/"][data-at$="/amps"]', count: 3
    fields = all('[data-at*="/samples/"][data-at$="/amps"]').map { |f| f['data-at'] }
    fields.zip(%w[1.88 1.80 1.76]).each { |at, text| enter at, text }
    assert_selector '[data-testid=advice]', text: /Keep going: up to 0\.\d+ A may still fall\. Taken now, it ends at 1\.72 ± /
    click_on 'One more'
    assert_selector '[data-at*="/samples/"][data-at$="/amps"]', count: 4
    # Its time can be typed.
    enter fields.last.sub('/amps', '/t_s'), '150'
    assert_equal 150, document('bracken420')['readings'].last['samples'][2]['t_s']
  end

  def test_every_figure_opens_its_working
    visit '/job/dunlin250/budget'
    find('[data-testid=rail-kept] button').click
    within '[data-testid=working]' do
      assert_text 'keep = earn(n)'
      click_on 'Spent'
      assert_text 'Σ duty'
      click_on 'Heated grips'
      assert_text 'Ohm’s law'
      click_on '← back'
      assert_text 'Σ duty'
    end
    press(:Escape)
    assert_no_selector '[data-testid=working]'
  end

  def test_feet_and_gauge_where_the_shop_wants_them
    visit '/shop'
    click_on 'feet, gauge'
    assert_text 'saved'
    visit '/job/wren125/readings'
    enter '/bench/lead_length_m', '3'
    enter '/bench/lead_area_mm2', '16'
    bench = document('wren125')['bench']
    assert_in_delta 0.9144, bench['lead_length_m'], 1e-6
    assert_in_delta 1.309, bench['lead_area_mm2'], 1e-3
    visit '/job/wren125/readings'
    assert_equal(%w[3 16], %w[/bench/lead_length_m /bench/lead_area_mm2].map { |at| field(at).value })
  end

  def test_the_slider_moves_the_earning_end
    visit '/job/dunlin250/budget'
    slow = kept
    page.execute_script("const s = document.querySelector('.rail-speed'); s.value = 4000; s.dispatchEvent(new Event('input'))")
    assert_selector '[data-testid=rail-rpm]', text: '4000'
    expected = Miser::Budget::Budget.new(document('dunlin250')).then do |b|
      b.ledgers('after')['main'].circuit.curve.amps(4000,
        13.9) - b.line(
          'after', 'idle_night', 'main'
        ).spends.value
    end
    assert_in_delta expected, kept, 0.051
    click_on 'scenario’s speed'
    assert_in_delta slow, kept, 0.051
  end

  def test_a_table_comes_in_by_preview
    visit '/job/wren125/readings'
    click_on 'Take in CSV'
    click_on 'Loads', exact: true
    path = File.join(@folder, 'loads.csv')
    File.write(path, "name,group,role,base\nSpare plate lamp,lamp,plate,W5W\nBad,lamp,plate,Q1\n")
    attach_file 'table-file', path
    assert_selector '[data-testid=csv-preview] tr', text: 'is not known'
    refute(document('wren125')['loads'].any? { |l| l['name'] == 'Spare plate lamp' })
    click_on 'Take in the 1 good rows, leave the bad out'
    assert_text 'Spare plate lamp'
  end

  def test_the_hand_over_sheet_is_one_page
    %w[wren125 dunlin250 ptarmigan550 bracken420 curlew1100].each do |id|
      visit "/job/#{id}/hand-over"
      assert_selector 'article', text: 'The rider must know'
      path = File.join(@folder, "#{id}.pdf")
      page.driver.browser.pdf(path: path, prefer_css_page_size: true)
      assert_match(/^Pages:\s+1$/, IO.popen(['pdfinfo', path], &:read), id)
      text = IO.popen(['pdftotext', '-layout', path, '-'], &:read)
      assert_match(/before/, text)
      refute_match(/bay board/, text)
    end
  end
end
