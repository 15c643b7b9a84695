# frozen_string_literal: true

require_relative 'browser_test_case'

# The shop's own shelf: found, added, edited, retired, taken in as a table.
class ShelfTest < Miser::BrowserTest
  def parts = Miser::Store::Parts.new(@database)

  def test_a_part_added_edited_copied_and_retired
    visit '/shelf'
    count = parts.all.size
    click_on 'New part'
    assert_selector "input:focus[value='New part']"
    field('/part/name').set('Tarn LED, H4 base')
    field('/part/base').select('H4 (9003)')
    part = nil
    wait_until { (part = parts.all.find { |p| p['name'] == 'Tarn LED, H4 base' }) && part['base'] == 'H4' }
    figure = "/part/functions/#{part['functions'][0]['id']}/figures/#{part['functions'][0]['figures'][0]['id']}"
    field("#{figure}/amps").set('zwölf')
    assert_selector '[role=alert]', text: 'Accepted'
    field("#{figure}/amps").set('1.80')
    field('/part/price_cents').set('31,50')
    wait_until { parts.find(part['id']).then { |p| p['price_cents'] == 3150 && p['functions'][0]['figures'][0]['amps'].to_s == '1.8' } }
    assert_equal '1.80', field("#{figure}/amps").value, 'as it was typed'
    click_on 'Copy'
    assert_selector 'h2', text: 'Tarn LED, H4 base, copy'
    assert_equal count + 2, parts.all.size
    click_on 'Retire'
    assert_selector 'button', text: 'Offer it again'
    assert_no_selector 'ol button', text: 'copy'
    find('label', text: 'retired ones too').click
    assert_selector 'ol button', text: 'copy'
    visit '/job/dunlin250/choose/l1'
    assert_selector '[data-testid=options] tr', text: 'Tarn LED, H4 base'
    assert_no_selector '[data-testid=options] tr', text: 'copy'
    visit "/shelf/#{part['id']}"
    click_on 'Take it off the shelf'
    assert_text 'was taken off the shelf'
    click_on 'Bring it back'
    assert_selector 'h2', text: 'Tarn LED, H4 base'
  end

  # What is held against a lamp, and put on the shelf from there.
  def test_parts_are_held_against_each_other_and_one_typed_in_goes_on_the_shelf
    visit '/job/bracken420/choose/l2'
    click_on 'the whole shelf'
    find("button[aria-label='Hold Spark LED fog-lamp bulb against it']").click
    find("button[aria-label='Hold Rack bar, short against it']").click
    assert_selector '[data-testid=tried] tbody tr', count: 2
    saved!
    assert_empty(document('bracken420')['choices'].select { |c| c['position_id'] == 'l2' && c['action'] == 'swap' })
    click_on 'Type one in'
    assert_selector '[data-testid=own-part] input:focus'
    fill_in 'Part', with: 'Own lamp'
    saved!
    click_on 'Put it on the shelf'
    wait_until { parts.all.any? { |p| p['name'] == 'Own lamp' } }
    find("button[aria-label='Fit Rack bar, short']").click
    saved!
    now = document('bracken420')['choices'].select { |c| c['position_id'] == 'l2' }.to_h { |c| [c['part']['name'], c['action']] }
    assert_equal({ 'Spark LED fog-lamp bulb' => 'try', 'Rack bar, short' => 'swap', 'Own lamp' => 'try' }, now)
  end

  def test_the_starter_shelf_is_thrown_away_and_stays_away
    visit '/shelf'
    Miser::Cli::DemoData.shelf(@database, Miser::Store::Shop.new(@database))
    click_on 'Throw them away'
    assert_text 'The shelf is empty'
    Miser::Cli::DemoData.shelf(@database, Miser::Store::Shop.new(@database))
    assert_empty parts.all
    visit '/job/dunlin250/choose/l1'
    assert_text 'Nothing on the shelf goes in here'
  end

  def test_a_table_is_looked_over_before_it_comes_in
    visit '/shelf'
    File.write(path = File.join(@folder, 'parts.csv'), "name,base,does,amps,at volts,price,pack\nMere LED,R10W,signal,\"0,12\",13.5,9.90,2\nBad,Q9,signal,1,13,1,1\n")
    click_on 'Take in CSV'
    attach_file 'table-file', path
    assert_selector '[data-testid=csv-preview] tr', text: 'H4, HS1'
    refute(parts.all.any? { |p| p['name'] == 'Mere LED' })
    click_on 'Take in the 1 good rows, leave the bad out'
    assert_selector 'ol button', text: 'Mere LED'
    assert_equal([990, 2, 0.12], parts.all.find do |p|
      p['name'] == 'Mere LED'
    end.then { |p| [p['price_cents'], p['pack'], p['functions'][0]['figures'][0]['amps']] })
  end

  def test_a_picture_of_a_part
    visit '/shelf/p-heron-7'
    File.binwrite(path = File.join(@folder, 'p.jpg'), IO.popen(['cjpeg'], 'r+b') do |io|
      io.write("P6\n40 30\n255\n#{"\xC0\x20\x20".b * 1200}")
      io.close_write
      io.read
    end)
    attach_file 'Picture of Heron 7 inch projector unit', path, make_visible: true
    assert_selector 'img[alt="Heron 7 inch projector unit"]'
    wait_until { page.evaluate_script("document.querySelector('img').naturalWidth") == 40 }
  end
end
